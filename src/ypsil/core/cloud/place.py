"""Placing words on a plane.

Each word, from the heaviest down, takes the free place nearest the middle: all places are tried in the
order of their distance, first those where solid parts of the word fit, then on a handful of its outline cells at once,
then exactly. The largest type size at which every word fits is searched for from above.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ypsil.core.cloud.masks import CELL_PX, WordMask, word_mask

CloudShape = Literal["rectangle", "ellipse"]
Sizing = Literal["area", "height", "log"]
SMALLEST_PX = 9.0
_FIRST_FILL = 0.72
_SHRINK = 0.93
_LEAST_LARGEST_PX = 26.0
_CHUNK = 12_000
_WORDS_A_SUM = 4


@dataclass(frozen=True, slots=True)
class CloudWord:
    """A word with its weight, which is above zero."""

    text: str
    weight: float


@dataclass(frozen=True, slots=True)
class PlacedWord:
    """A word in its place: ``x`` and ``y`` are the start of its baseline in px, ``rank`` counts from 0."""

    text: str
    weight: float
    x: float
    y: float
    size: float
    rank: int


@dataclass(frozen=True, slots=True)
class CloudLayout:
    """The placed words, those that did not fit, and the part of the plane that is ink."""

    placed: tuple[PlacedWord, ...]
    left_out: tuple[str, ...]
    ink: float


def place_words(
    words: Sequence[CloudWord],
    width: float,
    height: float,
    *,
    family: str,
    weight: int = 700,
    seed: int = 1,
    shape: CloudShape = "rectangle",
    sizing: Sizing = "area",
    smallest: float = SMALLEST_PX,
    largest: float | None = None,
) -> CloudLayout:
    """Place words on ``width`` x ``height`` px; no word is under ``smallest`` px, none above ``largest``.

    The weight is followed by a word's area, its height, or the logarithm of the weight by the height (``log``), which
    brings sizes near to each other. The same words, sizes and seed give the same layout. Words that find no room are in
    ``left_out``.
    """
    ordered = sorted(words, key=lambda word: (-word.weight, word.text))
    columns, rows = max(1, int(width // CELL_PX)), max(1, int(height // CELL_PX))
    if not ordered:
        return CloudLayout((), (), 0.0)
    plane = _Plane(columns, rows, seed, shape)
    sizes = _Sizes(tuple(word.weight for word in ordered), sizing, smallest)
    top = min(_first_size(ordered, sizes, columns * rows * plane.open_part, family, weight, width), largest or math.inf)
    least = min(max(_LEAST_LARGEST_PX, smallest), top)
    while True:
        layout = _place_all(ordered, plane, sizes.of(top), family, weight, patient=top <= least)
        if layout is not None:
            return layout
        top = max(least, top * _SHRINK)


@dataclass(frozen=True, slots=True)
class _Sizes:
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


def _first_size(
    words: Sequence[CloudWord], sizes: _Sizes, cells: float, family: str, weight: int, width: float
) -> float:
    """Guess the largest type size from the cells that all words would take at a trial size."""
    trial = 60.0
    taken = 0.0
    for word, size in zip(words, sizes.of(trial), strict=True):
        # An even type of 20 px stands for all sizes: cells grow with the square of the size.
        taken += word_mask(word.text, family, weight, 20.0).cells.sum() * (size / 20.0) ** 2
    guess = trial * (_FIRST_FILL * cells / max(1.0, taken)) ** 0.5
    widest = max(word_mask(word.text, family, weight, 20.0).cells.shape[1] for word in words[:3])
    return float(max(_LEAST_LARGEST_PX, min(guess, 20.0 * 0.94 * width / (widest * CELL_PX))))


class _Plane:
    """The cells of the plane in the order in which they are tried, and which of them are closed from the start."""

    def __init__(self, columns: int, rows: int, seed: int, shape: CloudShape) -> None:
        self.columns, self.rows = columns, rows
        y, x = np.mgrid[0:rows, 0:columns]
        across, down = (x + 0.5) / columns - 0.5, (y + 0.5) / rows - 0.5
        distance = np.hypot(across, down)
        self.closed: NDArray[np.bool_] = distance > 0.5 if shape == "ellipse" else np.zeros((rows, columns), dtype=bool)
        self.open_part = float(1 - self.closed.mean())
        tilt = np.random.default_rng(seed).uniform(0, 2 * np.pi)
        uneven = 1 + 0.12 * np.cos(np.arctan2(down, across) - tilt)
        self.order = np.argsort((distance * uneven).ravel(), kind="stable")


def _place_all(
    words: Sequence[CloudWord], plane: _Plane, sizes: list[float], family: str, weight: int, *, patient: bool
) -> CloudLayout | None:
    """Place every word in its size; return None as soon as one finds no room, unless ``patient``."""
    taken = _Taken(plane.closed)
    placed: list[PlacedWord] = []
    left_out: list[str] = []
    ink = 0
    for rank, (word, size) in enumerate(zip(words, sizes, strict=True)):
        mask = word_mask(word.text, family, weight, size)
        place = _first_free(taken, mask, plane)
        if place is None:
            if not patient:
                return None
            left_out.append(word.text)
            continue
        row, column = place
        taken.add(mask.cells, row, column)
        x, y = column * CELL_PX + mask.baseline_x, row * CELL_PX + mask.baseline_y
        placed.append(PlacedWord(word.text, word.weight, x, y, size, rank))
        ink += mask.ink_px
    area = plane.columns * plane.rows * CELL_PX**2
    return CloudLayout(tuple(placed), tuple(left_out), round(ink / area, 4))


class _Taken:
    """Which cells are taken, with their running sums: how many of a box are taken is read off its corners.

    Sums are kept modulo 65,536, which is exact for boxes of fewer cells. They are brought up to date after every few
    words: since cells are never given back, older sums only let more places through to the exact look.
    """

    def __init__(self, closed: NDArray[np.bool_]) -> None:
        self.cells = closed.copy()
        self.sums = np.zeros((closed.shape[0] + 1, closed.shape[1] + 1), dtype=np.uint16)
        self._sum_from(0)
        self._changed_from = len(closed)
        self._changes = 0

    def add(self, cells: NDArray[np.bool_], row: int, column: int) -> None:
        height, width = cells.shape
        self.cells[row : row + height, column : column + width] |= cells
        self._changed_from = min(self._changed_from, row)
        self._changes += 1
        if self._changes == _WORDS_A_SUM:
            self._sum_from(self._changed_from)
            self._changed_from, self._changes = len(self.cells), 0

    def _sum_from(self, row: int) -> None:
        below = np.cumsum(self.cells[row:], axis=1, dtype=np.uint16)
        np.cumsum(below, axis=0, out=below)
        self.sums[row + 1 :, 1:] = below + self.sums[row, 1:]

    def corners(self, mask: WordMask) -> NDArray[np.bool_]:
        """Return the rows and columns at which a mask's corner may stand, as far as its solid boxes tell."""
        rows, columns = (whole - part + 1 for whole, part in zip(self.cells.shape, mask.cells.shape, strict=True))
        free = np.ones((rows, columns), dtype=bool)
        for top, left, bottom, right in mask.solid:
            taken = self.sums[bottom : bottom + rows, right : right + columns].copy()
            taken -= self.sums[top : top + rows, right : right + columns]
            taken -= self.sums[bottom : bottom + rows, left : left + columns]
            taken += self.sums[top : top + rows, left : left + columns]
            free &= taken == 0
        return free


def _first_free(taken: _Taken, mask: WordMask, plane: _Plane) -> tuple[int, int] | None:
    """Return the free place (row, column of the mask's corner) whose middle is nearest the plane's."""
    height, width = mask.cells.shape
    if height > plane.rows or width > plane.columns:
        return None
    offsets = [row * plane.columns + column for row, column in mask.outline]
    free = taken.corners(mask)
    middles = np.zeros((plane.rows, plane.columns), dtype=bool)
    middles[height // 2 : height // 2 + free.shape[0], width // 2 : width // 2 + free.shape[1]] = free
    open_middles, flat = middles.ravel(), taken.cells.ravel()
    to_corner = (height // 2) * plane.columns + width // 2
    for start in range(0, len(plane.order), _CHUNK):
        chunk = plane.order[start : start + _CHUNK]
        corners = chunk[open_middles[chunk]] - to_corner
        for offset in offsets:
            if not len(corners):
                break
            corners = corners[~flat[corners + offset]]
        for corner in corners.tolist():
            top, left = divmod(corner, plane.columns)
            if not (taken.cells[top : top + height, left : left + width] & mask.cells).any():
                return top, left
    return None
