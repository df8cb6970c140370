"""Taking in files: all of it or nothing."""

import asyncio
import threading

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection

from tests.factories import VISITS, workbook_bytes
from tests.web.conftest import arrive, file
from tests.web.conftest import change as change_report
from ypsil.core.errors import UnreadableFile
from ypsil.web.asgi import BodyGuard
from ypsil.web.gather import arrivals, preparing
from ypsil.web.gather.models import Arrival, Blob, Table, Version
from ypsil.web.gather.recipes import change

UNTIDY = 'Brackenshire,,\nBranch,Visits,Cost\nAlder,"1,204",£3\nElm,n/a,£5\nTotal,1204,£8\n'


def run_alone(work):
    """Run in a thread of its own: the browser's library leaves a loop running in this one."""
    thread = threading.Thread(target=asyncio.run, args=(work,))
    thread.start()
    thread.join(timeout=10)
    assert not thread.is_alive()


def upload(client, upload_file, address="/tables/new/", **fields):
    return client.post(address, {"file": upload_file, **fields}, follow=True)


def test_the_table_page_shows_rows_kinds_and_what_was_noticed(owner):
    page = upload(owner, file(UNTIDY, "branches_2026-03.csv")).content.decode()
    for text in (
        "branches",
        "total-row",
        "header-not-first",
        "missing-codes",
        "numbers-as-text",
    ):
        assert text in page
    assert "Row 5 of the file" in page
    shown = owner.get(f"/tables/{Table.objects.get().uid}/rows/?columns=1").json()
    assert shown["rows"] == [
        {"n": 1, "c0": "Alder", "c1": "1,204", "c2": "3"},
        {"n": 2, "c0": "Elm", "c1": None, "c2": "5"},
    ]
    assert [(head["name"], head["unit"]) for head in shown["columns"]] == [
        ("Branch", ""),
        ("Visits", ""),
        ("Cost", "£"),
    ]


def test_a_workbook_is_taken_in(owner):
    data = workbook_bytes(["Branch", "Visits"], ["Alder", 3], ["Elm", 4])
    page = upload(owner, SimpleUploadedFile("v.xlsx", data)).content.decode()
    assert "version 1 from v.xlsx" in page


def test_the_uploaded_file_comes_back_byte_for_byte_as_a_download(owner, table):
    reply = owner.get(f"/tables/{table.uid}/versions/1/file/")
    assert reply.content == VISITS.encode()
    assert reply.headers["Content-Disposition"].startswith("attachment")
    assert reply.headers["Content-Type"] == "application/octet-stream"


def test_a_newer_file_is_the_next_version_and_the_first_stays(owner, table):
    upload(owner, file(VISITS.replace("120", "999"), "visits_new.csv"), f"/tables/{table.uid}/newer/")
    assert [version.number for version in table.versions.all()] == [2, 1]
    assert "999" in owner.get(f"/tables/{table.uid}/rows/").content.decode()
    assert "999" not in owner.get(f"/tables/{table.uid}/rows/?version=1").content.decode()


def test_rows_come_in_pages_sorted_filtered_and_searched(owner):
    rows = "".join(f"b{index},{index % 7}\n" for index in range(500))
    upload(owner, file("Branch,Visits\n" + rows, "many.csv"))
    address = f"/tables/{Table.objects.get().uid}/rows/"

    def asked(query):
        reply = owner.get(address + query).json()
        return reply["total"], [row["n"] for row in reply["rows"][:3]]

    assert asked("") == (500, [1, 2, 3])
    assert asked("?start=498") == (500, [499, 500])
    assert asked("?sort=c1&dir=desc") == (500, [7, 14, 21])
    assert asked("?find=B49") == (11, [50, 491, 492])
    assert asked("?c1=> 5") == (71, [7, 14, 21])
    assert asked("?c1=missing") == (0, [])
    assert asked("?c0=b499&c9=x&sort=c9&start=-1&count=zero") == (1, [500])


@pytest.mark.parametrize(
    ("bad", "message"),
    [
        (SimpleUploadedFile("a.csv", b""), "submitted file is empty|no file was chosen|empty"),
        (SimpleUploadedFile("a.csv", b"Branch,Visits\n"), "no rows under it"),
        (SimpleUploadedFile("a.pdf", b"%PDF-1.7"), "Files of this kind are not read"),
        (SimpleUploadedFile("a.xlsx", b"PK\x03\x04broken"), "broken"),
        (SimpleUploadedFile("a.csv", b"\x00\x01\x02"), "not a text file"),
    ],
)
def test_a_bad_file_gets_a_clear_message_and_leaves_nothing(owner, bad, message):
    reply = upload(owner, bad)
    assert reply.status_code == 422
    assert any(part in reply.content.decode() for part in message.split("|"))
    assert not (Table.objects.exists() or Version.objects.exists() or Blob.objects.exists() or Arrival.objects.exists())


def test_no_file_at_all_is_said(owner):
    assert "No file was chosen" in owner.post("/tables/new/").content.decode()


def test_a_table_name_already_taken_is_said_with_what_to_do(owner, table):
    reply = upload(owner, file())
    assert "already have a table called “visits”" in reply.content.decode()
    assert table.versions.count() == 1
    assert upload(owner, file(), name="Visits again").status_code == 200


def test_the_same_name_is_free_for_another_person(other, table):
    assert upload(other, file()).status_code == 200


def test_300_mb_are_refused_without_being_read(owner):
    big = file(name="big.csv")
    big.size = 300 * 1024 * 1024
    with pytest.raises(UnreadableFile, match="300 MB; at most 200 MB"):
        arrivals.one_file([big])
    assert not Blob.objects.exists()


def test_a_body_over_the_limit_is_answered_with_413_before_django_reads_it():
    sent, parts = [], [b"x" * 600, b"x" * 600]

    async def receive():
        return {"type": "http.request", "body": parts.pop(0), "more_body": bool(parts)}

    async def send(message):
        sent.append(message)

    async def never(*_):
        raise AssertionError("the application was called")

    scope = {"type": "http", "headers": [(b"content-length", b"1200")]}
    run_alone(BodyGuard(never, limit=1000)(scope, receive, send))
    assert sent[0]["status"] == 413
    assert b"Nothing was stored" in sent[1]["body"]


def test_a_body_that_hides_its_length_is_cut_off_at_the_limit():
    seen = []

    async def receive():
        return {"type": "http.request", "body": b"x" * 600, "more_body": True}

    async def reader(scope, receive, send):
        while not seen or seen[-1] == "http.request":
            seen.append((await receive())["type"])

    run_alone(BodyGuard(reader, limit=1000)({"type": "http", "headers": []}, receive, None))
    assert seen == ["http.request", "http.disconnect"]


@pytest.mark.django_db(transaction=True)
def test_a_larger_file_is_read_in_the_background(owner, monkeypatch):
    monkeypatch.setattr(arrivals, "READ_AT_ONCE_BYTES", 10)
    arrival = arrive(owner)
    arrival.refresh_from_db()
    assert (arrival.state, arrival.version.number, arrival.original_id) == ("done", 1, None)
    assert owner.get(f"/arrivals/{arrival.uid}/").url == f"/tables/{arrival.table.uid}/"


@pytest.mark.django_db(transaction=True)
def test_a_bad_file_read_in_the_background_ends_with_its_message_and_nothing_stored(owner, monkeypatch):
    monkeypatch.setattr(arrivals, "READ_AT_ONCE_BYTES", 5)
    arrival = arrive(owner, "Branch,Visits\n")
    assert "no rows under it" in owner.get(f"/arrivals/{arrival.uid}/").content.decode()
    assert owner.get(f"/arrivals/{arrival.uid}/state/").json()["state"] == "failed"
    assert not (Table.objects.exists() or Blob.objects.exists())


def waiting_arrival(owner):
    return Arrival.objects.create(
        owner=owner.user, name="v", file_name="v.csv", original=arrivals.keep(VISITS.encode())
    )


def test_a_waiting_file_can_be_cancelled_and_leaves_nothing(owner):
    arrival = waiting_arrival(owner)
    assert "being read in the background" in owner.get(f"/arrivals/{arrival.uid}/").content.decode()
    owner.post(f"/arrivals/{arrival.uid}/cancel/")
    arrivals.work_on.call(arrival.pk)
    assert not (Version.objects.exists() or Blob.objects.exists())


def test_a_file_cancelled_while_it_is_read_leaves_nothing(owner, monkeypatch):
    arrival = waiting_arrival(owner)
    real = arrivals.read_apart

    def slow(*arguments, **options):
        Arrival.objects.filter(pk=arrival.pk).update(state=Arrival.State.CANCELLED)
        return real(*arguments, **options)

    monkeypatch.setattr(arrivals, "read_apart", slow)
    arrivals.work_on.call(arrival.pk)
    arrival.refresh_from_db()
    assert arrival.state == "cancelled"
    assert not (Version.objects.exists() or Blob.objects.exists())


@pytest.mark.django_db(transaction=True)
def test_a_file_whose_reader_was_killed_is_read_at_the_next_start(owner):
    arrival = waiting_arrival(owner)
    Arrival.objects.update(state=Arrival.State.READING)
    arrivals.work_on.call(arrival.pk)
    assert not Version.objects.exists(), "somebody else has it in hand"
    arrivals.resume()
    arrivals.resume()
    assert Version.objects.count() == 1


def test_work_that_a_second_worker_took_up_is_left_to_it(owner, monkeypatch):
    arrival = waiting_arrival(owner)
    real = arrivals.read_apart

    def slow(*arguments, **options):
        found = real(*arguments, **options)
        # The worker was taken for ended, and another began the work again.
        Arrival.objects.filter(pk=arrival.pk).update(begun=2)
        return found

    monkeypatch.setattr(arrivals, "read_apart", slow)
    arrivals.work_on.call(arrival.pk)
    arrival.refresh_from_db()
    assert (arrival.state, arrival.original is not None) == ("reading", True), "the file stays for the other"
    assert not Version.objects.exists()


@pytest.mark.django_db(transaction=True)
def test_work_that_ended_its_worker_twice_is_set_aside_and_said(owner):
    arrival = waiting_arrival(owner)
    for begun in (1, 2):
        Arrival.objects.filter(pk=arrival.pk).update(state=Arrival.State.READING, begun=begun)
        if begun == 2:
            arrivals.resume()
    arrival.refresh_from_db()
    assert (arrival.state, arrival.original) == ("failed", None)
    assert "ended the program twice" in arrival.message and "Split" in arrival.message.title()
    assert not Version.objects.exists()


def test_an_unforeseen_failure_leaves_a_message_and_no_half_version(owner, monkeypatch):
    arrival = waiting_arrival(owner)
    monkeypatch.setattr(preparing, "frame_to_blob", lambda frame: 1 / 0)
    with pytest.raises(ZeroDivisionError):
        arrivals.work_on.call(arrival.pk)
    arrival.refresh_from_db()
    assert (arrival.state, arrival.message) == ("failed", "That could not be done. Nothing was changed.")
    assert not (Table.objects.exists() or Blob.objects.exists())


def test_a_small_file_with_very_many_columns_is_read_in_the_background(owner):
    head = ",".join(f"c{number}" for number in range(300))
    assert arrive(owner, head + "\n" + head.replace("c", "") + "\n", name="wide.csv").state == "waiting"


def test_a_wide_table_is_shown_some_columns_at_a_time(owner):
    head = ",".join(f"c{number}" for number in range(150))
    table = arrive(owner, head + "\n" + head.replace("c", "") + "\n", name="wide.csv").table
    first = owner.get(f"/tables/{table.uid}/rows/?columns=1").json()
    assert (len(first["columns"]), first["column_count"]) == (100, 150)
    later = owner.get(f"/tables/{table.uid}/rows/?columns=1&first=100&sort=c149&dir=desc").json()
    assert [head["name"] for head in later["columns"]][:1] == ["c100"]
    assert later["rows"][0]["c149"] == "149"
    assert "c99" not in later["rows"][0]


def test_a_column_says_what_it_is_as_a_question_of_a_survey(owner):
    rows = "".join(f"{food};{'Coast' if place % 2 else 'Hills'}\n" for place, food in enumerate([4, 5, 3, 2, 1] * 6))
    table = arrive(owner, "Food;Area\n" + rows, name="canteen.csv").table
    page = owner.get(f"/tables/{table.uid}/column/", {"name": "Food"}).content.decode()
    assert "As a question of a survey: a rating from 1 to 5" in page
    area = owner.get(f"/tables/{table.uid}/column/", {"name": "Area"}).content.decode()
    assert "one answer each" in area
    assert "Put its answers in order" in area


def test_what_takes_long_is_done_before_anything_is_written(owner, monkeypatch):
    """Other writers wait while a transaction is open: profiles, compression and steps are no part of it."""
    depth = len(connection.savepoint_ids)
    within = []
    for name in ("profile", "frame_to_blob", "replay"):
        work = getattr(preparing, name)

        def noted(*args, name=name, work=work):
            within.append((name, len(connection.savepoint_ids) - depth))
            return work(*args)

        monkeypatch.setattr(preparing, name, noted)
    table = arrive(owner).table
    step = {"type": "rename", "column": "Visits", "to": "Footfall"}
    change(table, owner.user, {"action": "add", "step": step})
    within.clear()
    arrive(owner, VISITS.replace("120", "121"), table)
    assert {name for name, _ in within} == {"profile", "frame_to_blob", "replay"}
    assert {level for _, level in within} == {0}


def test_the_question_about_a_held_version_comes_first_and_its_tiles_are_counted_by_report(owner, table, report):
    edit = {"type": "add_tile", "band": report.read().bands[0].id}
    for place in range(4):
        tile = report.read().tile("c1").model_copy(update={"id": f"m{place}", "place": None, "title": f"More {place}"})
        report.refresh_from_db()
        change_report(owner, report, edit | {"tile": tile.model_dump(mode="json", exclude_none=True)})
    arrive(owner, VISITS.replace("Visits", "Visitors"), table)
    page = owner.get(f"/tables/{table.uid}/held/").content.decode()
    assert page.index("Is a column called something else now?") < page.index("What goes without")
    assert "<strong>Visits of the spring</strong>: 5 tiles" in page
    assert "<details><summary>" in page, "many tiles are folded"
