"""Numbers in classes: their borders and their names."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from ypsil.core.figures import format_number

MOST_CLASSES = 200
_MOST_DECIMALS = 6


def even_edges(low: float, high: float, count: int) -> list[float]:
    """Return the borders of ``count`` classes of one width from ``low`` to ``high``, both included.

    Values that are all the same get classes around them, as numpy's ``histogram_bin_edges`` gives.

    >>> even_edges(0, 10, 4), even_edges(3, 3, 1)
    ([0.0, 2.5, 5.0, 7.5, 10.0], [2.5, 3.5])
    """
    if low == high:
        low, high = low - 0.5, high + 0.5
    return [float(edge) for edge in np.linspace(low, high, count + 1)]


def edges_of_width(low: float, high: float, width: float) -> list[float]:
    """Return multiples of ``width`` from below ``low`` to above ``high``.

    >>> edges_of_width(3, 20, 10), edges_of_width(-0.2, 0.25, 0.1)[:3]
    ([0.0, 10.0, 20.0, 30.0], [-0.2, -0.1, 0.0])
    """
    first, last = math.floor(low / width + 1e-9), math.floor(high / width + 1e-9)
    return [float(round(index * width, 12)) for index in range(first, last + 2)]


def class_of(values: np.ndarray, edges: Sequence[float]) -> np.ndarray:
    """Return the number of each value's class; a class holds its lower border, the last one both.

    >>> class_of(np.array([0, 2.5, 10]), [0, 2.5, 5, 10]).tolist()
    [0, 1, 2]
    """
    found = np.searchsorted(np.asarray(edges), values, side="right") - 1
    return np.clip(found, 0, len(edges) - 2)


def class_names(edges: Sequence[float], *, unit: str | None = None, last_closed: bool = False) -> list[str]:
    """Return the names of the classes between borders.

    >>> class_names([0, 10, 20])
    ['0 to under 10', '10 to under 20']
    >>> class_names([0, 0.5, 1], last_closed=True)
    ['0.0 to under 0.5', '0.5 to 1.0']
    """
    shown = border_texts(edges, unit)
    names = [f"{low} to under {high}" for low, high in pairwise(shown)]
    return [*names[:-1], f"{shown[-2]} to {shown[-1]}"] if last_closed else names


def border_texts(edges: Sequence[float], unit: str | None = None) -> list[str]:
    """Return borders with as few decimals as tell them apart and say them to a tenth of a class."""
    width = min((high - low for low, high in pairwise(edges)), default=1.0) * (100 if unit == "%" else 1)
    scale = 100 if unit == "%" else 1
    for decimals in range(_MOST_DECIMALS + 1):
        off = max(abs(edge * scale - round(edge * scale, decimals)) for edge in edges)
        if off <= 0.05 * width:
            break
    return [format_number(edge, decimals=decimals, unit=unit) for edge in edges]
