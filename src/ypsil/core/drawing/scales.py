"""From data to px."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np


@dataclass(frozen=True, slots=True)
class LinearScale:
    """Maps numbers of ``domain`` to px of ``range``, in proportion.

    >>> LinearScale((0, 200), (300, 0))(50)
    225.0
    """

    domain: tuple[float, float]
    range: tuple[float, float]

    def __call__(self, value: float) -> float:
        low, high = self.domain
        start, stop = self.range
        return start + (value - low) / ((high - low) or 1) * (stop - start)

    def all(self, values: np.ndarray) -> np.ndarray:
        """Map an array of numbers; NaN stays NaN."""
        low, high = self.domain
        start, stop = self.range
        placed: np.ndarray = values - low
        placed *= (stop - start) / ((high - low) or 1)
        placed += start
        return placed


@dataclass(frozen=True, slots=True)
class BandScale:
    """Gives each of ``count`` members an equal band of ``range``; ``padding`` is the gap as a part of a step.

    >>> band = BandScale(4, (0, 400), 0.25); band.start(1), band.width, band.middle(0)
    (112.5, 75.0, 50.0)
    """

    count: int
    range: tuple[float, float]
    padding: float = 0.3
    step: float = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "step", (self.range[1] - self.range[0]) / max(1, self.count))

    @property
    def width(self) -> float:
        return self.step * (1 - self.padding)

    def start(self, index: int) -> float:
        return self.range[0] + index * self.step + self.step * self.padding / 2

    def middle(self, index: int) -> float:
        return self.range[0] + (index + 0.5) * self.step
