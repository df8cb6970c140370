"""Placing words on a plane.

Each word, from the heaviest down, takes the free place that costs least: nearest the middle, and rather on the side
that its letters give it, so that it keeps to its side when others come and go. All places are tried at once on a number
of the word's cells, those that are left exactly. The largest type size at which every word fits is searched for from
above.
"""

from __future__ import annotations

import math
import zlib
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, Protocol

import numpy as np
from numpy.typing import NDArray

from ypsil.core.cloud.masks import CELL_PX, WordMask, word_area, word_mask
from ypsil.core.cloud.shapes import open_cells
from ypsil.core.cloud.taken import TakenCells

Sizing = Literal["area", "height", "log"]
Directions = Literal["level", "mostly level", "level and upright", "any"]
SMALLEST_PX = 9.0
# The part of the open cells that words and their air can take at most: more where there are many, for small ones nestle
# between large ones, and more with air, which lies between letters too (measured on clouds of 40 to 400 words).
_FULL, _FULLER, _WITH_AIR, _FEW = 0.735, 0.112, 0.45, 80
_SHRINK = 0.975
# Before words are left out, the largest shrinks to so many px, or to this part of a small plane.
_LEAST_LARGEST_PX, _LEAST_PART = 26.0, 0.07
_SMALLER = 0.85
_TRIAL_PX = 20.0
_SIDES = 8
# How much farther than on its own side a place on the other side counts.
_OWN_SIDE = 0.5
# Where groups gather, in parts of the width and height from the middle.
_GATHERED = 0.27
# So many words are placed in the order of their weights.
_HEAVIEST = 10
_UPRIGHT = -90.0
_TURN_STEP = 5
_REPEATED = 0.72
_MOST_REPEATS = 2000
_FIRST_TRIES = 24
_COST_STEPS = 65_000


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
    smaller, until the shape is full. ``together`` gathers the words of a group in a part of the shape.
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


def place_words(
    words: Sequence[CloudWord], width: float, height: float, style: CloudStyle, *, seed: int = 1
) -> CloudLayout:
    """Place words on ``width`` x ``height`` px. The same words, sizes, style and seed give the same layout.

    A word's direction and the side it leans to depend on its letters and the seed alone. Words that find no room are in
    ``left_out``. Raises DrawingRefused as ``open_cells`` does.
    """
    ordered = sorted(words, key=lambda word: (-word.weight, word.text))
    columns, rows = max(1, int(width // CELL_PX)), max(1, int(height // CELL_PX))
    groups = 1 + max((word.group for word in words), default=0) if style.together else 1
    plane = _Plane(open_cells(style.shape, columns, rows), seed, groups)
    if not ordered:
        return CloudLayout((), (), 0.0)
    sizes = Sizes(tuple(word.weight for word in ordered), style.sizing, style.smallest)
    top = min(_first_size(ordered, sizes, plane, style), style.largest or math.inf)
    least = min(max(plane.least, style.smallest), top)
    while True:
        layout = _place_all(ordered, plane, sizes.of(top), style, patient=top <= least)
        if layout is not None and (top <= style.smallest or ordered[0].text not in layout.left_out):
            return layout
        if layout is None:
            top = max(least, top * _SHRINK)
        else:
            # In a thin shape rather all words are small than the first of them missing.
            top = least = max(style.smallest, top * _SMALLER)


@dataclass(frozen=True, slots=True)
class Sizes:
    """How weights, the largest first, become type sizes."""

    weights: tuple[float, ...]
    sizing: Sizing
    smallest: float

    def of(self, largest: float) -> list[float]:
        """Return a size in px for each weight, in steps of half a px so that masks are shared."""
        return [max(self.smallest, round(2 * largest * self._part(weight)) / 2) for weight in self.weights]

    def _part(self, weight: float) -> float:
        top = self.weights[0]
        if self.sizing == "log":
            return math.log1p(weight) / math.log1p(top)
        return weight / top if self.sizing == "height" else (weight / top) ** 0.5


def _first_size(words: Sequence[CloudWord], sizes: Sizes, plane: _Plane, style: CloudStyle) -> float:
    """Return the largest type size at which words and their air would take as many cells as can be filled.

    Of a word of 20 px the ink grows with the square of the size and the air around it with the size.
    """
    areas = [word_area(word.text, style.family, style.weight, _TRIAL_PX, style.air) for word in words]
    ink, air, wide = np.array(areas).T
    many = math.log(max(1.0, len(words) / _FEW))
    room = (_FULL + _FULLER * many * (1 + _WITH_AIR * (style.air - 1))) * plane.open.sum()

    def taken(top: float) -> float:
        scale = np.array(sizes.of(top)) / _TRIAL_PX
        return float((ink * scale**2 + air * scale).sum())

    low, high = plane.least, 2.0 * plane.open.shape[0] * CELL_PX
    while high - low > 1:
        middle = (low + high) / 2
        low, high = (middle, high) if taken(middle) <= room else (low, middle)
    # A word that is wider than the shape finds no room at any price.
    widest = float(wide[:3].max())
    return float(max(plane.least, min(low, _TRIAL_PX * 0.94 * plane.widest / widest)))


class _Plane:
    """The cells of a shape, and what it costs to stand at each of them for words that lean to one side or another."""

    def __init__(self, open_to_words: NDArray[np.bool_], seed: int, groups: int = 1) -> None:
        self.open = open_to_words
        self.groups = groups
        self.rows, self.columns = open_to_words.shape
        self.seed = seed
        self.least = min(_LEAST_LARGEST_PX, _LEAST_PART * CELL_PX * min(self.rows, self.columns))
        self.widest = int(open_to_words.sum(axis=1).max(initial=1))
        y, x = np.mgrid[0 : self.rows, 0 : self.columns]
        middle_y, middle_x = (float(place[open_to_words].mean()) if open_to_words.any() else 0.0 for place in (y, x))
        across, down = (x - middle_x) / self.columns, (y - middle_y) / self.rows
        self._across, self._down = across, down
        self._distance = np.hypot(across, down).astype(np.float32)
        self._angle = np.arctan2(down, across).astype(np.float32)
        self._ranks: dict[int, NDArray[np.int64]] = {}

    def ranks(self, word: CloudWord) -> NDArray[np.int64]:
        """Return numbers in the order of what each cell costs as the middle of a word, each once."""
        side = self.draw(word.text, "side") % _SIDES if self.groups == 1 else word.group
        if side not in self._ranks:
            costs = (self._from_side(side) if self.groups == 1 else self._from_group(side)).ravel()
            steps = (costs * (_COST_STEPS / max(1e-9, float(costs.max())))).astype(np.int64)
            # Of cells that cost the same, the first one comes first.
            self._ranks[side] = steps * len(steps) + np.arange(len(steps))
        return self._ranks[side]

    def _from_side(self, side: int) -> NDArray[np.float32]:
        turned = self._angle - np.float32(2 * math.pi * side / _SIDES + self.seed)
        return np.asarray(self._distance * (1 + _OWN_SIDE / 2 * (1 - np.cos(turned))))

    def _from_group(self, group: int) -> NDArray[np.float32]:
        """Return how far each cell is from where a group gathers: on a ring, the first at the left."""
        angle = math.pi + 2 * math.pi * group / self.groups
        x, y = _GATHERED * math.cos(angle), _GATHERED * math.sin(angle)
        return np.asarray(np.hypot(self._across - x, self._down - y), dtype=np.float32)

    def draw(self, text: str, what: str) -> int:
        """Return a number that depends on the seed and a word's letters alone."""
        return zlib.crc32(f"{self.seed} {what} {text}".encode())


def _angle_of(text: str, rank: int, plane: _Plane, style: CloudStyle) -> float:
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
    words: Sequence[CloudWord], plane: _Plane, sizes: list[float], style: CloudStyle, *, patient: bool
) -> CloudLayout | None:
    """Place every word in its size; return None as soon as one finds no room, unless ``patient``."""
    taken = TakenCells(plane.open)
    placed: list[PlacedWord] = []
    left_out: list[str] = []
    ink = 0

    def put(word: CloudWord, size: float, rank: int, *, is_repeat: bool = False) -> bool:
        nonlocal ink
        angle = _angle_of(word.text, rank, plane, style)
        mask = word_mask(word.text, style.family, style.weight, size, angle, style.air)
        place = _cheapest_free(taken, mask, plane, word)
        if place is None:
            return False
        row, column = place
        taken.take(row, column, mask)
        x, y = column * CELL_PX + mask.baseline_x, row * CELL_PX + mask.baseline_y
        placed.append(PlacedWord(word.text, word.weight, x, y, size, rank, angle, is_repeat))
        ink += mask.ink_px
        return True

    for rank in _turns(words, sizes):
        if put(words[rank], sizes[rank], rank):
            continue
        if not patient:
            return None
        left_out.append(words[rank].text)
    if style.repeat and not left_out:
        _repeat(words, sizes, style, put)
    area = max(1, int(plane.open.sum())) * CELL_PX**2
    placed.sort(key=lambda word: (word.is_repeat, word.rank))
    return CloudLayout(tuple(placed), tuple(left_out), round(ink / area, 4))


def _turns(words: Sequence[CloudWord], sizes: Sequence[float]) -> list[int]:
    """Return the ranks of words in the order they are placed in: the heaviest first, then the widest.

    Among small words of about one size, long ones would find no room at last, where short ones still do.
    """
    rest = range(_HEAVIEST, len(words))
    widest = sorted(rest, key=lambda rank: -sizes[rank] * len(words[rank].text))
    return [*range(min(_HEAVIEST, len(words))), *widest]


class _Put(Protocol):
    """Puts a word somewhere, if it finds room."""

    def __call__(self, word: CloudWord, size: float, rank: int, *, is_repeat: bool = False) -> bool: ...


def _repeat(words: Sequence[CloudWord], sizes: list[float], style: CloudStyle, put: _Put) -> None:
    """Set the words again and again, each time smaller, until none finds room at the smallest size."""
    factor, repeats = _REPEATED, 0
    while True:
        again = [max(style.smallest, round(2 * size * factor) / 2) for size in sizes]
        fitted = 0
        for rank, (word, size) in enumerate(zip(words, again, strict=True)):
            if repeats < _MOST_REPEATS and put(word, size, rank, is_repeat=True):
                fitted += 1
                repeats += 1
        if (not fitted and max(again) <= style.smallest) or repeats >= _MOST_REPEATS:
            return
        factor *= _REPEATED


def _cheapest_free(taken: TakenCells, mask: WordMask, plane: _Plane, word: CloudWord) -> tuple[int, int] | None:
    """Return the free place (row, column of the mask's corner) whose middle costs least."""
    height, width = mask.grown.shape
    if height > plane.rows or width > plane.columns:
        return None
    corners = np.flatnonzero(taken.free_for(mask))
    ranks = plane.ranks(word)[corners + (height // 2) * plane.columns + width // 2]
    few = _FIRST_TRIES
    while len(corners):
        order = np.argpartition(ranks, few) if len(ranks) > few else np.arange(len(ranks))
        first, rest = order[:few], order[few:]
        for corner in corners[first[np.argsort(ranks[first])]].tolist():
            row, column = divmod(corner, plane.columns)
            if taken.has_room(row, column, mask):
                return row, column
        corners, ranks, few = corners[rest], ranks[rest], few * 8
    return None
