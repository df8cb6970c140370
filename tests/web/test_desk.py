"""The desk with many reports and tables: few queries, pictures drawn once and anew when what they show changes."""

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.factories import VISITS
from tests.web.conftest import arrive, change
from ypsil.web.compose import miniatures
from ypsil.web.compose.edits import apply_edit, create_report
from ypsil.web.compose.models import Miniature

MOST_QUERIES = 12


def queries(client, address):
    with CaptureQueriesContext(
        connection,
    ) as seen:
        assert client.get(address).status_code == 200
    return len(seen)


@pytest.fixture
def drawn(monkeypatch):
    """The reports whose small picture was drawn, one after the other."""
    found = []
    work = miniatures._drawn
    monkeypatch.setattr(miniatures, "_drawn", lambda report, key: found.append(report.pk) or work(report, key))
    return found


def test_the_desk_asks_few_questions_however_much_stands_on_it(owner, report):
    for place in range(4):
        table = arrive(owner, name=f"more {place}.csv").table
        made = create_report(owner.user, f"Report {place}")
        tile = report.read().tile("c1").model_dump(mode="json") | {"id": f"d{place}", "table": table.uid}
        apply_edit(made.pk, owner.user, {"type": "add_tile", "band": made.read().bands[0].id, "tile": tile}, 0)
    owner.get("/")
    assert queries(owner, "/") <= MOST_QUERIES


def test_pictures_on_the_desk_are_drawn_once_and_anew_when_what_they_show_changes(owner, report, table, drawn):
    other = create_report(owner.user, "Without a table")
    owner.get("/")
    owner.get("/")
    assert sorted(drawn) == sorted([report.pk, other.pk])
    drawn.clear()
    change(owner, report, {"type": "rename", "title": "Renamed"})
    owner.get("/")
    assert drawn == [report.pk]
    arrive(owner, VISITS.replace("120", "1200"), table)
    before = Miniature.objects.get(report=report).markup
    owner.get("/")
    assert drawn == [report.pk, report.pk]
    assert Miniature.objects.get(report=report).markup != before


@pytest.mark.parametrize("place", ["", "margin/", "tiles/c1/", "preview/", "publish/", "proof/"])
def test_no_screen_of_a_report_asks_many_questions(owner, report, place):
    address = f"/reports/{report.uid}/{place}"
    owner.get(address)
    assert queries(owner, address) <= MOST_QUERIES
