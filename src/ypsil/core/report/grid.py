"""The grid of a band: 24 columns with equal gutters, rows of 8 px."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import chain, count

from ypsil.core.report.document import GRID_COLUMNS, Place

PAGE_WIDTH_PX = 1200.0
MARGIN_PX = 32.0
GUTTER_PX = 16.0
COLUMN_PX = 32.0
ROW_PX = 8.0
BAND_PADDING_ROWS = 3
# Between tiles one above the other: as much air as between columns.
ROW_GAP = 3


def left_px(column: int) -> float:
    """Return where a column starts on the page.

    >>> left_px(0), left_px(23) + COLUMN_PX + MARGIN_PX
    (32.0, 1200.0)
    """
    return MARGIN_PX + column * (COLUMN_PX + GUTTER_PX)


def width_px(columns: int) -> float:
    """Return the width of some columns with the gutters between them."""
    return columns * COLUMN_PX + (columns - 1) * GUTTER_PX


def overlap(first: Place, second: Place) -> bool:
    """Tell whether two places share a cell.

    >>> overlap(Place(column=0, row=0, width=6, height=9), Place(column=6, row=0, width=6, height=9))
    False
    """
    return (
        first.column < second.column + second.width
        and second.column < first.column + first.width
        and first.row < second.row + second.height
        and second.row < first.row + first.height
    )


def next_free_place(taken: Sequence[Place], width: int, height: int) -> Place:
    """Return the first free place from the top, then from the left, with air to the tiles above.

    >>> next_free_place([Place(column=0, row=0, width=20, height=10)], 6, 4)
    Place(column=0, row=13, width=6, height=4)
    """
    width = min(width, GRID_COLUMNS)
    rows = sorted({0, *(place.row for place in taken), *(place.row + place.height + ROW_GAP for place in taken)})
    for row in chain(rows, count(rows[-1] + 1)):
        for column in range(GRID_COLUMNS - width + 1):
            place = Place(column=column, row=row, width=width, height=height)
            # Air above and below, so that a tile never touches the one under it.
            airy = place.model_copy(
                update={"row": max(0, row - ROW_GAP), "height": height + min(row, ROW_GAP) + ROW_GAP}
            )
            if not any(overlap(airy, other) for other in taken):
                return place
    raise AssertionError("a band has no lower end")


def settle(places: Sequence[Place]) -> list[Place]:
    """Move places down, as little as possible, until none overlap; upper ones stay where they are."""
    settled: dict[int, Place] = {}
    for index in sorted(range(len(places)), key=lambda index: (places[index].row, places[index].column)):
        place = places[index]
        while True:
            below = [other.row + other.height + ROW_GAP for other in settled.values() if overlap(place, other)]
            if not below:
                break
            place = place.model_copy(update={"row": max(below)})
        settled[index] = place
    return [settled[index] for index in range(len(places))]
