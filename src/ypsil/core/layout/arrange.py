"""Lining frames up: from frames to frames, in their order. What they are lined up by is px of the page."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from ypsil.core.document.model import Frame, PageFormat

Way = Literal[
    "left", "centre", "right", "top", "middle", "foot", "across", "down", "same_width", "same_height", "same_size"
]
_NEAR_PX = 0.01


@dataclass(frozen=True, slots=True)
class _Extent:
    """Where something starts along one way of the page, and how long it is, in px."""

    start: float
    length: float

    @property
    def end(self) -> float:
        return self.start + self.length


def arrange(frames: Sequence[Frame], way: Way, page: PageFormat) -> list[Frame]:
    """Return frames lined up, spread with equal gaps, or made as large as the first of them.

    Edges are those of all together: the leftmost is what ``left`` goes by. Spreading fills the room from
    the first to the last, where that is enough for all.

    >>> two = [Frame(column=2, row=0, width=4, height=5), Frame(column=8, row=9, width=6, height=5)]
    >>> [frame.column for frame in arrange(two, "left", PageFormat())]
    [2, 2]
    """
    if way.startswith("same_"):
        return [_sized(frame, frames[0], way, page) for frame in frames]
    is_across = way in ("left", "centre", "right", "across")
    extents = [extent_across(frame, page) if is_across else extent_down(frame, page) for frame in frames]
    starts = _spread(extents) if way in ("across", "down") else _lined_up(extents, way)
    put: Callable[[Frame, float, PageFormat], Frame] = put_across if is_across else put_down
    return [put(frame, start, page) for frame, start in zip(frames, starts, strict=True)]


def extent_across(frame: Frame, page: PageFormat) -> _Extent:
    """Return where a frame starts and how wide it is, in px from the first column."""
    return _Extent(frame.column * (page.column + page.gutter) + frame.dx, page.width_of(frame.width))


def extent_down(frame: Frame, page: PageFormat) -> _Extent:
    """Return where a frame starts and how high it is, in px from the first row."""
    return _Extent(frame.row * page.row + frame.dy, frame.height * page.row)


def put_across(frame: Frame, start: float, page: PageFormat) -> Frame:
    """Return a frame that starts at a px from the first column: at the nearest column, and beside it by the rest."""
    pitch = page.column + page.gutter
    column = max(0, min(round(start / pitch), page.columns - frame.width))
    return frame.model_copy(update={"column": column, "dx": _rest(start - column * pitch)})


def put_down(frame: Frame, start: float, page: PageFormat) -> Frame:
    """Return a frame that starts at a px from the first row."""
    row = max(0, round(start / page.row))
    return frame.model_copy(update={"row": row, "dy": _rest(start - row * page.row)})


def _rest(px: float) -> float:
    return 0.0 if abs(px) < _NEAR_PX else round(px, 2)


def _lined_up(extents: Sequence[_Extent], way: Way) -> list[float]:
    first, last = min(one.start for one in extents), max(one.end for one in extents)
    if way in ("left", "top"):
        return [first for _ in extents]
    if way in ("right", "foot"):
        return [last - one.length for one in extents]
    return [(first + last - one.length) / 2 for one in extents]


def _spread(extents: Sequence[_Extent]) -> list[float]:
    order = sorted(range(len(extents)), key=lambda place: (extents[place].start, place))
    first, last = extents[order[0]].start, max(one.end for one in extents)
    gap = (last - first - sum(one.length for one in extents)) / max(1, len(extents) - 1)
    if gap < 0:
        return [one.start for one in extents]
    starts = [0.0] * len(extents)
    at = first
    for place in order:
        starts[place] = at
        at += extents[place].length + gap
    return starts


def _sized(frame: Frame, like: Frame, way: Way, page: PageFormat) -> Frame:
    width = frame.width if way == "same_height" else min(like.width, page.columns)
    height = frame.height if way == "same_width" else like.height
    column = min(frame.column, page.columns - width)
    return frame.model_copy(update={"width": width, "height": height, "column": column})
