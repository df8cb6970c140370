"""People, tables and reports for the web tests."""

from __future__ import annotations

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from tests.factories import VISITS, total
from ypsil.core.report import VisualTile
from ypsil.core.report.edits import AddTile
from ypsil.web.accounts.models import User
from ypsil.web.compose.edits import apply_edit, create_report
from ypsil.web.gather.arrivals import receive


def file(text: str = VISITS, name: str = "visits.csv") -> SimpleUploadedFile:
    return SimpleUploadedFile(name, text.encode())


def signed_in(name: str) -> Client:
    user, _ = User.objects.get_or_create(username=name)
    client = Client()
    client.force_login(user)
    client.user = user
    return client


@pytest.fixture(autouse=True)
def patience(monkeypatch):
    """Small files are read at once, however long that takes: shared machines stand still at times."""
    monkeypatch.setattr("ypsil.web.gather.read_apart.AT_ONCE_SECONDS", 120)


@pytest.fixture
def owner(db):
    return signed_in("owner")


@pytest.fixture
def other(db):
    return signed_in("other")


@pytest.fixture
def stranger(db):
    return Client()


def arrive(client, text=VISITS, table=None, name="visits.csv"):
    """Take a file in for a person; return its arrival."""
    if table is not None:
        table.refresh_from_db()
    return receive(client.user, name, text.encode() if isinstance(text, str) else text, table=table)


@pytest.fixture
def table(owner):
    return arrive(owner).table


@pytest.fixture
def report(owner, table):
    """A report with a headline and one column chart with the id ``c1``."""
    made = create_report(owner.user, "Visits of the spring")
    tile = VisualTile.model_validate(
        {"id": "c1", "table": table.uid, "question": total(per=[{"column": "Day", "by": "month"}]), "visual": "column"}
    )
    edit = AddTile(band=made.read().bands[0].id, tile=tile)
    return apply_edit(made.pk, owner.user, edit.model_dump(mode="json"), 0)


def change(client, report, edit, base=None):
    """Send one edit as the editor does."""
    report.refresh_from_db()
    body = {"base": report.revision if base is None else base, "edit": edit}
    address = f"/reports/{report.uid}/edits/"
    return client.post(address, body, content_type="application/json", headers={"accept": "application/json"})
