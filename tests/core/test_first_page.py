"""A first page of a table: only what the table has, nothing twice, nothing that overlaps, on any format."""

from itertools import combinations

import pytest
from vega_datasets import data

from tests.factories import csv_table, report_table
from ypsil.core.document.grid import overlap
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.proof import findings_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.arrangements import Finder
from ypsil.core.report.first_page import first_page
from ypsil.core.tables.profile import profile
from ypsil.core.tiles import SpotTile, as_visual

TABLES = {
    "weather": lambda: data.seattle_weather().to_csv(index=False),  # NOAA, in vega_datasets
    "cars": lambda: data.cars().to_csv(index=False),  # StatLib, in vega_datasets
    "barley": lambda: data.barley().to_csv(index=False),  # Immer et al. 1934, in vega_datasets
    "iris": lambda: data.iris().to_csv(index=False),  # Fisher 1936, in vega_datasets
    "one row": lambda: "Branch,Visits\nElm,4\n",
    "words": lambda: "Note\n" + "".join(f"the {word} was {word}\n" for word in ("room", "book", "light", "staff") * 9),
    "nothing but names": lambda: "Name\nAda\nBo\nCy\n",
    "long names": lambda: "A very long name of a column,B\n" + "".join(f"{'x' * 90}{n},{n}\n" for n in range(40)),
}  # fmt: skip


@pytest.fixture(scope="module", params=TABLES)
def asked(request):
    table = csv_table(TABLES[request.param]())
    return request.param, report_table(table), profile(table.frame, table.columns)


def made(asked, page="tall"):
    _, table, known = asked
    like = ReportBody(title="T", page=PAGE_FORMATS[page].page)
    return first_page("How it went", Finder([("t", table, known)]), like)


@pytest.mark.parametrize("page", ["tall", "a4", "slide-4x3", "post-square"])
def test_all_that_is_on_it_is_drawn_and_nothing_overlaps(asked, page):
    report = made(asked, page)
    composed = compose(report, {"t": asked[1]})
    assert [problem for _, problem in composed.problems()] == []
    assert not any(isinstance(tile, SpotTile) for tile in report.tiles())
    for band in composed.bands:
        assert not any(overlap(one.place, other.place) for one, other in combinations(band.tiles, 2))
    assert [one for one in findings_of(composed) if one.kind == "problem"] == []


def test_nothing_is_asked_twice_and_it_begins_with_its_title_and_ends_with_its_sources(asked):
    report = made(asked)
    questions = [(tile.question.digest()) for tile in map(as_visual, report.tiles()) if tile is not None]
    assert len(set(questions)) == len(questions)
    assert report.tiles()[0].plain == "How it went"
    assert report.tiles()[-1].type == "sources"


def test_a_table_with_dates_and_amounts_gets_figures_a_trend_and_who_leads():
    table = csv_table(TABLES["weather"]())
    report = made(("weather", report_table(table), profile(table.frame, table.columns)))
    messages = [band.message for band in report.bands]
    assert messages[:3] == ["Headline", "In figures", "How it changes"]
    figures = report.bands[1].tiles
    assert {tile.visual for tile in figures} == {"kpi"} and 2 <= len(figures) <= 4
