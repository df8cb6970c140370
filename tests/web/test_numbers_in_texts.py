"""The numbers in a text: shown beside it as small tables, and drawn at a press."""

import json
import re

import pytest

from tests.web.conftest import change
from ypsil.core.tiles import as_visual
from ypsil.web.compose.edits import create_report
from ypsil.web.compose.models import Report
from ypsil.web.compose.numbers_in_texts import numbers_shown
from ypsil.web.gather.models import Table

pytestmark = pytest.mark.django_db
TEXT = (
    "Loans rose from 120 in April to 180 in May. 41 per cent came on foot, 29 per cent by bus and 30 per cent by car."
)


@pytest.fixture
def told(owner):
    """A report with a text in it, whose tile is ``t1`` in the band ``b1``."""
    report = create_report(owner.user, "What we saw")
    tile = {"type": "text", "id": "t1", "role": "body", "text": TEXT}
    change(owner, report, {"type": "add_band", "band": {"id": "b1", "message": "", "tiles": [tile]}})
    report.refresh_from_db()
    return report


def test_each_group_is_a_small_table_with_several_looks():
    shown, more = numbers_shown(TEXT)
    assert more == 0 and [one.says for one in shown] == ["A change", "Parts of a whole"]
    assert shown[0].cells == [["What", "Number"], ["April", "120"], ["May", "180"]]
    assert shown[1].cells[1:] == [["came on foot", "41%"], ["by bus", "29%"], ["by car", "30%"]]
    assert all(len(one.looks) >= 2 and all("<svg" in look.drawing for look in one.looks) for one in shown)


def test_units_and_shares_are_written_as_they_are_typed():
    shown, _ = numbers_shown("It cost £3.5m. Two thirds of the loans were renewed. It took 14 minutes.")
    assert [one.cells for one in shown] == [
        [["What", "Number"], ["It cost", "£3500000"]],
        [["What", "Number"], ["the loans", "66.67%"]],
        [["What", "min"], ["It took", "14"]],
    ]


def test_hundreds_of_numbers_are_told_by_their_number():
    shown, more = numbers_shown(" ".join(f"There are {n} chairs in it." for n in range(2, 102)))
    assert len(shown) == 12 and more == 88


def test_the_margin_shows_them_and_a_look_becomes_a_tile(owner, told):
    margin = owner.get(f"/reports/{told.uid}/tiles/t1/").content.decode()
    assert "Show what it tells: 2" in margin and 'data-as="donut"' in margin
    typed = "What\tNumber\ncame on foot\t41%\nby bus\t29%\nby car\t30%"
    address = f"/reports/{told.uid}/bands/b1/numbers/"
    reply = owner.post(address, json.dumps({"text": typed, "visual": "donut"}), content_type="application/json")
    edit = reply.json()["edit"]
    assert edit["tile"]["visual"] == "donut" and edit["tile"]["title"] == ""
    change(owner, told, edit)
    report = Report.objects.get()
    assert [tile.visual for tile in map(as_visual, report.read().tiles()) if tile] == ["donut"]
    assert report.read().tile("t1").plain == TEXT, "the text stays"
    assert Table.objects.get().current.file_name


def test_a_look_that_does_not_suit_what_was_corrected_gives_way_to_one_that_does(owner, told):
    address = f"/reports/{told.uid}/bands/b1/numbers/"
    body = json.dumps({"text": "What\tNumber\na\t1\nb\t2", "visual": "sonnet"})
    reply = owner.post(address, body, content_type="application/json")
    assert reply.status_code == 200 and reply.json()["edit"]["tile"]["visual"] != "sonnet"


def test_steps_and_dates_of_a_text_are_tiles_to_add(owner):
    report = create_report(owner.user, "How to")
    text = "First collect leaves. Then dry them. Finally press them. In 1901 we opened. In 1950 we moved."
    tile = {"type": "text", "id": "t1", "role": "body", "text": text}
    change(owner, report, {"type": "add_band", "band": {"id": "b1", "message": "", "tiles": [tile]}})
    margin = owner.get(f"/reports/{report.uid}/tiles/t1/").content.decode()
    assert "Add these steps" in margin and "Add a timeline" in margin
    for name, heads in (
        ("steps", ["Collect leaves", "Dry them", "Press them"]),
        ("timeline", ["we opened", "we moved"]),
    ):
        edit = next(
            json.loads(found.replace("&quot;", '"'))
            for found in re.findall(r'data-edit="([^"]*)"', margin)
            if f"&quot;type&quot;: &quot;{name}&quot;" in found
        )
        report.refresh_from_db()
        change(owner, report, edit)
        added = next(tile for tile in Report.objects.get().read().tiles() if tile.type == name)
        assert [entry.head for entry in added.entries] == heads
    assert Report.objects.get().read().tile("t1").plain == text
