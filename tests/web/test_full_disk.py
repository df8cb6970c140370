"""A full disk: files are refused while there still is room for edits, and what finds none says so."""

import errno
import random
import shutil
import sqlite3
from contextlib import contextmanager
from types import SimpleNamespace

import pytest
from django.db import connection

from tests.web.conftest import arrive, change, file, signed_in
from ypsil.web import full_disk
from ypsil.web.gather import arrivals
from ypsil.web.gather.models import Arrival, Blob, Table

CHANCE = random.Random(1)
LARGE = "Id,Name\n" + "".join(f"{row},{CHANCE.getrandbits(200):x}\n" for row in range(30_000))


@contextmanager
def full_database():
    """Let the database grow no more, as on a full disk (SQLITE_FULL)."""
    with connection.cursor() as cursor:
        (pages,) = cursor.execute("PRAGMA page_count").fetchone()
        (most,) = cursor.execute("PRAGMA max_page_count").fetchone()
        cursor.execute(f"PRAGMA max_page_count = {pages + 2}")
        yield
        cursor.execute(f"PRAGMA max_page_count = {most}")


@pytest.fixture
def free(monkeypatch):
    """Say how many bytes the disk has left."""

    def say(size):
        monkeypatch.setattr(shutil, "disk_usage", lambda _: SimpleNamespace(free=size))

    return say


def test_a_file_is_refused_where_it_would_leave_no_room_for_edits(owner, report, free, settings):
    free(settings.LEAST_FREE_BYTES + 1_000_000)
    reply = owner.post("/tables/new/", {"file": file(LARGE, "large.csv"), "name": "Large"})
    assert reply.status_code == 422 and "nearly full" in reply.content.decode()
    assert not Table.objects.filter(name="Large").exists()
    assert change(owner, report, {"type": "rename", "title": "Kept"}).status_code == 200


def test_an_import_in_the_background_that_finds_no_room_says_so(
    owner, free, monkeypatch, django_capture_on_commit_callbacks
):
    found = {}

    def read_meanwhile(*given, **more):
        # Somebody else took the room while it was read.
        free(0)
        found["read"] = True
        return read_apart(*given, **more)

    read_apart = arrivals.read_apart
    monkeypatch.setattr(arrivals, "read_apart", read_meanwhile)
    with django_capture_on_commit_callbacks(execute=True):
        arrival = arrive(owner, LARGE, name="large.csv")
    arrival.refresh_from_db()
    assert found and arrival.state == Arrival.State.FAILED
    assert "nearly full" in arrival.message and "nothing was changed" in arrival.message
    assert not Table.objects.filter(name="large").exists()
    assert "nearly full" in owner.get(f"/arrivals/{arrival.uid}/").content.decode()


@pytest.mark.parametrize("accept", ["text/html", "application/json"])
@pytest.mark.django_db(transaction=True)
def test_a_database_without_room_is_said_and_nothing_is_kept(accept):
    person = signed_in("ann")
    before = Blob.objects.count()
    with full_database():
        reply = person.post(
            "/tables/new/", {"file": file(LARGE[:900_000], "large.csv"), "name": "L"}, headers={"accept": accept}
        )
    assert reply.status_code == 507 and "disk is full" in reply.content.decode()
    assert Blob.objects.count() == before
    assert person.post("/tables/new/", {"file": file(), "name": "L"}).status_code == 302, "with room it goes on"


def test_what_a_full_disk_is():
    full = sqlite3.OperationalError("full")
    full.sqlite_errorcode = sqlite3.SQLITE_FULL
    wrapped = ValueError()
    wrapped.__cause__ = full
    assert full_disk.is_disk_full(full) and full_disk.is_disk_full(wrapped)
    assert full_disk.is_disk_full(OSError(errno.ENOSPC, "no space"))
    assert not full_disk.is_disk_full(OSError(errno.EACCES, "closed")) and not full_disk.is_disk_full(ValueError())
