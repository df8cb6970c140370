"""Kinds of tiles: each says of itself what others need, and nobody outside their room asks which it is."""

import re
from pathlib import Path

import pytest

from tests.factories import total
from ypsil.core import tiles
from ypsil.core.errors import DrawingRefused
from ypsil.core.tiles import LaterTile, SourcesTile, TextTile, VisualTile, as_visual

SOURCE = Path(tiles.__file__).parents[2]
CHART = VisualTile(table="t", question=total(), visual="kpi", options={"decimals": 1})
EACH = (TextTile(role="heading", text="Up"), CHART, SourcesTile(), LaterTile(kind="hologram"))


@pytest.mark.parametrize("tile", EACH, ids=lambda tile: tile.type)
def test_each_kind_is_either_written_or_asked_or_waits(tile):
    ways = [tile.writes("Sources: a.") is not None, tile.asks() is not None, bool(tile.waits_for())]
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
