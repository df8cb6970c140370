"""Moments of a report: kept with a picture, looked at, brought back as a change like any other."""

import io

import pytest
from PIL import Image

from tests.web.conftest import change
from ypsil.web.compose import moments
from ypsil.web.compose.models import Moment, Report


@pytest.fixture
def kept(owner, report):
    owner.post(f"/reports/{report.uid}/moments/", {"name": " Sent  to the board "}, content_type="application/json")
    return report.moments.get()


def test_a_moment_has_a_name_and_a_picture_of_the_whole_page(owner, report, kept):
    assert (kept.name, kept.number) == ("Sent to the board", report.revision)
    answer = owner.get(f"/reports/{report.uid}/moments/{kept.uid}.png")
    with Image.open(io.BytesIO(answer.content)) as picture:
        assert picture.format == "PNG" and 470 <= picture.width <= 490
        # Something is drawn on it.
        assert len(picture.convert("RGB").getcolors(1 << 20)) > 20
    page = owner.get(f"/reports/{report.uid}/history/").content.decode()
    assert "Sent to the board" in page and f"moments/{kept.uid}.png" in page


def test_bringing_a_moment_back_is_a_change_that_can_be_undone(owner, report, kept):
    before = report.read_document()
    band = report.read().bands[0].id
    change(owner, report, {"type": "remove_tile", "tile": "c1"})
    change(owner, report, {"type": "add_band", "band": {"id": "more", "message": "More"}})
    change(owner, report, {"type": "rename", "title": "Another name"})
    change(owner, report, {"type": "set_message", "band": band, "message": "Another message"})
    changed = Report.objects.get(pk=report.pk)
    answer = owner.post(f"/reports/{report.uid}/moments/{kept.uid}/back/", {}, content_type="application/json").json()
    now = Report.objects.get(pk=report.pk)
    assert now.read_document() == before
    assert (now.revision, answer["did"]) == (changed.revision + 1, "Brought back: Sent to the board")
    owner.post(f"/reports/{report.uid}/undo/")
    assert Report.objects.get(pk=report.pk).read_document() == changed.read_document()


def test_bringing_back_what_is_there_already_changes_nothing(owner, report, kept):
    answer = owner.post(f"/reports/{report.uid}/moments/{kept.uid}/back/", {}, content_type="application/json").json()
    assert "already as it was" in answer["did"]
    assert Report.objects.get(pk=report.pk).revision == report.revision


def test_a_moment_that_is_forgotten_leaves_the_report_as_it_is(owner, report, kept):
    page = owner.post(f"/reports/{report.uid}/moments/{kept.uid}/forgotten/").content.decode()
    assert "Sent to the board" not in page and not Moment.objects.exists()
    assert Report.objects.get(pk=report.pk).document == report.document


def test_a_moment_without_a_name_is_called_by_its_time_and_a_long_one_is_shortened(owner, report):
    for name in ("", "x" * 300, 5, None):
        answer = owner.post(f"/reports/{report.uid}/moments/", {"name": name}, content_type="application/json")
        assert answer.status_code == 200
    names = {moment.name for moment in report.moments.all()}
    assert "x" * 80 in names and any(":" in name for name in names)


def test_an_empty_page_is_kept_without_a_picture_and_says_so(owner, report):
    change(owner, report, {"type": "clear_page"})
    owner.post(f"/reports/{report.uid}/moments/", {"name": "Nothing yet"}, content_type="application/json")
    kept = report.moments.get()
    assert owner.get(f"/reports/{report.uid}/moments/{kept.uid}.png").status_code == 404
    page = owner.get(f"/reports/{report.uid}/history/").content.decode()
    assert "<img" not in page and "An empty page" in page


def test_there_is_an_end_to_moments_said_in_words(owner, report, monkeypatch):
    monkeypatch.setattr(moments, "MOST_MOMENTS", 2)
    for name in "abc":
        page = owner.post(f"/reports/{report.uid}/moments/", {"name": name}, content_type="application/json")
    assert "at most 2 moments" in page.content.decode()
    assert report.moments.count() == 2
