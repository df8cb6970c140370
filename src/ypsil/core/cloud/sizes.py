"""How large the words of a cloud are: by their weights, and so that all of them are likely to fit."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ypsil.core.cloud.masks import CELL_PX, word_area
from ypsil.core.cloud.plane import Plane

Sizing = Literal["area", "height", "log"]
# The part of a shape that words with their air can take: more where there are many, for small ones nestle between large
# ones, the more of it is beside ink, where the air of two words can be one, and the more air there is (fitted to 450
# clouds of 6 to 300 words in five shapes, and to ten licence texts; one in three then shrinks).
_FULL, _BESIDE_INK, _MANY, _WITH_MANY, _LEVELS_OFF = 0.37, 0.542, 80, 0.076, 0.021
_LEAST_FULL = 0.25
_WITH_AIR = (0.0, 0.0, 0.287, 0.338, 0.388)
# Of the width of a shape, what the widest of the first words can take.
_NOT_WIDER = 0.94


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


class Areas:
    """What words and their air take on a plane, in px, by their sizes."""

    def __init__(self, texts: Sequence[str], family: str, weight: int, air: int) -> None:
        areas = [word_area(text, family, weight, air) for text in texts]
        self._by_square, self._by_size, wide = np.array(areas).T
        # Of the first words, the widest, in parts of its size.
        self.widest = float(wide[:3].max())
        many = math.log(len(texts) / _MANY)
        with_air = _WITH_AIR[min(air, len(_WITH_AIR) - 1)]
        self._room = _FULL + with_air + _WITH_MANY * many - _LEVELS_OFF * many**2

    def at(self, sizes: Sequence[float]) -> NDArray[np.float64]:
        """Return what each word takes in its size."""
        size = np.array(sizes)
        return np.asarray(self._by_square * size**2 + self._by_size * size)

    def can_fit(self, sizes: Sequence[float], room: float) -> bool:
        """Tell whether words in some sizes are likely to fit into a shape of so many px."""
        taken = float(self.at(sizes).sum())
        beside = float((self._by_size * np.array(sizes)).sum()) / taken
        return taken <= max(_LEAST_FULL, self._room + _BESIDE_INK * beside) * room


def first_size(areas: Areas, sizes: Sizes, plane: Plane) -> float:
    """Return the largest type size at which all words are likely to fit."""
    room = float(plane.open.sum()) * CELL_PX**2
    low, high = plane.least, 2.0 * plane.rows * CELL_PX
    while high - low > 1:
        middle = (low + high) / 2
        low, high = (middle, high) if areas.can_fit(sizes.of(middle), room) else (low, middle)
    # A word that is wider than the shape finds no room at any price.
    return max(plane.least, min(low, _NOT_WIDER * plane.widest_px / areas.widest))
