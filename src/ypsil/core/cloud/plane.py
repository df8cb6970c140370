"""The plane of a cloud: the cells that are open to words, and where each word is at home."""

from __future__ import annotations

import math
import zlib

import numpy as np
from numpy.typing import NDArray

from ypsil.core.cloud.masks import CELL_PX

# Before words are left out, the largest shrinks to so many px, or to this part of a small plane.
_LEAST_LARGEST_PX, _LEAST_PART = 26.0, 0.07
# Where groups gather, in parts of the width and height from the middle.
_GATHERED = 0.27
# Homes are drawn in to the middle, so that words stand closer, but less in a shape that is to be recognised.
_DRAWN_IN, _DRAWN_IN_TO_SHAPE = 0.35, 0.9
# A shape's reach is known in so many directions.
_TURNS = 256
# So finely squared distances are told from each other.
_FINE = 2**20
Point = tuple[float, float]


class Plane:
    """The cells of a shape; distances on it are in parts of its width and height.

    Its cells reach ``beyond`` the shape by so many, for air though not for ink; the shape itself stands ``edge`` px
    inside the drawing. The words of each of some ``groups`` can gather in a part of it.
    """

    def __init__(self, in_shape: NDArray[np.bool_], seed: int, *, groups: int, beyond: int, edge: int) -> None:
        self.area_px = max(1, int(in_shape.sum())) * CELL_PX**2
        self.open = np.pad(in_shape, beyond, constant_values=True)
        self.origin = edge - beyond * CELL_PX
        self.rows, self.columns = self.open.shape
        self.least: float = min(_LEAST_LARGEST_PX, _LEAST_PART * CELL_PX * min(self.rows, self.columns))
        self.widest_px = CELL_PX * int(self.open.sum(axis=1).max(initial=1))
        self._seed, self._groups = seed, groups
        rows, columns = np.nonzero(self.open)
        middle_row, middle_column = (float(places.mean()) if len(places) else 0.0 for places in (rows, columns))
        self._across = (np.arange(self.columns) - middle_column) / self.columns
        self._down = (np.arange(self.rows) - middle_row) / self.rows
        self._drawn_in = _DRAWN_IN if in_shape.all() else _DRAWN_IN_TO_SHAPE
        x, y = self._across[columns], self._down[rows]
        turns = (np.arctan2(y, x) / (2 * math.pi) * _TURNS).astype(np.int64) % _TURNS
        self._reach = np.zeros(_TURNS)
        np.maximum.at(self._reach, turns, np.hypot(x, y))
        self._upto = np.cumsum(self._reach**2) / max(1e-9, float((self._reach**2).sum()))

    def draw(self, text: str, what: str) -> int:
        """Return a number that depends on the seed and a word's letters alone, however they are capitalised."""
        return zlib.crc32(f"{self._seed} {what} {text.casefold()}".encode())

    def home(self, text: str, before: float, group: int) -> Point:
        """Return where a word is at home.

        Its letters and the seed give it a side; it is about as far from the middle, or from where its group gathers, as
        those that come ``before`` it reach when they take that part of the shape.
        """
        turn = min(_TURNS - 1, int(np.searchsorted(self._upto, self.draw(text, "side") / 2**32)))
        far = float(self._reach[turn]) * math.sqrt(self._drawn_in * min(1.0, before))
        angle = 2 * math.pi * (turn + 0.5) / _TURNS
        x, y = far * math.cos(angle), far * math.sin(angle)
        if self._groups == 1:
            return x, y
        # On a ring, the first group at the left.
        part, angle = 1 / (2 * self._groups), math.pi + 2 * math.pi * group / self._groups
        return _GATHERED * math.cos(angle) + part * x, _GATHERED * math.sin(angle) + part * y

    def ranks(self, home: Point) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
        """Return a number for each row of cells and one for each column: their sums are in the order of the distances
        of cells from a place, each once."""
        across, down = (
            np.rint(_FINE * (places - at) ** 2).astype(np.int64) * self.open.size
            for places, at in zip((self._across, self._down), home, strict=True)
        )
        # Of cells that are equally far, the first one comes first.
        return down + np.arange(self.rows) * self.columns, across + np.arange(self.columns)
