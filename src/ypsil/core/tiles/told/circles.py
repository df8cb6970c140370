"""Circles whose areas and shared areas are as large as amounts say, as far as plane circles can be."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

_HALVINGS = 60
_RASTER = 160
_TOO_MUCH = "Two sets cannot share more than the smaller one has; they are drawn as one within the other."
_BENT = "Three circles cannot be true to all shared figures at once; these are as near as distances allow."


@dataclass(frozen=True, slots=True)
class Circle:
    x: float
    y: float
    radius: float


@dataclass(frozen=True, slots=True)
class Solved:
    """Circles about some origin, in units in which an area of 1 stands for an amount of 1; what is not true of them."""

    circles: tuple[Circle, ...]
    problem: str = ""


def lens_area(first: float, second: float, distance: float) -> float:
    """Return the area that two circles share, of their radii and the distance of their middles.

    Source: the circular segment's area, r² acos(d/r) − d sqrt(r² − d²), of any handbook of geometry.

    >>> round(lens_area(1, 1, 0), 3), lens_area(1, 1, 2), round(lens_area(2, 1, 0.5), 3)
    (3.142, 0.0, 3.142)
    """
    if distance >= first + second:
        return 0.0
    if distance <= abs(first - second):
        return math.pi * min(first, second) ** 2
    to_first = (distance**2 + first**2 - second**2) / (2 * distance)
    to_second = distance - to_first

    def segment(radius: float, off: float) -> float:
        off = max(-radius, min(radius, off))
        return radius**2 * math.acos(off / radius) - off * math.sqrt(radius**2 - off**2)

    return segment(first, to_first) + segment(second, to_second)


def distance_for(first: float, second: float, area: float) -> float:
    """Return how far apart the middles of two circles are that share an area.

    >>> round(distance_for(1, 1, lens_area(1, 1, 0.8)), 6)
    0.8
    """
    low, high = abs(first - second), first + second
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        if lens_area(first, second, middle) > area:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def circles_for(amounts: Sequence[float], shared: Mapping[frozenset[int], float]) -> Solved:
    """Return one to three circles for the amounts of sets and of what each two of them share.

    Areas are true for one and two circles. For three, the areas of the circles and of what each two share are, unless
    their distances make no triangle: then the last is moved as near as it can be. What all three share follows.
    Two of three that have no figure share a quarter of the smaller one.

    >>> solved = circles_for([100, 50], {frozenset({0, 1}): 20})
    >>> [round(math.pi * circle.radius**2) for circle in solved.circles], solved.problem
    ([100, 50], '')
    """
    radii = [math.sqrt(amount / math.pi) for amount in amounts]
    problem = ""

    def apart(one: int, two: int) -> float:
        nonlocal problem
        least = min(amounts[one], amounts[two])
        area = shared.get(frozenset({one, two}), 0.25 * least)
        if area > least:
            area, problem = least, _TOO_MUCH
        if area <= 0:
            return (radii[one] + radii[two]) * 1.04
        return distance_for(radii[one], radii[two], area)

    if len(radii) < 2:
        return Solved(tuple(Circle(0.0, 0.0, radius) for radius in radii))
    first = apart(0, 1)
    circles = [Circle(0.0, 0.0, radii[0]), Circle(first, 0.0, radii[1])]
    if len(radii) > 2:
        to_first, to_second = apart(0, 2), apart(1, 2)
        if not abs(to_first - to_second) <= first <= to_first + to_second:
            problem = problem or _BENT
        x = (first**2 + to_first**2 - to_second**2) / (2 * first) if first else 0.0
        x = max(-to_first, min(to_first, x))
        circles.append(Circle(x, math.sqrt(max(0.0, to_first**2 - x**2)), radii[2]))
    return Solved(tuple(circles), problem)


def middle_of(circles: Sequence[Circle], within: frozenset[int]) -> tuple[float, float] | None:
    """Return a place for a figure in the part that is in some circles and in no other: the point that is furthest from
    its edges; nothing where there is no such part."""
    left = min(one.x - one.radius for one in circles)
    right = max(one.x + one.radius for one in circles)
    top = min(one.y - one.radius for one in circles)
    foot = max(one.y + one.radius for one in circles)
    xs, ys = np.meshgrid(np.linspace(left, right, _RASTER), np.linspace(top, foot, _RASTER))
    # How far each point is within (or, for circles that it must not be in, outside) the nearest edge.
    depth = np.full(xs.shape, np.inf)
    for place, one in enumerate(circles):
        inside = one.radius - np.hypot(xs - one.x, ys - one.y)
        depth = np.minimum(depth, inside if place in within else -inside)
    best = np.unravel_index(np.argmax(depth), depth.shape)
    return (float(xs[best]), float(ys[best])) if depth[best] > 0 else None
