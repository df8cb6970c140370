"""The grid of a band: 24 columns with equal gutters, rows of 8 px."""

from __future__ import annotations

from collections.abc import Sequence

from ypsil.core.document.grid import next_free_frame
from ypsil.core.document.model import Frame
from ypsil.core.tiles import GRID_COLUMNS, Place

PAGE_WIDTH_PX = 1200.0
MARGIN_PX = 32.0
GUTTER_PX = 16.0
COLUMN_PX = 32.0
ROW_PX = 8.0
BAND_PADDING_ROWS = 3


def left_px(column: int) -> float:
    """Return where a column starts on the page.

    >>> left_px(0), left_px(23) + COLUMN_PX + MARGIN_PX
    (32.0, 1200.0)
    """
    return MARGIN_PX + column * (COLUMN_PX + GUTTER_PX)


def width_px(columns: int) -> float:
    """Return the width of some columns with the gutters between them."""
    return columns * COLUMN_PX + (columns - 1) * GUTTER_PX


def next_free_place(taken: Sequence[Frame], width: int, height: int) -> Place:
    """Return the first free place of a band, from the top, then from the left, with air to the tiles above."""
    return Place.model_validate(next_free_frame(taken, width, height, GRID_COLUMNS).model_dump())
