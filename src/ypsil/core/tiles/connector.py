"""Connector: a line or an arrow from one tile to another, which follows both."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any, Literal, Self

from pydantic import Field

from ypsil.core.document.model import Frame
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.routes import Point, Route, Side, Span, route
from ypsil.core.drawing.scene import Path, Scene, Shape, Text
from ypsil.core.drawing.svg import number as px
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.grounds import TONE_CHOICES, Tone, tone
from ypsil.core.tiles.base import TileKind
from ypsil.core.tiles.context import Context, Drawn, Ends
from ypsil.core.tiles.shape import DASHES
from ypsil.core.visuals import Box

LOST = "What this connected is no longer on the page."
APART = "What this connects stands on two pages."
_MOST_SAID = 60
# What is left free between a line and what it connects, and how large marks are beside the line's width.
_GAP = 5.0
_MARK, _LEAST_MARK = 3.2, 9.0
# How wide, of its length, an arrow's head is to each side.
_HEAD = 0.46
_MOST_LABEL = 150.0
_ROOM_X, _ROOM_Y = 6.0, 2.0
# How far from a line a press still means it.
_REACH_PX = 9.0
_EDGE = 1.5
# Words stand beside a line that is no longer than so many times what they take of it.
_COVERED = 1.6

AnySide = Literal["", "left", "top", "right", "foot"]
Mark = Literal["none", "arrow", "open", "dot", "bar"]
_SIDES: dict[str, Any] = {"labels": ["as fits", "left", "top", "right", "foot"]}
_MARKS: dict[str, Any] = {"labels": ["nothing", "arrow", "open arrow", "dot", "bar"]}


class ConnectorTile(TileKind):
    called = "connector"
    settings = (
        "way", "says", "from_mark", "to_mark", "colour", "line_width", "dash", "from_side", "to_side",
    )  # fmt: skip
    folded = {
        **dict.fromkeys(("from_mark", "to_mark"), "Ends"),
        **dict.fromkeys(("colour", "line_width", "dash"), "Line"),
        **dict.fromkeys(("from_side", "to_side"), "Sides"),
    }
    type: Literal["connector"] = "connector"
    # It stands between others: its own place says only what it lies over.
    place: Frame | None = Frame(column=0, row=0, width=1, height=1, layer=1)
    from_tile: str = Field("", max_length=16)
    to_tile: str = Field("", max_length=16)
    way: Literal["straight", "elbow", "curve"] = Field(
        "elbow", title="It goes", json_schema_extra={"labels": ["straight", "round corners", "in a curve"]}
    )
    says: str = Field("", max_length=120, title="Words on it")
    from_mark: Mark = Field("none", title="It starts with", json_schema_extra=_MARKS)
    to_mark: Mark = Field("arrow", title="It ends with", json_schema_extra=_MARKS)
    colour: Tone = Field("ink", title="Colour", json_schema_extra=TONE_CHOICES)
    line_width: float = Field(2, ge=0.5, le=24, title="Its width, px")
    dash: Literal["solid", "dashed", "dotted"] = Field("solid", title="It is")
    from_side: AnySide = Field("", title="It leaves at", json_schema_extra=_SIDES)
    to_side: AnySide = Field("", title="It arrives at", json_schema_extra=_SIDES)

    def joins(self) -> tuple[str, ...]:
        return (self.from_tile, self.to_tile)

    def joining(self, names: Mapping[str, str]) -> Self:
        update = {name: names.get(getattr(self, name), getattr(self, name)) for name in ("from_tile", "to_tile")}
        return self.model_copy(update=update)

    def usual_size(self) -> tuple[int, int]:
        return (1, 1)

    def spans(self, ends: Ends, context: Context) -> Span:
        found = self._route(ends, context.page.zoom)
        size = self._mark_px(context.page.zoom) + self.line_width * context.page.zoom
        lines, wide, high = self._label(context)
        points = [*found.points, found.start, found.end]
        if lines:
            (x, y) = self._words_at(found, wide, high, context)
            points += [(x - wide / 2, y - high / 2), (x + wide / 2, y + high / 2)]
        left, top = min(x for x, _ in points) - size, min(y for _, y in points) - size
        right, foot = max(x for x, _ in points) + size, max(y for _, y in points) + size
        return Span(left, top, right - left, foot - top)

    def pressed(self, context: Context) -> tuple[Point, ...]:
        if context.ends is None:
            return ()
        points = self._route(context.ends, context.page.zoom).points
        return _band(points, _REACH_PX + self.line_width * context.page.zoom / 2)

    def draws(self, box: Box, context: Context) -> Drawn:
        if context.ends is None:
            return Drawn(Scene(box.width, box.height, ()), problem=context.apart or LOST)
        zoom = context.page.zoom
        found = self._route(context.ends, zoom)
        colour, wide = tone(context.style, self.colour), self.line_width * zoom
        dash = " ".join(f"{float(part) * wide:g}" for part in DASHES[self.dash].split())
        shapes: list[Shape] = []
        if context.ends.is_across:
            # From one ground to another no colour is sure to be seen on both.
            edge = max((context.house.paper, context.house.ink), key=lambda one: contrast_ratio(one, colour))
            shapes.append(Path(found.outline, "none", edge, wide + 2 * _EDGE * zoom, is_round=True))
        shapes.append(Path(found.outline, "none", colour, wide, dash=dash, is_round=self.dash == "dotted"))
        size = self._mark_px(zoom)
        shapes += _MADE[self.from_mark](found.start, (-found.leaves[0], -found.leaves[1]), size, wide, colour)
        shapes += _MADE[self.to_mark](found.end, found.arrives, size, wide, colour)
        shapes += self._words(found, context)
        return Drawn(Scene(box.width, box.height, tuple(shapes), self._said(context.ends), self.says.strip()))

    def _route(self, ends: Ends, zoom: float) -> Route:
        sides: tuple[Side | None, Side | None] = (self.from_side or None, self.to_side or None)
        size = self._mark_px(zoom)
        trims = (size * _TRIMS[self.from_mark], size * _TRIMS[self.to_mark])
        return route(
            ends.start, ends.end, self.way, sides=sides, gap=_GAP * zoom, trims=trims, zoom=zoom, around=ends.around
        )

    def _mark_px(self, zoom: float) -> float:
        return max(_LEAST_MARK, self.line_width * _MARK) * zoom

    def _label(self, context: Context) -> tuple[list[str], float, float]:
        """Return the lines of what it says, with the width and height (px) of what they stand on."""
        if not self.says.strip():
            return [], 0.0, 0.0
        font, zoom = context.font("label"), context.page.zoom
        lines = wrap(self.says.strip(), _MOST_LABEL * zoom, font)
        wide = max(text_width(line, font) for line in lines) + 2 * _ROOM_X * zoom
        return lines, wide, len(lines) * font.line_height + 2 * _ROOM_Y * zoom

    def _words_at(self, found: Route, wide: float, high: float, context: Context) -> Point:
        """Return the middle of its words: on the line, or beside one that they would cover."""
        (x, y), (x1, y1), (x2, y2) = found.middle, found.start, found.end
        is_level = abs(x2 - x1) >= abs(y2 - y1)
        if found.length() > (wide if is_level else high) * _COVERED:
            return x, y
        air = (self.line_width + _GAP) * context.page.zoom
        return (x, min(y, y1, y2) - high / 2 - air) if is_level else (max(x, x1, x2) + wide / 2 + air, y)

    def _words(self, found: Route, context: Context) -> list[Shape]:
        lines, wide, high = self._label(context)
        if not lines:
            return []
        font, zoom = context.font("label"), context.page.zoom
        middle = self._words_at(found, wide, high, context)
        x, y = middle[0] - wide / 2, middle[1] - high / 2
        shapes: list[Shape] = [Path(rounded(wide, high, min(high / 2, 10 * zoom)), context.house.paper, x=x, y=y)]
        for place, line in enumerate(lines):
            down = y + _ROOM_Y * zoom + place * font.line_height + font.size
            shapes.append(Text(middle[0], down, line, font, context.house.ink, "middle"))
        return shapes

    def _said(self, ends: Ends) -> str:
        what = "Arrow" if self.to_mark in ("arrow", "open") else "Line"
        one, other = (f"“{label[:_MOST_SAID]}”" for label in (ends.start_label, ends.end_label))
        return f"{what} from {one} to {other}"

    def about(self) -> str:
        return "It follows what it connects, wherever that is moved to."

    def label(self) -> str:
        return f"Connector: {self.says.strip()}" if self.says.strip() else "A connector"


def _none(at: Point, way: Point, size: float, wide: float, colour: str) -> list[Shape]:
    return []


def _arrow(at: Point, way: Point, size: float, wide: float, colour: str) -> list[Shape]:
    left, right = _wings(at, way, size)
    return [Path(f"M{_said(at)}L{_said(left)}L{_said(right)}Z", colour)]


def _open(at: Point, way: Point, size: float, wide: float, colour: str) -> list[Shape]:
    left, right = _wings(at, way, size)
    return [Path(f"M{_said(left)}L{_said(at)}L{_said(right)}", "none", colour, wide, is_round=True)]


def _dot(at: Point, way: Point, size: float, wide: float, colour: str) -> list[Shape]:
    r = size * 0.4
    x, y = at[0] - way[0] * r - r, at[1] - way[1] * r - r
    return [Path(rounded(2 * r, 2 * r, r), colour, x=x, y=y)]


def _bar(at: Point, way: Point, size: float, wide: float, colour: str) -> list[Shape]:
    half = size * 0.6
    one, other = (at[0] - way[1] * half, at[1] + way[0] * half), (at[0] + way[1] * half, at[1] - way[0] * half)
    return [Path(f"M{_said(one)}L{_said(other)}", "none", colour, wide, is_round=True)]


def _wings(at: Point, way: Point, size: float) -> tuple[Point, Point]:
    x, y = at[0] - way[0] * size, at[1] - way[1] * size
    half = size * _HEAD
    return (x - way[1] * half, y + way[0] * half), (x + way[1] * half, y - way[0] * half)


def _said(point: Point) -> str:
    return f"{px(point[0])} {px(point[1])}"


_MADE: dict[Mark, Callable[[Point, Point, float, float, str], list[Shape]]] = {
    "none": _none,
    "arrow": _arrow,
    "open": _open,
    "dot": _dot,
    "bar": _bar,
}
# How much earlier than its mark's tip the line itself ends, as parts of the mark.
_TRIMS: dict[Mark, float] = {"none": 0.0, "arrow": 0.8, "open": 0.05, "dot": 0.5, "bar": 0.0}


def _band(points: tuple[Point, ...], reach: float) -> tuple[Point, ...]:
    """Return an outline so far to both sides of a line."""
    one, other = [], []
    for place, (x, y) in enumerate(points):
        before, after = points[max(0, place - 1)], points[min(len(points) - 1, place + 1)]
        length = math.dist(before, after) or 1.0
        across, down = (after[0] - before[0]) / length, (after[1] - before[1]) / length
        # At a right angle the way is at a slope, and its outline as far again from it.
        far = reach * (math.sqrt(2) if abs(across * down) > 0.01 else 1.0)
        one.append((x - down * far, y + across * far))
        other.append((x + down * far, y - across * far))
    return (*one, *reversed(other))
