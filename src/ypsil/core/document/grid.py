"""Frames among frames: which overlap, where there is room for one more, how they settle without overlapping."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import chain, count
from typing import TypeVar

from ypsil.core.document.model import Frame

# Rows between tiles one above the other: as much air as between columns.
ROW_GAP = 3
_Frame = TypeVar("_Frame", bound=Frame)


def overlap(first: Frame, second: Frame) -> bool:
    """Tell whether two frames share a cell.

    >>> overlap(Frame(column=0, row=0, width=6, height=9), Frame(column=6, row=0, width=6, height=9))
    False
    """
    return (
        first.column < second.column + second.width
        and second.column < first.column + first.width
        and first.row < second.row + second.height
        and second.row < first.row + first.height
    )


def next_free_frame(taken: Sequence[Frame], width: int, height: int, columns: int, gap: int = ROW_GAP) -> Frame:
    """Return the first free frame from the top, then from the left, with ``gap`` rows of air to the frames above.

    >>> next_free_frame([Frame(column=0, row=0, width=20, height=10)], 6, 4, 24)
    Frame(column=0, row=13, width=6, height=4, layer=0, dx=0, dy=0)
    """
    width = min(width, columns)
    rows = sorted({0, *(frame.row for frame in taken), *(frame.row + frame.height + gap for frame in taken)})
    for row in chain(rows, count(rows[-1] + 1)):
        for column in range(columns - width + 1):
            frame = Frame(column=column, row=row, width=width, height=height)
            # Air above and below, so that a tile never touches the one under it.
            airy = frame.model_copy(update={"row": max(0, row - gap), "height": height + min(row, gap) + gap})
            if not any(overlap(airy, other) for other in taken):
                return frame
    raise AssertionError("a band has no lower end")


def settle(frames: Sequence[_Frame], gap: int = ROW_GAP, ranks: Sequence[int] = ()) -> list[_Frame]:
    """Move frames down, as little as possible, until none of layer 0 overlap; those that are laid over others stay.

    Those of a lower rank (0 where no ranks are given) stay where they are before those of a higher one, and in a rank
    the upper ones; those of a rank below 0 stay whatever happens.
    """
    settled = list(frames)
    rank = ranks or [0] * len(frames)
    # Left, right, top and foot of those that are settled: this is asked with every edit, of all tiles by all.
    taken: list[tuple[int, int, int, int]] = []
    flat = [index for index, frame in enumerate(frames) if not frame.layer]
    for index in sorted(flat, key=lambda index: (rank[index], frames[index].row, frames[index].column)):
        frame = frames[index]
        left, right, top = frame.column, frame.column + frame.width, frame.row
        while True:
            foot = top + frame.height
            below = [low + gap for (a, b, high, low) in taken if left < b and a < right and top < low and high < foot]
            if not below or rank[index] < 0:
                break
            top = max(below)
        taken.append((left, right, top, foot))
        if top != frame.row:
            settled[index] = frame.model_copy(update={"row": top})
    return settled
