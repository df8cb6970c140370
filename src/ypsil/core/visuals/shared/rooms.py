"""Texts in and over drawings, and what is said instead of one."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.drawing.colour import readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Anchor, Font, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box


@dataclass(frozen=True, slots=True)
class Room:
    """A rectangle that a mark takes, in px."""

    x: float
    y: float
    width: float
    height: float


def value_inside(text: str, room: Room, colour: str, font: Font, style: HouseStyle) -> list[Shape]:
    """Return a value in the middle of its mark of this colour, where it has room."""
    if text_width(text, font) > room.width - 2 or room.height < font.size + 3:
        return []
    middle, baseline = room.x + room.width / 2, room.y + room.height / 2 + font.size * 0.35
    return [Text(middle, baseline, text, font, readable_on(colour, style.ink, style.paper), "middle")]


def sheet_behind(text: Text, style: HouseStyle) -> Rect:
    """Return a sheet of paper behind a text, so that no line runs through it."""
    width = text_width(text.text, text.font) + 4
    left = {"start": text.x - 2, "middle": text.x - width / 2, "end": text.x + 2 - width}[text.anchor]
    return Rect(left, text.y - text.font.size * 0.9, width, text.font.size * 1.15, style.paper)


def message_scene(message: str, box: Box, style: HouseStyle, name: str) -> Scene:
    """Return a scene that says in words why nothing is drawn."""
    font = style.body(16)
    lines = wrap(message, max(40, box.width - 40), font, most=max(1, int(box.height // font.line_height) - 1))
    top = box.height / 2 - (len(lines) - 1) * font.line_height / 2
    anchor: Anchor = "middle"
    shapes = tuple(
        Text(box.width / 2, top + index * font.line_height, line, font, style.muted, anchor)
        for index, line in enumerate(lines)
    )
    return Scene(box.width, box.height, shapes, name, message, refusal=message)
