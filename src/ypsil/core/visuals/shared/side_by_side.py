"""Small drawings beside and below each other: how many in a row, and what all of them say, said once at the edge."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from ypsil.core.drawing.scene import Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.rooms import Room

_GAP_PX = 18.0
_AIR_PX = 8.0
_LEAST_PX = 30.0
_Place = tuple[float, float, str]


@dataclass(frozen=True, slots=True)
class Common:
    """The labels that stand at the same place in all drawings: before their marks and below them.

    ``gutter`` and ``foot`` are the room they take, in px.
    """

    before: frozenset[_Place]
    below: frozenset[_Place]
    gutter: float
    foot: float

    @classmethod
    def of(cls, scenes: list[Scene]) -> Common:
        """Return what scenes of one size have in common. Values are bold, and are never left out."""
        alike = frozenset.intersection(*(frozenset(map(_place, _labels(scene))) for scene in scenes))
        one = scenes[0]
        shared = [text for text in _labels(one) if _place(text) in alike]
        before = [text for text in shared if text.anchor == "end" and text.x < one.width / 2]
        marks_end = max((text.y for text in before), default=one.height / 2)
        below = [text for text in shared if text.anchor == "middle" and text.y > marks_end]
        return cls(
            frozenset(map(_place, before)),
            frozenset(map(_place, below)),
            max((text.x for text in before), default=-_AIR_PX) + _AIR_PX,
            one.height - min((text.y - text.font.size for text in below), default=one.height),
        )


def _labels(scene: Scene) -> list[Text]:
    return [text for text in scene.texts() if text.font.weight == 400]


def _place(text: Text) -> _Place:
    return text.x, text.y, text.text


@dataclass(frozen=True, slots=True)
class Layout:
    """``count`` drawings in rows of ``across`` within a room."""

    count: int
    across: int
    room: Room

    @classmethod
    def of(cls, count: int, room: Room, shape: float, least: float) -> Layout:
        """Return the layout whose drawings come nearest to a shape (width to height), ``least`` px wide if they can."""

        def crowded(across: int) -> float:
            width, height = room.width / across, room.height / math.ceil(count / across)
            return abs(math.log(width / height / shape)) + (1.0 if width < least else 0.0)

        return cls(count, min(range(1, count + 1), key=crowded), room)

    @property
    def down(self) -> int:
        return math.ceil(self.count / self.across)

    def size(self, gutter: float, foot: float, head: float) -> tuple[float, float]:
        """Return the size of each drawing where what is said once takes so much room."""
        wide = (self.room.width - gutter - _GAP_PX * (self.across - 1)) / self.across + gutter
        tall = (self.room.height - foot - _GAP_PX * (self.down - 1)) / self.down - head + foot
        return wide, max(_LEAST_PX, tall)

    def drawn(
        self, names: list[str], draw: Callable[[float, float], list[Scene]], style: HouseStyle
    ) -> tuple[list[Shape], int]:
        """Return the drawings under their names, and how many names the one with fewest leaves out.

        What all say before their marks stands in the first of each row, what all say below in the last of each column.
        """
        font = style.body(LABEL_PX, bold=True)
        head = font.line_height
        common = Common.of(draw(*self.size(0.0, 0.0, head)))
        gutter = common.gutter if self.across > 1 else 0.0
        foot = common.foot if self.down > 1 else 0.0
        width, height = self.size(gutter, foot, head)
        scenes = draw(width, height)
        common = Common.of(scenes)
        shapes: list[Shape] = []
        for index, (name, scene) in enumerate(zip(names, scenes, strict=True)):
            row, column = divmod(index, self.across)
            x = self.room.x + column * (width - gutter + _GAP_PX)
            y = self.room.y + row * (height + head - foot + _GAP_PX)
            said: frozenset[_Place] = common.before if gutter and column else frozenset()
            if foot and index + self.across < self.count:
                said |= common.below
            start = x + gutter
            text = shorten(name, width - gutter, font)
            shapes.append(Text(start, y + font.size, text, font, style.ink, title=name))
            for shape in scene.shapes:
                if not (isinstance(shape, Text) and _place(shape) in said):
                    shapes.append(shape.moved(x, y + head))
        return shapes, max(scene.nameless for scene in scenes)
