"""A note at a mark: written where it covers least, with a line to its mark."""

from __future__ import annotations

import itertools
import math
from dataclasses import replace
from typing import TypeGuard

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.outlines import is_inside, outline_points
from ypsil.core.drawing.scene import Line, Mark, Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.shared.rooms import Room

_NOTE_PX = 12.0
_WIDEST_PX = 170.0
_FAR_PX = (14.0, 28.0, 50.0, 80.0, 120.0, 170.0, 240.0)
_DIRECTIONS = 16
_AT_PX = 8.0
_VALUE_WEIGHT = 700
_CLEAR_PX = 3.0
# What covering so many px costs, beside the px of distance.
_ON_TEXT, _ON_MARK, _ON_LINE, _ON_ITS_MARK = 4.0, 0.6, 40.0, 5.0


def noted(scene: Scene, at: str, note: str, style: HouseStyle) -> Scene:
    """Write a note beside the mark of that name; the description says it as well.

    A drawing without such a mark stays as it is: new data can lose what a note is about.
    """
    mark = next((shape for shape in scene.shapes if _is_mark_of(shape, at)), None)
    if mark is None:
        return scene
    font = style.body(_NOTE_PX)
    lines = wrap(note, min(_WIDEST_PX, 0.45 * scene.width), font, most=5)
    width = max(text_width(line, font) for line in lines) + 8
    height = len(lines) * font.line_height + 4
    place = _with_value(_room_of(mark), scene)
    room = _freest(scene, place, width, height)
    shapes = [
        *_leader(room, place, style),
        Rect(room.x, room.y, width, height, style.paper, 3, opacity=0.92),
        *(
            Text(room.x + 4, room.y + 1 + font.size + row * font.line_height, line, font, style.ink)
            for row, line in enumerate(lines)
        ),
    ]
    said = f"{scene.description} Note at {at}: {note}".strip()
    return replace(scene, shapes=(*scene.shapes, *shapes), description=said)


def _is_mark_of(shape: Shape, name: str) -> bool:
    return not isinstance(shape, Text) and isinstance(shape.title, Mark) and shape.title.is_of(name)


def _with_value(place: Room, scene: Scene) -> Room:
    """Return a mark's place with the value that stands at it."""
    near = _grown(place, _AT_PX)
    for shape in scene.shapes:
        text = _room_of(shape) if isinstance(shape, Text) else near
        x, y = _middle(text)
        beside = place.y <= y <= place.y + place.height or place.x <= x <= place.x + place.width
        is_value = isinstance(shape, Text) and shape.font.weight == _VALUE_WEIGHT
        if is_value and beside and _shared(near, text):
            left, top = min(place.x, text.x), min(place.y, text.y)
            right = max(place.x + place.width, text.x + text.width)
            return Room(left, top, right - left, max(place.y + place.height, text.y + text.height) - top)
    return place


def _leader(room: Room, place: Room, style: HouseStyle) -> list[Shape]:
    """Return the line from a note to its mark, and the note's edge that it leaves from."""
    x, y = _within(room, *_middle(place))
    to_x, to_y = _within(place, x, y)
    is_beside = room.x + room.width <= to_x or to_x <= room.x
    if is_beside:
        edge = Line(x, room.y, x, room.y + room.height, style.ink, 1.25)
    else:
        edge = Line(room.x, y, room.x + room.width, y, style.ink, 1.25)
    return [Line(x, y, to_x, to_y, style.ink, 1.25), edge]


def _within(room: Room, x: float, y: float) -> tuple[float, float]:
    """Return the point of a rectangle that is nearest to a point."""
    return min(max(x, room.x), room.x + room.width), min(max(y, room.y), room.y + room.height)


def _freest(scene: Scene, place: Room, width: float, height: float) -> Room:
    """Return where around a mark a note covers least, near before far."""
    texts = [_grown(_room_of(shape), _CLEAR_PX) for shape in scene.shapes if isinstance(shape, Text)]
    marks = [_room_of(shape) for shape in scene.shapes if isinstance(shape, Rect) and isinstance(shape.title, Mark)]
    outlines = [outline_points(shape.d, shape.x, shape.y) for shape in scene.shapes if _is_surface(shape)]
    lines = [
        point
        for shape in scene.shapes
        if isinstance(shape, Path) and shape.stroke != "none" and shape.fill == "none"
        for point in _between(outline_points(shape.d, shape.x, shape.y))
    ]

    def cost(room: Room, far: float) -> float:
        near = _grown(room, _CLEAR_PX)
        on_lines = sum(_holds(near, point) for point in lines)
        on_marks = sum(_shared(room, mark) for mark in marks)
        on_surfaces = sum(is_inside(point, outline) for point in _corners(room) for outline in outlines)
        leader = _between([_within(room, *_middle(place)), _within(place, *_middle(room))])
        through = sum(_holds(text, point) for text in texts for point in leader)
        return (
            far
            + _ON_TEXT * sum(_shared(room, text) for text in texts)
            + _ON_MARK * on_marks
            + _ON_LINE * (on_lines + on_surfaces + through)
            # A note that was moved in from the edge must not lie on its own mark.
            + _ON_ITS_MARK * _shared(room, place)
        )

    found = []
    for far, turn in itertools.product(_FAR_PX, range(_DIRECTIONS)):
        angle = 2 * math.pi * turn / _DIRECTIONS - math.pi / 2
        middle_x, middle_y = _middle(place)
        middle_x += math.cos(angle) * (place.width / 2 + far + width / 2)
        middle_y += math.sin(angle) * (place.height / 2 + far + height / 2)
        x = min(max(middle_x - width / 2, 0), max(0.0, scene.width - width))
        y = min(max(middle_y - height / 2, 0), max(0.0, scene.height - height))
        room = Room(x, y, width, height)
        found.append((cost(room, far), room))
    return min(found, key=lambda one: one[0])[1]


def _is_surface(shape: Shape) -> TypeGuard[Path]:
    return isinstance(shape, Path) and shape.fill != "none" and isinstance(shape.title, Mark)


def _middle(room: Room) -> tuple[float, float]:
    return room.x + room.width / 2, room.y + room.height / 2


def _grown(room: Room, px: float) -> Room:
    return Room(room.x - px, room.y - px, room.width + 2 * px, room.height + 2 * px)


def _corners(room: Room) -> list[tuple[float, float]]:
    right, foot = room.x + room.width, room.y + room.height
    return [(room.x, room.y), (right, room.y), (room.x, foot), (right, foot), _middle(room)]


def _holds(room: Room, point: tuple[float, float]) -> bool:
    return room.x <= point[0] <= room.x + room.width and room.y <= point[1] <= room.y + room.height


def _shared(one: Room, other: Room) -> float:
    wide = min(one.x + one.width, other.x + other.width) - max(one.x, other.x)
    high = min(one.y + one.height, other.y + other.height) - max(one.y, other.y)
    return max(0.0, wide) * max(0.0, high)


def _room_of(shape: Shape) -> Room:
    if isinstance(shape, Rect):
        return Room(shape.x, shape.y, shape.width, shape.height)
    if isinstance(shape, Line):
        left, top = min(shape.x1, shape.x2), min(shape.y1, shape.y2)
        return Room(left, top, abs(shape.x2 - shape.x1), abs(shape.y2 - shape.y1))
    if isinstance(shape, Text):
        width = text_width(shape.text, shape.font)
        left = shape.x - {"start": 0.0, "middle": width / 2, "end": width}[shape.anchor]
        return Room(left, shape.y - shape.font.size, width, shape.font.size * 1.25)
    points = outline_points(shape.d, shape.x, shape.y)
    if not points:
        return Room(shape.x, shape.y, 0, 0)
    # The middle of an outline's corners lies in it, also where it is a slice.
    x, y = sum(point[0] for point in points) / len(points), sum(point[1] for point in points) / len(points)
    return Room(x - 2, y - 2, 4, 4)


def _between(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Return the points of a line with some between those that lie far apart."""
    found = []
    for (x1, y1), (x2, y2) in itertools.pairwise(points):
        count = max(1, min(40, int(math.hypot(x2 - x1, y2 - y1) // 8)))
        found += [(x1 + (x2 - x1) * part / count, y1 + (y2 - y1) * part / count) for part in range(count)]
    return found[:4000]
