"""Kinds of tiles: each says of itself what others need, and nobody outside their room asks which it is."""

import re
from pathlib import Path

import polars
import pytest

from tests.factories import csv_table, report_table, total
from ypsil.core import tiles
from ypsil.core.errors import DrawingRefused
from ypsil.core.questions import parse_question
from ypsil.core.render import compose
from ypsil.core.report import Band, ReportBody
from ypsil.core.tiles import Context, LaterTile, SourcesTile, TextTile, VisualTile, as_visual
from ypsil.core.tiles import visual as visual_tile

SOURCE = Path(tiles.__file__).parents[2]
CHART = VisualTile(table="t", question=total(), visual="kpi", options={"decimals": 1})
EACH = (TextTile(role="heading", text="Up"), CHART, SourcesTile(), LaterTile(kind="hologram"))


@pytest.mark.parametrize("tile", EACH, ids=lambda tile: tile.type)
def test_each_kind_is_either_written_or_asked_or_waits(tile):
    ways = [tile.writes(Context()) is not None, tile.asks() is not None, bool(tile.waits_for())]
    assert sum(ways) == 1
    assert tile.label()
    width, height = tile.usual_size()
    assert 0 < width <= 24 and height > 0
    assert tile.heading() == ("heading" if tile.type == "text" else "")


def test_a_visual_says_what_it_asks_and_is_checked():
    assert (CHART.asks().table, CHART.usual_size()) == ("t", (6, 20))
    assert CHART.label() == "Total Visits"
    assert [as_visual(tile) for tile in EACH] == [None, CHART, None, None]
    with pytest.raises(DrawingRefused, match="decimals"):
        CHART.model_copy(update={"options": {"decimals": 99}}).check()


def test_an_empty_heading_is_none_of_the_outline():
    assert TextTile(role="title", text="  ").heading() == ""
    assert TextTile(role="title").label() == "Empty title"


def test_nobody_outside_the_room_asks_which_kind_a_tile_is():
    asking = re.compile(r"isinstance\([^)]*\b(TextTile|VisualTile|SourcesTile|LaterTile)\b")
    found = [
        path.relative_to(SOURCE).as_posix()
        for path in SOURCE.rglob("*.py")
        if "tiles" not in path.parts and asking.search(path.read_text(encoding="utf-8"))
    ]
    assert found == []


class TestFaults:
    """Whatever is wrong with one tile is said in its place."""

    @pytest.mark.parametrize("fault", [RuntimeError("oh"), RecursionError(), polars.exceptions.PanicException("oh")])
    def test_a_fault_of_ours_takes_one_tile_and_not_the_page(self, monkeypatch, fault):
        real = visual_tile.draw

        def draw(name, *given, **more):
            if name == "bar":
                raise fault
            return real(name, *given, **more)

        monkeypatch.setattr(visual_tile, "draw", draw)
        broken = CHART.model_copy(update={"id": "b1", "visual": "bar", "options": {}})
        page = compose(ReportBody(title="T", bands=(Band(tiles=(CHART, broken)),)), {"t": report_table()})
        assert [view.drawn.is_broken for view in page.tiles()] == [False, True]
        assert "Ask it differently" in page.problems()[0][1]

    @pytest.mark.parametrize(
        ("data", "question", "visual", "said"),
        [
            ("Day,Visits\n2026-01-01,3\n2026-02-01,4\n",
             {"measures": [{"stat": "sum", "column": "Visits"}],
              "where": [{"column": "Day", "test": "last", "count": 3000, "by": "year"}]}, "kpi", ""),
            ("Kind,Visits\n²,3\n³,4\n²,3\n³,4\n", total(per=[{"column": "Kind"}]), "bar", ""),
            ("Kind,Visits\na,9e27\nb,8e27\n", total(per=[{"column": "Kind"}]), "bar", ""),
            ("Kind,Visits\na,9e307\nb,9e307\n", total(), "kpi", ""),
            ("Name,At\na,10:00\nb,11:30\n",
             {"measures": [{"stat": "min", "column": "At"}], "per": [{"column": "Name"}]}, "timeline", ""),
            ("Day,Name\n2026-01-01,aa\n2026-02-01,bb\n",
             {"measures": [{"stat": "first", "column": "Name", "then": "percent_change"}],
              "per": [{"column": "Day", "by": "month"}]}, "column", "a change needs numbers, and “Name”"),
            ("Day,Name\n2026-01-01,aa\n2026-02-01,bb\n",
             {"measures": [{"ratio": [{"stat": "last", "column": "Day"}, {"stat": "count"}]}]}, "kpi",
             "a ratio needs numbers, and “Day” holds date"),
        ],
    )  # fmt: skip
    def test_what_once_poisoned_a_report_is_drawn_or_refused_in_words(self, data, question, visual, said):
        tile = CHART.model_copy(update={"question": parse_question(question), "visual": visual, "options": {}})
        page = compose(ReportBody(title="T", bands=(Band(tiles=(tile,)),)), {"t": report_table(csv_table(data))})
        assert not page.tiles()[0].drawn.is_broken
        assert said in " ".join(problem for _, problem in page.problems()) and bool(said) == bool(page.problems())
        assert tile.label()
