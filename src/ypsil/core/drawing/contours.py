"""Outlines of icons and letters: moved and scaled, and how far up or across a part of their area reaches."""

from __future__ import annotations

import itertools
import math
import re
from collections.abc import Callable
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ypsil.core.drawing.svg import number as px

Axis = Literal["up", "right"]
Point = tuple[float, float]

_COMMAND = re.compile(r"([MLCQZ])([^MLCQZ]*)")
_NUMBER = re.compile(r"-?\d*\.?\d+(?:e-?\d+)?")
_CURVE_STEPS = np.linspace(0, 1, 9)[1:]
# For curves of the second and third degree, how much each point counts at each step.
_WEIGHTS = {
    degree: np.stack(
        [math.comb(degree, k) * _CURVE_STEPS**k * (1 - _CURVE_STEPS) ** (degree - k) for k in range(degree + 1)], axis=1
    )
    for degree in (2, 3)
}
_SLICES = 200


def mapped(d: str, place: Callable[[float, float], Point]) -> str:
    """Return an outline of absolute moves, lines and curves (M, L, C, Q, Z) with each point put elsewhere.

    >>> mapped("M1 2L3 4Z", lambda x, y: (10 * x, y + 1))
    'M10 3L30 5Z'
    """
    return "".join(
        command + " ".join(f"{px(x)} {px(y)}" for x, y in itertools.starmap(place, points))
        for command, points in _commands(d)
    )


def _commands(d: str) -> list[tuple[str, list[Point]]]:
    found = []
    for command, text in _COMMAND.findall(d):
        numbers = [float(number) for number in _NUMBER.findall(text)]
        found.append((command, list(zip(numbers[::2], numbers[1::2], strict=True))))
    return found


def level(d: str, share: float, axis: Axis) -> float:
    """Return how far along its extent an outline must be filled, so that ``share`` of its area is.

    All are from 0 to 1; ``up`` fills from the bottom, ``right`` from the left. Areas are those of the non-zero rule
    (SVG 2, section 13.4.2), measured along 200 lines.

    >>> round(level("M0 0L10 0L5 10Z", 0.25, "up"), 2)
    0.5
    """
    if share <= 0 or share >= 1:
        return float(share >= 1)
    filled = _filled(d, axis)
    ends = np.linspace(0, 1, len(filled))
    return float(np.interp(share, filled, ends))


@lru_cache(maxsize=512)
def _filled(d: str, axis: Axis) -> NDArray[np.float64]:
    """Return which share of an outline's area lies before each of the ends of its slices."""
    edges = _edges(d)
    if axis == "up":
        # Turned so that slices lie along x and their order is from the bottom.
        edges = np.stack((-edges[:, 1], edges[:, 0], -edges[:, 3], edges[:, 2]), axis=1)
    low, high = edges[:, (0, 2)].min(), edges[:, (0, 2)].max()
    places = low + (np.arange(_SLICES) + 0.5) / _SLICES * (high - low)
    lengths = np.array([_length_inside(edges, place) for place in places])
    total = lengths.sum()
    parts = lengths / total if total else np.full(_SLICES, 1 / _SLICES)
    return np.concatenate(([0.0], np.cumsum(parts)))


def raster(d: str, columns: int, rows: int) -> NDArray[np.bool_]:
    """Return which cells of a grid, each of length 1, have their middle inside an outline, by the non-zero rule.

    >>> raster("M0 0L4 0L4 2L0 2Z M1 0L1 2L3 2L3 0Z", 4, 2).astype(int).tolist()
    [[1, 0, 0, 1], [1, 0, 0, 1]]
    """
    x1, y1, x2, y2 = _edges(d).T
    # Every crossing of an edge with the middle line of a row turns the winding number of the cells right of it.
    first = np.clip(np.ceil(np.minimum(y1, y2) - 0.5), 0, rows).astype(int)
    counts = np.maximum(np.clip(np.ceil(np.maximum(y1, y2) - 0.5), 0, rows).astype(int) - first, 0)
    edge = np.repeat(np.arange(len(counts)), counts)
    row = np.arange(len(edge)) - np.repeat(np.cumsum(counts) - counts - first, counts)
    slope = np.divide(x2 - x1, y2 - y1, out=np.zeros_like(x1), where=y1 != y2)
    at = x1[edge] + (row + 0.5 - y1[edge]) * slope[edge]
    column = np.clip(np.floor(at - 0.5) + 1, 0, columns).astype(int)
    turns = np.where(y2 > y1, 1, -1)[edge]
    places = row * (columns + 1) + column
    winding = np.bincount(places, turns, rows * (columns + 1)).reshape(rows, columns + 1)
    return np.asarray(np.cumsum(winding, axis=1)[:, :columns] != 0)


def _length_inside(edges: NDArray[np.float64], place: float) -> float:
    """Return how much of the line at ``place`` lies inside, by the non-zero rule."""
    x1, y1, x2, y2 = edges.T
    crosses = (x1 > place) != (x2 > place)
    x1, y1, x2, y2 = x1[crosses], y1[crosses], x2[crosses], y2[crosses]
    at = y1 + (place - x1) * (y2 - y1) / (x2 - x1)
    order = np.argsort(at)
    winding = np.cumsum(np.sign(x2 - x1)[order])
    gaps = np.diff(at[order])
    return float(gaps[winding[:-1] != 0].sum()) if len(gaps) else 0.0


def _edges(d: str) -> NDArray[np.float64]:
    """Return the straight edges (x1, y1, x2, y2) of an outline, curves as eight of them, each contour closed."""
    edges: list[tuple[float, float, float, float]] = []
    start: Point | None = None
    here: Point = (0.0, 0.0)

    def go(end: Point) -> None:
        nonlocal here
        edges.append((*here, *end))
        here = end

    for command, points in _commands(d):
        if command in "MZ" and start is not None:
            go(start)
        if command == "M":
            start = here = points[0]
        elif command == "L":
            for point in points:
                go(point)
        elif command in "CQ":
            for point in _curve([here, *points]):
                go(point)
    if start is not None:
        go(start)
    return np.array(edges, dtype=float).reshape(-1, 4)


def _curve(points: list[Point]) -> list[Point]:
    """Return points along a curve of Bézier, by the polynomials of Bernstein."""
    x, y = (_WEIGHTS[len(points) - 1] @ np.array(points)).T
    return list(zip(x.tolist(), y.tolist(), strict=True))
