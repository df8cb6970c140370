"""Routes: lines from one rectangle to another, straight, with elbows or as a curve, in px."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from ypsil.core.drawing.svg import number as px

Side = Literal["left", "top", "right", "foot"]
Way = Literal["straight", "elbow", "curve"]
Point = tuple[float, float]

_OUTWARD: dict[Side, Point] = {"left": (-1, 0), "right": (1, 0), "top": (0, -1), "foot": (0, 1)}
_FACING: dict[Side, Side] = {"left": "right", "right": "left", "top": "foot", "foot": "top"}
# How far a line with elbows goes straight on before it may bend.
_STUB = 16.0
_CORNER = 9.0
# How long a line over a narrow gap is at least, where it touches both sides, and how much of it marks may take.
_LEAST_LINE, _MARKED = 16.0, 0.9
# What a bend, a way through what stands between, through what it connects, and straight back cost, in px of way.
_BEND, _AROUND, _THROUGH, _BACK = 14.0, 3_000.0, 20_000.0, 60_000.0
# How far a curve's handles reach: so much of the distance, within bounds.
_REACH, _LEAST_REACH, _MOST_REACH = 0.5, 28.0, 220.0
_CURVE_STEPS = 24
# How far a way keeps from rectangles, as a part of its stub; what only touches one does not go through it.
_AIR, _TOUCH = 0.6, 0.5


@dataclass(frozen=True, slots=True)
class Span:
    """A rectangle that routes start and end at."""

    x: float
    y: float
    width: float
    height: float

    @property
    def right(self) -> float:
        return self.x + self.width

    @property
    def foot(self) -> float:
        return self.y + self.height

    def at(self, side: Side, away: float = 0.0) -> Point:
        """Return the middle of a side, or a point so far outside of it."""
        across, down = _OUTWARD[side]
        x = self.x + self.width * (1 + across) / 2 + across * away
        return x, self.y + self.height * (1 + down) / 2 + down * away

    def moved(self, x: float, y: float) -> Span:
        return Span(self.x + x, self.y + y, self.width, self.height)

    def with_(self, other: Span) -> Span:
        """Return the smallest rectangle that holds both."""
        x, y = min(self.x, other.x), min(self.y, other.y)
        return Span(x, y, max(self.right, other.right) - x, max(self.foot, other.foot) - y)

    def meets(self, other: Span) -> bool:
        across = self.x < other.right and other.x < self.right
        return across and self.y < other.foot and other.y < self.foot

    def turned(self, degrees: float) -> Span:
        """Return the smallest upright rectangle that holds this one, turned about its middle.

        >>> Span(0, 0, 30, 10).turned(90)
        Span(x=10.0, y=-10.0, width=10.0, height=30.0)
        """
        cos, sin = abs(math.cos(math.radians(degrees))), abs(math.sin(math.radians(degrees)))
        width, height = self.width * cos + self.height * sin, self.width * sin + self.height * cos
        x, y = self.x + (self.width - width) / 2, self.y + (self.height - height) / 2
        return Span(round(x, 3), round(y, 3), round(width, 3), round(height, 3))


@dataclass(frozen=True, slots=True)
class Route:
    """A line: its outline in SVG path syntax, the points along it, where its words stand, and at each end the point
    that a mark touches with the way (a unit vector) that the line has there."""

    outline: str
    points: tuple[Point, ...]
    middle: Point
    start: Point
    end: Point
    leaves: Point
    arrives: Point

    def length(self) -> float:
        return sum(math.dist(one, other) for one, other in pairwise(self.points))


def sides_between(start: Span, end: Span) -> tuple[Side, Side]:
    """Return the sides that a line between two rectangles leaves and arrives at: those that face each other over the
    wider gap; where they overlap, both right sides.

    >>> sides_between(Span(0, 0, 10, 10), Span(40, 5, 10, 10)), sides_between(Span(0, 0, 10, 10), Span(4, 4, 10, 10))
    (('right', 'left'), ('right', 'right'))
    """
    gaps = _gaps(start, end)
    side = max(gaps, key=lambda one: gaps[one])
    return (side, _FACING[side]) if gaps[side] >= 0 else ("right", "right")


def route(
    start: Span,
    end: Span,
    way: Way = "elbow",
    *,
    sides: tuple[Side | None, Side | None] = (None, None),
    gap: float = 0.0,
    trims: tuple[float, float] = (0.0, 0.0),
    zoom: float = 1.0,
    around: Sequence[Span] = (),
) -> Route:
    """Return a line between two rectangles; one with elbows goes ``around`` others as well as it can.

    ``sides`` are those that it is to leave and arrive at (None: as fits). It keeps ``gap`` px from both; the line
    itself ends so many px earlier at each end as ``trims`` say, which is room for marks. ``zoom`` is how many times as
    large as usual its bends are.
    """
    usual = sides_between(start, end)
    leaving, arriving = sides[0] or usual[0], sides[1] or usual[1]
    near = _across_a_gap(start, end, (leaving, arriving), gap, zoom)
    if near is not None:
        return _straight(*near, trims)
    if way == "elbow":
        return _elbow(_Room(start, end, tuple(around), _STUB * zoom), (leaving, arriving), sides, gap, trims, zoom)
    first, last = start.at(leaving, gap), end.at(arriving, gap)
    if way == "straight":
        return _straight(first, last, trims)
    return _curve(first, last, (_OUTWARD[leaving], _OUTWARD[arriving]), trims, zoom)


def _across_a_gap(
    start: Span, end: Span, sides: tuple[Side, Side], gap: float, zoom: float
) -> tuple[Point, Point] | None:
    """Return the ends of a line over a gap that has no room for bends, as high as both rectangles are there; None where
    there is room, or no such height."""
    leaving, arriving = sides
    if _FACING[leaving] != arriving:
        return None
    level = leaving in ("left", "right")
    free = _gaps(start, end)[leaving]
    low = max(start.y, end.y) if level else max(start.x, end.x)
    high = min(start.foot, end.foot) if level else min(start.right, end.right)
    if not 0 < free < 2 * (gap + _STUB * zoom) or high <= low:
        return None
    air = min(gap, max(0.0, (free - _LEAST_LINE * zoom) / 2))
    middle = (low + high) / 2
    (x1, y1), (x2, y2) = start.at(leaving, air), end.at(arriving, air)
    return ((x1, middle), (x2, middle)) if level else ((middle, y1), (middle, y2))


def _gaps(start: Span, end: Span) -> dict[Side, float]:
    """Return how far a rectangle lies beyond each side of another, below 0 where it does not."""
    return {
        "right": end.x - start.right,
        "left": start.x - end.right,
        "foot": end.y - start.foot,
        "top": start.y - end.foot,
    }


def _straight(first: Point, last: Point, trims: tuple[float, float]) -> Route:
    along, length = _unit(first, last), math.dist(first, last)
    # Two marks on a short line leave it a little.
    part = min(1.0, _MARKED * length / max(sum(trims), 1e-9))
    points = (_towards(first, along, trims[0] * part), _towards(last, along, -trims[1] * part))
    return Route(_lines(points), points, _half(first, last), first, last, along, along)


def _curve(first: Point, last: Point, outward: tuple[Point, Point], trims: tuple[float, float], zoom: float) -> Route:
    reach = min(_MOST_REACH * zoom, max(_LEAST_REACH * zoom, math.dist(first, last) * _REACH))
    begin, finish = _towards(first, outward[0], trims[0]), _towards(last, outward[1], trims[1])
    handles = _towards(first, outward[0], reach), _towards(last, outward[1], reach)
    bezier = (begin, *handles, finish)
    points = tuple(_on_curve(bezier, step / _CURVE_STEPS) for step in range(_CURVE_STEPS + 1))
    said = " ".join(f"{px(x)} {px(y)}" for x, y in bezier[1:])
    outline = f"M{px(begin[0])} {px(begin[1])}C{said}"
    return Route(outline, points, _on_curve(bezier, 0.5), first, last, outward[0], _back(outward[1]))


@dataclass(frozen=True, slots=True)
class _Room:
    """What a line with elbows leads from and to, what it goes round, and how far it keeps from it (px)."""

    start: Span
    end: Span
    around: tuple[Span, ...]
    stub: float

    def lanes(self) -> tuple[list[float], list[float]]:
        """Return where a way beside something could lie: across, and down."""
        every = (self.start, self.end, *self.around)
        across = [x for one in every for x in (one.x - self.stub, one.right + self.stub)]
        return across, [y for one in every for y in (one.y - self.stub, one.foot + self.stub)]


def _elbow(
    room: _Room,
    usual: tuple[Side, Side],
    wanted: tuple[Side | None, Side | None],
    gap: float,
    trims: tuple[float, float],
    zoom: float,
) -> Route:
    """Return a way with right angles: between the usual sides, or, where something stands in that way and no others
    are wanted, between two sides that look the same way."""
    sides, corners = usual, _corners(room, usual, gap)
    if _cost(corners, room) >= _AROUND:
        alike: list[tuple[Side, Side]] = [("foot", "foot"), ("top", "top"), ("right", "right"), ("left", "left")]
        free = [
            usual,
            *(pair for pair in alike if all(want in (None, one) for want, one in zip(wanted, pair, strict=True))),
        ]
        found = {pair: _corners(room, pair, gap) for pair in free}
        sides = min(free, key=lambda pair: _cost(found[pair], room))
        corners = found[sides]
    outward = _OUTWARD[sides[0]], _OUTWARD[sides[1]]
    begin, finish = _towards(corners[0], outward[0], trims[0]), _towards(corners[-1], outward[1], trims[1])
    points = (begin, *corners[1:-1], finish)
    outline = _rounded(points, _CORNER * zoom)
    return Route(outline, points, _amid_longest(corners), corners[0], corners[-1], outward[0], _back(outward[1]))


def _corners(room: _Room, sides: tuple[Side, Side], gap: float) -> tuple[Point, ...]:
    """Return the corners of the best way between two sides."""
    first, last = room.start.at(sides[0], gap), room.end.at(sides[1], gap)
    bent = _towards(first, _OUTWARD[sides[0]], room.stub), _towards(last, _OUTWARD[sides[1]], room.stub)
    corners = min(((first, *one, last) for one in _short_ways(bent, room)), key=lambda way: _cost(way, room))
    if _cost(corners, room) >= _AROUND:
        longer = ((first, *one, last) for one in _long_ways(bent, room))
        corners = min((corners, *longer), key=lambda way: _cost(way, room))
    return _plain(corners)


def _short_ways(bent: tuple[Point, Point], room: _Room) -> Iterator[tuple[Point, ...]]:
    """Yield ways with right angles only from one point to another, straight across once."""
    (x1, y1), (x2, y2) = bent
    across, down = room.lanes()
    # Of ways that are as good the first is taken: the one that bends half way.
    for x in ((x1 + x2) / 2, x1, x2, *across):
        yield (x1, y1), (x, y1), (x, y2), (x2, y2)
    for y in ((y1 + y2) / 2, y1, y2, *down):
        yield (x1, y1), (x1, y), (x2, y), (x2, y2)


def _long_ways(bent: tuple[Point, Point], room: _Room) -> Iterator[tuple[Point, ...]]:
    """Yield ways that go round something."""
    (x1, y1), (x2, y2) = bent
    across, down = room.lanes()
    for x in (x1, x2, *across):
        for y in (y1, y2, *down):
            yield (x1, y1), (x, y1), (x, y), (x2, y), (x2, y2)
            yield (x1, y1), (x1, y), (x, y), (x, y2), (x2, y2)


def _cost(points: Sequence[Point], room: _Room) -> float:
    plain = _plain(points)
    parts = [*pairwise(plain)]
    length = sum(math.dist(one, other) for one, other in parts)
    # Near what it leaves and what it arrives at it can only be as its first part and its last.
    air = room.stub * _AIR
    through = sum(_goes_through(*part, room.start, air if place else 0) for place, part in enumerate(parts))
    through += sum(_goes_through(*part, room.end, air if place else 0) for place, part in enumerate(reversed(parts)))
    beside = sum(_goes_through(*part, span, 0) for part in parts for span in room.around)
    back = sum(_turns_back(*three) for three in zip(plain, plain[1:], plain[2:], strict=False))
    return length + _BEND * len(plain) + _THROUGH * through + _AROUND * beside + _BACK * back


def _plain(points: Sequence[Point]) -> tuple[Point, ...]:
    """Return corners without those that are none: points that stand twice, or on the way to the next."""
    found: list[Point] = []
    for point in points:
        if found and math.dist(found[-1], point) < 1e-6:
            continue
        while len(found) > 1 and _is_between(found[-2], found[-1], point):
            found.pop()
        found.append(point)
    return tuple(found)


def _is_between(one: Point, middle: Point, other: Point) -> bool:
    (x1, y1), (x2, y2), (x3, y3) = one, middle, other
    is_level = abs(y1 - y2) < 1e-6 and abs(y2 - y3) < 1e-6 and (x2 - x1) * (x3 - x2) >= 0
    is_upright = abs(x1 - x2) < 1e-6 and abs(x2 - x3) < 1e-6 and (y2 - y1) * (y3 - y2) >= 0
    return is_level or is_upright


def _turns_back(one: Point, middle: Point, other: Point) -> bool:
    across = (middle[0] - one[0]) * (other[0] - middle[0])
    return across + (middle[1] - one[1]) * (other[1] - middle[1]) < -1e-6


def _goes_through(one: Point, other: Point, span: Span, air: float) -> bool:
    left, right = min(one[0], other[0]), max(one[0], other[0])
    top, foot = min(one[1], other[1]), max(one[1], other[1])
    by = air - _TOUCH
    return left < span.right + by and right > span.x - by and top < span.foot + by and foot > span.y - by


def _rounded(points: Sequence[Point], corner: float) -> str:
    parts = [f"M{px(points[0][0])} {px(points[0][1])}"]
    for one, bend, other in zip(points, points[1:], points[2:], strict=False):
        r = min(corner, math.dist(one, bend) / 2, math.dist(bend, other) / 2)
        (x1, y1), (x2, y2) = _towards(bend, _unit(bend, one), r), _towards(bend, _unit(bend, other), r)
        parts.append(f"L{px(x1)} {px(y1)}Q{px(bend[0])} {px(bend[1])} {px(x2)} {px(y2)}")
    return "".join(parts) + f"L{px(points[-1][0])} {px(points[-1][1])}"


def _lines(points: Sequence[Point]) -> str:
    return "M" + "L".join(f"{px(x)} {px(y)}" for x, y in points)


def _amid_longest(points: Sequence[Point]) -> Point:
    """Return the middle of the longest of the parts between corners."""
    return _half(*max(pairwise(points), key=lambda part: math.dist(*part)))


def _on_curve(bezier: Sequence[Point], at: float) -> Point:
    weights = ((1 - at) ** 3, 3 * at * (1 - at) ** 2, 3 * at**2 * (1 - at), at**3)
    x = sum(weight * point[0] for weight, point in zip(weights, bezier, strict=True))
    return x, sum(weight * point[1] for weight, point in zip(weights, bezier, strict=True))


def _unit(one: Point, other: Point) -> Point:
    length = math.dist(one, other)
    return ((other[0] - one[0]) / length, (other[1] - one[1]) / length) if length else (1.0, 0.0)


def _towards(point: Point, way: Point, length: float) -> Point:
    return point[0] + way[0] * length, point[1] + way[1] * length


def _half(one: Point, other: Point) -> Point:
    return (one[0] + other[0]) / 2, (one[1] + other[1]) / 2


def _back(way: Point) -> Point:
    return -way[0], -way[1]
