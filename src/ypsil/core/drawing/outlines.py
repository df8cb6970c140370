"""Outlines in SVG path syntax as points: what lies inside one, and where it runs."""

from __future__ import annotations

import itertools
import math
import re
from collections.abc import Sequence

Point = tuple[float, float]

_COMMAND = re.compile(r"([MLAZ])([^MLAZ]*)")
_NUMBER = re.compile(r"-?\d+(?:\.\d+)?(?:e-?\d+)?")
_ARC_STEPS = 12


def outline_points(d: str, x: float = 0.0, y: float = 0.0) -> list[Point]:
    """Return the points of an outline of moves, lines and arcs of circles (absolute M, L, A), moved by ``x`` and ``y``.

    >>> outline_points("M0 0L10 0L10 5Z", 1, 1)
    [(1.0, 1.0), (11.0, 1.0), (11.0, 6.0)]
    """
    found: list[Point] = []
    for command, text in _COMMAND.findall(d):
        numbers = [float(number) for number in _NUMBER.findall(text)]
        if command == "A":
            for place in range(0, len(numbers) - 6, 7):
                radius, _, _, large, sweep, *end = numbers[place : place + 7]
                found += _arc(found[-1], (end[0], end[1]), radius, large=bool(large), clockwise=bool(sweep))
        else:
            found += [(numbers[place], numbers[place + 1]) for place in range(0, len(numbers) - 1, 2)]
    return [(px + x, py + y) for px, py in found]


def _arc(start: Point, end: Point, radius: float, *, large: bool, clockwise: bool) -> list[Point]:
    """Return points along an arc of a circle, its end the last. Source: SVG 2, appendix B.2.4."""
    (x1, y1), (x2, y2) = start, end
    half = math.hypot(x2 - x1, y2 - y1) / 2
    if half == 0 or radius <= 0:
        return [end]
    away = math.sqrt(max(0.0, radius * radius - half * half)) * (1 if large != clockwise else -1)
    centre_x = (x1 + x2) / 2 + away * (y1 - y2) / (2 * half)
    centre_y = (y1 + y2) / 2 + away * (x2 - x1) / (2 * half)
    first = math.atan2(y1 - centre_y, x1 - centre_x)
    turn = math.atan2(y2 - centre_y, x2 - centre_x) - first
    if clockwise and turn < 0:
        turn += 2 * math.pi
    if not clockwise and turn > 0:
        turn -= 2 * math.pi
    angles = [first + turn * step / _ARC_STEPS for step in range(1, _ARC_STEPS + 1)]
    return [(centre_x + radius * math.cos(angle), centre_y + radius * math.sin(angle)) for angle in angles]


def is_inside(point: Point, outline: Sequence[Point]) -> bool:
    """Tell whether a point lies inside an outline, by how often a level ray from it crosses the outline.

    >>> square = [(0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0)]
    >>> is_inside((5, 5), square), is_inside((15, 5), square)
    (True, False)
    """
    x, y = point
    crossed = False
    for (x1, y1), (x2, y2) in itertools.pairwise((*outline, outline[0]) if outline else ()):
        if (y1 > y) != (y2 > y) and x < (x2 - x1) * (y - y1) / (y2 - y1) + x1:
            crossed = not crossed
    return crossed
