"""Tiles that start from a few typed numbers."""

import json

import pytest

from tests.web.conftest import change
from ypsil.core.tables.typed_cells import as_text, cells_of, turned
from ypsil.web.gather.models import Table

TEXT = "Branch\tVisits\nAlder Lane\t120\nBook bus\t45"


def post(client, report, path, text):
    return client.post(f"/reports/{report.uid}/{path}", json.dumps({"text": text}), content_type="application/json")


@pytest.fixture
def typed(owner, report):
    """A report with a tile typed at it; returns the tile's id."""
    report.refresh_from_db()
    band = report.read().bands[0].id
    edit = post(owner, report, f"bands/{band}/numbers/", TEXT).json()["edit"]
    edit["tile"]["id"] = "t1"
    assert change(owner, report, edit).status_code == 200
    return "t1"


def table_of(report, tile):
    report.refresh_from_db()
    return Table.objects.get(uid=report.read().tile(tile).table)


def test_typed_numbers_become_a_table_that_gather_shows(owner, report, typed):
    table = table_of(report, typed)
    assert table.name == "Numbers for Visits of the spring"
    page = owner.get(f"/tables/{table.uid}/").content.decode()
    assert "Numbers for Visits of the spring" in page
    margin = owner.get(f"/reports/{report.uid}/tiles/{typed}/").content.decode()
    assert 'aria-label="Row 1, column 1" value="Alder Lane"' in margin
    assert 'aria-label="Row 1, column 2" value="120"' in margin


def test_a_second_one_has_a_name_of_its_own(owner, report, typed):
    band = report.read().bands[0].id
    assert post(owner, report, f"bands/{band}/numbers/", "3\n4").status_code == 200
    assert Table.objects.filter(name="Numbers for Visits of the spring (2)").exists()


def test_the_drawing_follows_each_keystroke_and_nothing_is_kept(owner, report, typed):
    before = table_of(report, typed).versions.count()
    drawn = post(owner, report, f"tiles/{typed}/drawn/", TEXT.replace("120", "999")).json()["svg"]
    assert "999" in drawn
    assert table_of(report, typed).versions.count() == before


def test_what_is_typed_is_kept_as_the_next_version(owner, report, typed):
    reply = post(owner, report, f"tiles/{typed}/kept/", TEXT.replace("120", "999"))
    assert reply.status_code == 200
    assert "999" in reply.json()["page"]
    assert table_of(report, typed).versions.count() == 2


def test_other_names_change_the_tile_with_the_table(owner, report, typed):
    reply = post(owner, report, f"tiles/{typed}/kept/", "Place\tLoans\nMarket Square\t7\nElmstow\t3")
    assert reply.status_code == 200
    table = table_of(report, typed)
    assert table.held is None
    assert report.read().tile(typed).question.measures[0].column == "Loans"
    assert "Market Square" in reply.json()["page"]


def test_rows_and_columns_are_swapped(owner, report, typed):
    text = post(owner, report, f"tiles/{typed}/turned/", TEXT).json()["text"]
    assert text == "Branch\tAlder Lane\tBook bus\nVisits\t120\t45"
    assert as_text(turned(cells_of(text))) == TEXT


@pytest.mark.parametrize(("text", "said"), [("", "no numbers yet"), ("Alder Lane", "names but no numbers")])
def test_nothing_to_draw_is_said(owner, report, typed, text, said):
    for path in (f"tiles/{typed}/drawn/", f"tiles/{typed}/kept/"):
        reply = post(owner, report, path, text)
        assert reply.status_code == 422
        assert said in reply.json()["message"]


def test_a_tile_of_a_file_is_not_typed_over(owner, report):
    for path in ("drawn", "kept", "turned"):
        assert post(owner, report, f"tiles/c1/{path}/", TEXT).status_code == 404


def test_others_reach_none_of_it(other, stranger, owner, report, typed):
    band = report.read().bands[0].id
    for path in (f"bands/{band}/numbers/", f"tiles/{typed}/drawn/", f"tiles/{typed}/kept/", f"tiles/{typed}/turned/"):
        assert post(other, report, path, TEXT).status_code == 404
        assert post(stranger, report, path, TEXT).status_code in (302, 404)
