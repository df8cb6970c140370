"""Places on a page's grid."""

from __future__ import annotations

from collections.abc import Iterable

from ypsil.core.document.grid import next_free_frame
from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.tiles import AnyTile

# Usual sizes are said for a page of so many columns.
_USUAL_COLUMNS = 24


def usual_size(tile: AnyTile, page: PageFormat) -> tuple[int, int]:
    """Return the columns and rows that a new tile takes on a page.

    >>> from ypsil.core.tiles import TextTile
    >>> usual_size(TextTile(), PageFormat()), usual_size(TextTile(), PageFormat(columns=8))
    ((12, 10), (4, 10))
    """
    width, height = tile.usual_size()
    return min(page.columns, max(1, round(width * page.columns / _USUAL_COLUMNS))), height


def next_free_place(taken: Iterable[AnyTile], width: int, height: int, page: PageFormat) -> Frame:
    """Return the first free place among tiles, from the top, then from the left, with air to the tiles above."""
    places = [tile.place for tile in taken if tile.place is not None and not tile.place.layer]
    return next_free_frame(places, width, height, page.columns, page.row_gap)


def place_of(tile: AnyTile, page: PageFormat) -> Frame:
    """Return a tile's place; one without stands at the top left in its usual size."""
    if tile.place is not None:
        return tile.place
    width, height = usual_size(tile, page)
    return Frame(column=0, row=0, width=width, height=height)
