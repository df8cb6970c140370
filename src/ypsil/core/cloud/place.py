"""Placing words on a plane.

Each word takes the free place nearest to where it is at home: on the side that its letters give it, and the nearer to
the middle the heavier it is, so that it hardly moves when others come and go. All places are tried at once on some px
of a word's edge, those that are left exactly. The largest type size at which every word fits is searched for from
above.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ypsil.core.cloud.masks import CELL_PX, WordMask, word_mask
from ypsil.core.cloud.plane import Plane, Point
from ypsil.core.cloud.shapes import open_cells
from ypsil.core.cloud.sizes import Areas, Sizes, Sizing, first_size
from ypsil.core.cloud.taken import TakenPlane

Directions = Literal["level", "mostly level", "level and upright", "any"]
SMALLEST_PX = 9.0
# Where not all words fit, the largest becomes smaller by this, then by more each time.
_SHRINK = 0.985
_SMALLER = 0.85
# Words that reach the edges of a drawing keep so many px from them: renderers differ by that.
_EDGE_PX = 1
# So many words are placed in the order of their weights.
_HEAVIEST = 3
_UPRIGHT = -90.0
_TURN_STEP = 5
_REPEATED = 0.72
_MOST_REPEATS = 2000
_TRIED_AGAIN = 512
_FIRST_TRIED = 32
# So much of a plane's height and width, on each side of a word's home, is looked at first.
_NEAR = 0.3


@dataclass(frozen=True, slots=True)
class CloudWord:
    """A word with its weight, which is above zero; those of a ``group`` (0, 1, …) can stand together."""

    text: str
    weight: float
    group: int = 0


@dataclass(frozen=True, slots=True)
class PlacedWord:
    """A word in its place: ``x`` and ``y`` are the start of its baseline in px, ``rank`` counts from 0; it is turned
    clockwise by ``angle`` degrees. ``is_repeat`` tells that the word stands elsewhere too, and larger."""

    text: str
    weight: float
    x: float
    y: float
    size: float
    rank: int
    angle: float = 0.0
    is_repeat: bool = False


@dataclass(frozen=True, slots=True)
class CloudLayout:
    """The placed words, those that did not fit, and the part of the shape that is ink."""

    placed: tuple[PlacedWord, ...]
    left_out: tuple[str, ...]
    ink: float


@dataclass(frozen=True, slots=True)
class CloudStyle:
    """How words are set and sized.

    A word's area follows its weight, or its height, or the logarithm of the weight (``log``), which brings sizes near
    to each other; none is under ``smallest`` px, none above ``largest``. ``most_turned`` bounds the degrees of words in
    any direction. ``air`` are the cells of 2 px that words keep from each other. With ``repeat`` words are set again,
    smaller, until the shape is full. ``together`` gathers the words of a group in a part of the shape. Words reach the
    edges of a rectangle, but for one that is ``framed``: they keep their air from its edges.
    """

    family: str
    weight: int = 700
    shape: str = "rectangle"
    sizing: Sizing = "area"
    smallest: float = SMALLEST_PX
    largest: float | None = None
    directions: Directions = "level"
    most_turned: int = 30
    air: int = 1
    repeat: bool = False
    together: bool = False
    framed: bool = False


def place_words(
    words: Sequence[CloudWord], width: float, height: float, style: CloudStyle, *, seed: int = 1
) -> CloudLayout:
    """Place words on ``width`` x ``height`` px. The same words, sizes, style and seed give the same layout.

    A word's direction and side depend on its letters and the seed alone, and how far it is from the middle on what the
    heavier ones take. Words that find no room are in ``left_out``. Raises DrawingRefused as ``open_cells`` does.
    """
    ordered = sorted(words, key=lambda word: (-word.weight, word.text))
    groups = 1 + max((word.group for word in words), default=0) if style.together else 1
    reach_edges = style.shape == "rectangle" and not style.framed
    edge, beyond = (_EDGE_PX, style.air) if reach_edges else (0, 0)
    columns, rows = (max(1, int((length - 2 * edge) // CELL_PX)) for length in (width, height))
    plane = Plane(open_cells(style.shape, columns, rows), seed, groups=groups, beyond=beyond, edge=edge)
    if not ordered:
        return CloudLayout((), (), 0.0)
    sizes = Sizes(tuple(word.weight for word in ordered), style.sizing, style.smallest)
    areas = Areas([word.text for word in ordered], style.family, style.weight, style.air)
    top = min(first_size(areas, sizes, plane), style.largest or math.inf)
    least = min(max(plane.least, style.smallest), top)
    tried = 0
    while True:
        tried += 1
        layout = _place_all(ordered, plane, areas, sizes.of(top), style, patient=top <= least)
        if layout is not None and (top <= style.smallest or ordered[0].text not in layout.left_out):
            return layout
        if layout is None:
            top = max(least, top * _SHRINK**tried)
        else:
            # In a thin shape rather all words are small than the first of them missing.
            top = least = max(style.smallest, top * _SMALLER)


def _angle_of(text: str, rank: int, plane: Plane, style: CloudStyle) -> float:
    drawn = plane.draw(text, "direction") % 1000
    if style.directions == "mostly level":
        # The first words stay level: they are what is read first.
        return _UPRIGHT if drawn < 200 and rank > 2 else 0.0
    if style.directions == "level and upright":
        return _UPRIGHT if drawn < 500 else 0.0
    if style.directions == "any":
        steps = style.most_turned // _TURN_STEP
        return float(_TURN_STEP * (drawn % (2 * steps + 1) - steps))
    return 0.0


def _place_all(
    words: Sequence[CloudWord], plane: Plane, areas: Areas, sizes: list[float], style: CloudStyle, *, patient: bool
) -> CloudLayout | None:
    """Place every word in its size; return None as soon as one finds no room, unless ``patient``."""
    parts = areas.at(sizes) / plane.area_px
    # The first stands in the middle, each other one behind all that are heavier.
    before = np.cumsum(parts) - parts / 2
    before[0] = 0.0
    page = _Placing(words, plane, style, TakenPlane(plane.open))
    left_out: list[str] = []
    for rank in _turns(words, sizes):
        if page.put(rank, sizes[rank], float(before[rank])):
            continue
        if not patient:
            return None
        left_out.append(words[rank].text)
    if style.repeat and not left_out:
        _repeat(sizes, style, page.put_again)
    page.placed.sort(key=lambda word: (word.is_repeat, word.rank))
    return CloudLayout(tuple(page.placed), tuple(left_out), round(page.ink / plane.area_px, 4))


@dataclass(slots=True)
class _Placing:
    """Words on their way onto a plane: those that have their place, and the px of their ink."""

    words: Sequence[CloudWord]
    plane: Plane
    style: CloudStyle
    taken: TakenPlane
    placed: list[PlacedWord] = field(default_factory=list)
    ink: int = 0

    def put(self, rank: int, size: float, far: float) -> bool:
        """Put a word where it is nearest to its home, ``far`` from the middle, if it finds room."""
        word = self.words[rank]
        angle, mask = self._mask(rank, size)
        place = _nearest_free(self.taken, mask, self.plane, self.plane.home(word.text, far, word.group))
        if place is None:
            return False
        self._settle(rank, size, angle, mask, place)
        return True

    def put_again(self, rank: int, size: float, most: int) -> int:
        """Set a word again, anywhere in the shape, up to ``most`` times; return how often."""
        angle, mask = self._mask(rank, size)
        corners = np.flatnonzero(self.taken.free_for(mask))
        np.random.default_rng(self.plane.draw(f"{self.words[rank].text} {size}", "again")).shuffle(corners)
        count, start = 0, 0
        while count < most and start < len(corners):
            some = corners[start : start + _TRIED_AGAIN]
            cell = self.taken.first_with_room(some, mask)
            if cell is None:
                start += len(some)
                continue
            self._settle(rank, size, angle, mask, divmod(cell, self.plane.columns), is_repeat=True)
            start += int(np.flatnonzero(some == cell)[0]) + 1
            count += 1
        return count

    def _mask(self, rank: int, size: float) -> tuple[float, WordMask]:
        word, style = self.words[rank], self.style
        angle = _angle_of(word.text, rank, self.plane, style)
        return angle, word_mask(word.text, style.family, style.weight, size, angle, style.air)

    def _settle(
        self, rank: int, size: float, angle: float, mask: WordMask, place: tuple[int, int], *, is_repeat: bool = False
    ) -> None:
        row, column = place
        self.taken.take(row, column, mask)
        x = self.plane.origin + column * CELL_PX + mask.baseline_x
        y = self.plane.origin + row * CELL_PX + mask.baseline_y
        word = self.words[rank]
        self.placed.append(PlacedWord(word.text, word.weight, x, y, size, rank, angle, is_repeat))
        self.ink += mask.ink_px


def _turns(words: Sequence[CloudWord], sizes: Sequence[float]) -> list[int]:
    """Return the ranks of words in the order they are placed in: the heaviest first, then those that take most room.

    Among small words of about one size, long ones would find no room at last, where short ones still do.
    """
    rest = range(_HEAVIEST, len(words))
    largest = sorted(rest, key=lambda rank: -(sizes[rank] ** 2) * len(words[rank].text))
    return [*range(min(_HEAVIEST, len(words))), *largest]


def _repeat(sizes: list[float], style: CloudStyle, put_again: Callable[[int, float, int], int]) -> None:
    """Set the words again, each time smaller, and as often as they find room once they are at their smallest.

    How many there are is bounded, and with it the time: a page of two words is full of them in a moment.
    """
    factor, left = _REPEATED, _MOST_REPEATS
    while left:
        again = [max(style.smallest, round(2 * size * factor) / 2) for size in sizes]
        is_last = max(again) <= style.smallest
        for rank, size in enumerate(again):
            left -= put_again(rank, size, min(left, left // (len(sizes) - rank) + 1) if is_last else min(left, 1))
        if is_last:
            return
        factor *= _REPEATED


def _nearest_free(taken: TakenPlane, mask: WordMask, plane: Plane, home: Point) -> tuple[int, int] | None:
    """Return the free cell (row, column) for a mask's corner at which its middle is nearest to a place.

    What is near is looked at first; all cells outside are farther than ``bound``.
    """
    height, width = (-(-length // CELL_PX) for length in mask.grown.shape)
    if height > plane.rows or width > plane.columns:
        return None
    free = taken.free_for(mask)
    down, across = plane.ranks(home)
    # For the corner of a mask instead of its middle.
    down, across = down[height // 2 :], across[width // 2 :]
    for part in _NEAR, 1.0:
        (rows, above), (columns, beside) = _around(down, part), _around(across, part)
        near = np.flatnonzero(free[rows, columns])
        ranks = np.add.outer(down[rows], across[columns]).ravel()[near]
        bound = min(above, beside)
        if bound < math.inf:
            near, ranks = near[ranks < bound], ranks[ranks < bound]
        row, column = np.divmod(near, columns.stop - columns.start)
        found = _first_free(taken, mask, (rows.start + row) * plane.columns + columns.start + column, ranks)
        if found is not None:
            return found // plane.columns, found % plane.columns
    return None


def _around(ranks: NDArray[np.int64], part: float) -> tuple[slice, float]:
    """Return a part of some rows or columns of cells around that of the lowest rank, and the lowest rank outside."""
    middle, reach = int(np.argmin(ranks)), math.ceil(part * len(ranks))
    start, end = max(0, middle - reach), min(len(ranks), middle + reach + 1)
    outside = [float(ranks[start - 1])] if start else []
    outside += [float(ranks[end])] if end < len(ranks) else []
    return slice(start, end), min(outside, default=math.inf)


def _first_free(taken: TakenPlane, mask: WordMask, corners: NDArray[np.int64], ranks: NDArray[np.int64]) -> int | None:
    """Return the cell of the lowest rank at which a word has room."""
    few = _FIRST_TRIED
    while len(corners):
        order = np.argpartition(ranks, few) if len(ranks) > few else np.arange(len(ranks))
        first, rest = order[:few], order[few:]
        found = taken.first_with_room(corners[first[np.argsort(ranks[first])]], mask)
        if found is not None:
            return found
        corners, ranks, few = corners[rest], ranks[rest], few * 8
    return None
