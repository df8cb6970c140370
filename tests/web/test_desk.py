"""The desk with many reports and tables: few queries, pictures drawn once and anew when what they show changes."""

import datetime as dt
import re

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from tests.factories import VISITS
from tests.web.conftest import arrive, change
from ypsil.web.compose import miniatures
from ypsil.web.compose.edits import apply_edit, create_report
from ypsil.web.compose.models import DeskVisit, Miniature, Report
from ypsil.web.compose.services import forget_resting
from ypsil.web.publish.services import set_audience

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


def look(client):
    """Look at the desk as a browser does: what is not current is asked for."""
    for address in re.findall(r'data-miniature="(.*?)"', client.get("/").content.decode()):
        assert client.get(address).content.startswith(b"<svg")


def test_pictures_on_the_desk_are_drawn_once_and_anew_when_what_they_show_changes(owner, report, table, drawn):
    other = create_report(owner.user, "Without a table")
    look(owner)
    look(owner)
    assert sorted(drawn) == sorted([report.pk, other.pk])
    drawn.clear()
    change(owner, report, {"type": "rename", "title": "Renamed"})
    look(owner)
    assert drawn == [report.pk]
    arrive(owner, VISITS.replace("120", "1200"), table)
    before = Miniature.objects.get(report=report).markup
    look(owner)
    assert drawn == [report.pk, report.pk]
    assert Miniature.objects.get(report=report).markup != before


def test_the_desk_is_there_before_its_pictures_are_drawn(owner, report, drawn):
    page = owner.get("/").content.decode()
    assert drawn == [] and f"/reports/{report.uid}/miniature/" in page
    look(owner)
    assert 'class="miniature"' in owner.get("/").content.decode()
    # What was drawn before is shown until what is new of it is there.
    change(owner, report, {"type": "rename", "title": "Renamed"})
    page = owner.get("/").content.decode()
    assert 'class="miniature"' in page and "data-miniature" in page


def test_pictures_far_down_are_asked_for_once_they_are_looked_at(owner, report, drawn, monkeypatch):
    look(owner)
    monkeypatch.setattr(miniatures, "_AT_ONCE", 1)
    create_report(owner.user, "Changed later, and so above it")
    page = owner.get("/").content.decode()
    assert 'class="miniature"' not in page and f'data-miniature="/reports/{report.uid}/miniature/"' in page
    drawn.clear()
    assert owner.get(f"/reports/{report.uid}/miniature/").content.startswith(b"<svg") and drawn == []


@pytest.mark.parametrize("place", ["", "margin/", "tiles/c1/", "preview/", "publish/", "proof/"])
def test_no_screen_of_a_report_asks_many_questions(owner, report, place):
    address = f"/reports/{report.uid}/{place}"
    owner.get(address)
    assert queries(owner, address) <= MOST_QUERIES


def do(client, report, what, **more):
    return client.post(f"/reports/{report.uid}/at-desk/", {"do": what, **more}, follow=True).content.decode()


def rows(page):
    return re.findall(r'<h2><a href="/reports/[^"]+">([^<]+)</a>', page)


def test_reports_are_found_by_name_tag_and_table_and_stand_in_the_order_that_is_chosen(owner, report):
    create_report(owner.user, "Annual look back")
    do(owner, report, "tag", tags="board,  monthly , board")
    assert rows(owner.get("/?order=name").content.decode()) == ["Annual look back", "Visits of the spring"]
    for words in ("spring", "monthly", "VISITS spring board"):
        assert rows(owner.get("/", {"q": words}).content.decode()) == ["Visits of the spring"], words
    assert "No report has “zebra”" in owner.get("/?q=zebra").content.decode()
    assert report.__class__.objects.get(pk=report.pk).tags == ["board", "monthly"]


def test_a_report_is_renamed_and_copied_from_the_desk(owner, report):
    assert "Visits of the year" in rows(do(owner, report, "rename", title="Visits of the year"))
    assert "at least 1 character" in do(owner, report, "rename", title=" ")
    assert sorted(rows(do(owner, report, "copy"))) == ["Copy of Visits of the year", "Visits of the year"]
    report.refresh_from_db()
    copy = report.__class__.objects.exclude(pk=report.pk).get()
    assert copy.document["nodes"] == report.document["nodes"] and copy.log.count() == 0


def test_a_deleted_report_rests_with_its_link_closed_and_comes_back_as_it_was(owner, other, report, client):
    link = f"/r/{set_audience(report, 'link').token}/"
    assert client.get(link).status_code == 200
    owner.post(f"/reports/{report.uid}/delete/")
    assert owner.get(f"/reports/{report.uid}/").status_code == 404 and client.get(link).status_code == 404
    page = owner.get("/").content.decode()
    assert rows(page) == [] and "resting for 30 days: 1" in page
    assert other.post(f"/reports/{report.uid}/at-desk/", {"do": "bring_back"}).status_code == 404
    assert rows(do(owner, report, "bring_back")) == ["Visits of the spring"]
    assert client.get(link).status_code == 200


def test_what_has_rested_for_30_days_goes_for_good(owner, report):
    owner.post(f"/reports/{report.uid}/delete/")
    Report.objects.update(rests_since=timezone.now() - dt.timedelta(days=29))
    forget_resting()
    assert Report.objects.count() == 1
    Report.objects.update(rests_since=timezone.now() - dt.timedelta(days=31))
    forget_resting()
    assert not Report.objects.exists()


def test_data_that_came_since_the_visit_before_is_said(owner, report, table):
    owner.get("/")
    DeskVisit.objects.update(
        latest=timezone.now() - dt.timedelta(hours=2), before=timezone.now() - dt.timedelta(days=3)
    )
    arrive(owner, VISITS.replace("120", "1200"), table)
    page = owner.get("/").content.decode()
    assert "New since your last visit: visits" in page
