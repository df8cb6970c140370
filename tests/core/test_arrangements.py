"""Ready-made bands: filled from tables where these have what belongs there, else places that say what does."""

from itertools import combinations

import pytest

from tests.factories import csv_table, report_table
from ypsil.core.document.grid import overlap
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.export import page_to_svg
from ypsil.core.proof import findings_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.report.arrangements import ARRANGEMENTS, Finder
from ypsil.core.tables.profile import profile
from ypsil.core.tiles import SpotTile, TextTile, VisualTile


@pytest.fixture(scope="module")
def visits():
    table = csv_table()
    return report_table(table), profile(table.frame, table.columns)


@pytest.fixture(scope="module")
def filled(visits):
    find = Finder([("t", *visits)])
    return {name: one.made(find, PAGE_FORMATS["tall"].page) for name, one in ARRANGEMENTS.items()}


def test_there_are_at_least_twenty_by_what_they_say():
    assert len(ARRANGEMENTS) >= 20
    assert len({one.label for one in ARRANGEMENTS.values()}) == len(ARRANGEMENTS)
    assert all(one.says.endswith(".") for one in ARRANGEMENTS.values())


@pytest.mark.parametrize("name", ARRANGEMENTS)
@pytest.mark.parametrize("page", ["tall", "a4", "slide-4x3", "post-square"])
def test_on_every_page_nothing_overlaps_or_leaves_it(name, page):
    format_ = PAGE_FORMATS[page].page
    band = ARRANGEMENTS[name].made(Finder([]), format_)
    report = ReportBody(title="Made", page=format_, bands=(band,))
    found = [view.place for view in compose(report, {}).tiles()]
    assert not any(overlap(one, other) for one, other in combinations(found, 2))


@pytest.mark.parametrize("name", ARRANGEMENTS)
def test_a_band_is_drawn_from_a_table_and_says_nothing_of_its_own(name, filled, visits):
    band = filled[name]
    page = compose(ReportBody(title="Made", bands=(band,)), {"t": visits[0]})
    assert page.problems() == []
    # Words in it are the author's to say: only numbers of steps and the names of sides stand there before.
    texts = {tile.text for tile in band.tiles if isinstance(tile, TextTile)} - {""}
    assert texts <= {"1", "2", "3", "4", "Before", "After", "Worth attention"}


def test_a_table_fills_what_it_has_and_nothing_is_said_twice(filled):
    three = [tile for tile in filled["three-figures"].tiles if isinstance(tile, VisualTile)]
    assert len({tile.question.digest() for tile in three}) == len(three) >= 2
    assert isinstance(filled["figure-and-chart"].tiles[1], VisualTile)
    assert filled["figure-and-chart"].tiles[1].visual in ("line", "area", "column")


def test_what_no_table_has_is_a_place_that_says_so_to_its_author_alone():
    band = ARRANGEMENTS["cloud-and-words"].made(Finder([]), PAGE_FORMATS["tall"].page)
    spots = [tile for tile in band.tiles if isinstance(tile, SpotTile)]
    assert [tile.hints() for tile in spots] == ["The cloud", "The words counted"]
    drawn = page_to_svg(compose(ReportBody(title="Made", bands=(band,)), {}))
    assert "cloud" not in drawn and "What do they write about?" not in drawn


def test_what_is_chosen_for_a_place_stands_there_on_its_card(visits):
    band = ARRANGEMENTS["three-figures"].made(Finder([]), PAGE_FORMATS["tall"].page)
    report = ReportBody(title="Made", bands=(band,))
    spot = band.tiles[1]
    wanted = Finder([("t", *visits)])(ARRANGEMENTS["three-figures"].parts[0], set())
    put = parse_edit({"type": "put_instead", "instead": spot.id, "tile": wanted.model_dump(mode="json")}).apply(report)
    there = put.bands[0].tiles[1]
    assert (there.visual, there.place, there.card) == ("kpi", spot.place, spot.card)


def test_the_proof_names_the_places_that_are_still_kept():
    band = ARRANGEMENTS["cloud-and-words"].made(Finder([]), PAGE_FORMATS["tall"].page)
    found = findings_of(compose(ReportBody(title="Made", bands=(band,)), {}))
    said = [one.said for one in found if "kept for" in one.said]
    assert said[0] == "A place kept for: The cloud. Readers see nothing there." and len(said) == 2
