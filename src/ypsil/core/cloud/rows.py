"""Placing words in rows: read like a text, each word as large as its weight."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ypsil.core.cloud.masks import CELL_PX, word_mask
from ypsil.core.cloud.place import CloudLayout, CloudStyle, CloudWord, PlacedWord
from ypsil.core.cloud.shapes import open_cells
from ypsil.core.cloud.sizes import Sizes

_MEASURED_PX = 100.0
# What stands between two words of a row, and between two rows, in parts of a size.
_BETWEEN, _ABOVE = 0.28, 0.14
_LARGEST_PX, _TRIES = 200.0, 14
# Small letters are fitted to whole px, and may be larger by that than large ones say.
_HINTED_PX = 1.0
_STEP_PX = 2.0 * CELL_PX
# Where not all words find room, so many of the lightest are left out at once.
_GONE = 1 / 12


@dataclass(frozen=True, slots=True)
class _Extent:
    """What a word's ink takes to the left and right of its start and above and below it, in parts of its size."""

    left: float
    right: float
    above: float
    below: float


@dataclass(frozen=True, slots=True)
class _Item:
    """A word in its size; ``tail`` is room in px that is kept behind it."""

    word: CloudWord
    rank: int
    size: float
    extent: _Extent
    tail: float

    @property
    def width(self) -> float:
        return self.size * (self.extent.left + self.extent.right) + 2 * _HINTED_PX + self.tail


@dataclass(frozen=True, slots=True)
class _Stretch:
    """Some words beside each other, between the two ends of a row."""

    start: float
    end: float
    items: tuple[_Item, ...]

    def placed(self, baseline: float, air: float, *, middle: bool) -> list[PlacedWord]:
        used = _length(self.items, air)
        x = self.start + ((self.end - self.start - used) / 2 if middle else 0.0)
        found = []
        for place, item in enumerate(self.items):
            if place:
                x += _gap(self.items[place - 1], item, air)
            start = x + _HINTED_PX + item.extent.left * item.size
            found.append(PlacedWord(item.word.text, item.word.weight, start, baseline, item.size, item.rank))
            x += item.width
        return found


def place_rows(
    words: Sequence[CloudWord],
    width: float,
    height: float,
    style: CloudStyle,
    *,
    as_given: bool = False,
    tails: Sequence[float] = (),
    middle: bool = True,
) -> CloudLayout:
    """Place words in rows on ``width`` x ``height`` px, from A to Z or ``as_given``.

    Words are as large as fits, their sizes by their weights as in ``place_words``; the lightest of those for which
    there is no room at the smallest size are in ``left_out``. ``tails`` are the px kept free behind each of ``words``.
    Rows stand in the ``middle`` of the shape, or begin at its left. Raises DrawingRefused as ``open_cells`` does.
    """
    kept = dict(zip((word.text for word in words), tails or [0.0] * len(words), strict=True))
    names = (word.text for word in words) if as_given else sorted(kept, key=lambda text: (text.casefold(), text))
    turns = {text: turn for turn, text in enumerate(names)}
    ordered = sorted(words, key=lambda word: (-word.weight, word.text))
    columns, rows = max(1, int(width // CELL_PX)), max(1, int(height // CELL_PX))
    rows_of = _Rows(open_cells(style.shape, columns, rows), style, middle)
    left_out: list[str] = []
    while ordered:
        placed = _largest(ordered, kept, turns, rows_of)
        if placed is not None:
            return CloudLayout(tuple(placed), tuple(left_out[::-1]), rows_of.ink(placed))
        gone = max(1, round(len(ordered) * _GONE))
        left_out += [word.text for word in ordered[-gone:][::-1]]
        ordered = ordered[:-gone]
    return CloudLayout((), tuple(left_out[::-1]), 0.0)


def _largest(
    ordered: Sequence[CloudWord], tails: dict[str, float], turns: dict[str, int], rows_of: _Rows
) -> list[PlacedWord] | None:
    """Return the words, each at its turn, at the largest sizes at which all find room; nothing where they find none."""
    style = rows_of.style
    sizes = Sizes(tuple(word.weight for word in ordered), style.sizing, style.smallest)
    extents = [_extent(word.text, style.family, style.weight) for word in ordered]

    def placed_at(top: float) -> list[PlacedWord] | None:
        items = [
            _Item(word, rank, size, extent, tails[word.text])
            for rank, (word, size, extent) in enumerate(zip(ordered, sizes.of(top), extents, strict=True))
        ]
        return rows_of.place(sorted(items, key=lambda item: turns[item.word.text]))

    found = placed_at(style.smallest)
    low, high = style.smallest, max(style.smallest, min(style.largest or _LARGEST_PX, _LARGEST_PX))
    for _ in range(_TRIES if found is not None else 0):
        top = (low + high) / 2
        tried = placed_at(top)
        if tried is None:
            high = top
        else:
            low, found = top, tried
    return found


@dataclass(frozen=True, slots=True)
class _Rows:
    """The cells of a shape, and how rows are set in it."""

    open: NDArray[np.bool_]
    style: CloudStyle
    middle: bool

    def place(self, items: Sequence[_Item]) -> list[PlacedWord] | None:
        """Place all items in their order from the top down; nothing where they reach beyond the bottom."""
        air = _air(self.style)
        bottom = float(self.open.shape[0] * CELL_PX)
        placed: list[PlacedWord] = []
        y, at = 0.0, 0
        while at < len(items):
            above, below = _reach(items[at : at + 1])
            stretches: list[_Stretch] = []
            while y + above + below <= bottom:
                stretches = self._filled(items, at, y, y + above + below)
                higher, deeper = _reach([item for one in stretches for item in one.items])
                if higher <= above and deeper <= below:
                    break
                # A larger word has come into the row: it is filled anew, as high as that takes.
                above, below = max(above, higher), max(below, deeper)
            else:
                return None
            for one in stretches:
                placed += one.placed(y + above, air, middle=self.middle)
                at += len(one.items)
            y += (above + below + _ABOVE * air * above) if stretches else _STEP_PX
        return placed

    def _filled(self, items: Sequence[_Item], at: int, top: float, bottom: float) -> list[_Stretch]:
        """Return the stretches of a row, each filled with as many of the items from ``at`` on as fit."""
        band = self.open[int(top // CELL_PX) : -int(-bottom // CELL_PX)].all(axis=0)
        edges = np.flatnonzero(np.diff(np.concatenate(([False], band, [False])).astype(np.int8)))
        air = _air(self.style)
        found = []
        for start, end in zip((edges[::2] * CELL_PX).tolist(), (edges[1::2] * CELL_PX).tolist(), strict=True):
            used, last = 0.0, at
            while last < len(items):
                more = items[last].width + (_gap(items[last - 1], items[last], air) if last > at else 0.0)
                if used + more > end - start:
                    break
                used += more
                last += 1
            if last > at:
                found.append(_Stretch(start, end, tuple(items[at:last])))
                at = last
        return found

    def ink(self, placed: Sequence[PlacedWord]) -> float:
        """Return the part of the shape that is ink."""
        style = self.style
        inked = sum(word_mask(word.text, style.family, style.weight, round(word.size)).ink_px for word in placed)
        return round(inked / max(1, int(self.open.sum()) * CELL_PX**2), 4)


@lru_cache(maxsize=4096)
def _extent(text: str, family: str, weight: int) -> _Extent:
    mask = word_mask(text, family, weight, _MEASURED_PX)
    rows, columns = np.nonzero(mask.ink)
    left, right = columns.min(initial=mask.ink.shape[1]), columns.max(initial=0) + 1
    top, bottom = rows.min(initial=mask.ink.shape[0]), rows.max(initial=0) + 1
    x, y = mask.baseline_x, mask.baseline_y
    # Where ink begins behind its start, the start still stands inside.
    lengths = (max(0.0, x - left), right - x, y - top, bottom - y)
    return _Extent(*(float(length) / _MEASURED_PX for length in lengths))


def _reach(items: Sequence[_Item]) -> tuple[float, float]:
    """Return how far the highest of some words reaches above the baseline, and the deepest below it."""
    above = max((item.size * item.extent.above for item in items), default=0.0)
    below = max((item.size * item.extent.below for item in items), default=0.0)
    return above + _HINTED_PX, below + _HINTED_PX


def _gap(one: _Item, other: _Item, air: float) -> float:
    return _BETWEEN * air * min(one.size, other.size)


def _length(items: Sequence[_Item], air: float) -> float:
    gaps = sum(_gap(items[place], item, air) for place, item in enumerate(items[1:]))
    return sum(item.width for item in items) + gaps


def _air(style: CloudStyle) -> float:
    """Return how much more or less than usual words keep apart."""
    return 0.5 + style.air / 4
