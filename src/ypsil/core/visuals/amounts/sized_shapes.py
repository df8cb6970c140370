"""Shapes by size: a circle, square or icon whose area is the amount.

People judge the area of circles a little below what it is (Stevens' exponent about 0.7 to 0.9: W. S. Cleveland and
R. McGill, Graphical Perception, JASA 79(387), 1984, section 3), so the values stand beside them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.icons import icon_path, icons
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.amounts.icons_of import PictureOptions
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import grid_of, texts_of
from ypsil.core.visuals.shared.legends import mark_colour
from ypsil.core.visuals.shared.settings import setting
from ypsil.core.visuals.shared.summary import describe

_LENGTH_WARNING = "Sized by height: twice the amount looks four times as large."
_GAP_PX = 14.0
_VALUE_PX = 16.0
_NAME_LINES = 2


class SizedShapesOptions(PictureOptions):
    shape: Literal["circle", "square", "icon"] = setting("circle", "Shape", "Marks")
    sized_by: Literal["area", "height"] = setting(
        "area", "Size is the", "Marks", "height exaggerates, and the drawing says so"
    )


@dataclass(frozen=True, slots=True)
class _Cells:
    """How many stand beside each other, how large a cell is, and the height of the largest shape (px)."""

    across: int
    width: float
    height: float
    largest: float


def draw(answer: Answer, options: SizedShapesOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a shape for each group on one baseline, its value and name below it."""
    grid = grid_of(answer)
    values = grid.series[0].values
    texts = texts_of(values, grid.column, options)
    highest = max([value for value in values if value is not None], default=0.0)
    is_length = options.sized_by == "height"
    foot = style.body(LABEL_PX - 1)
    warning = wrap(_LENGTH_WARNING, box.width, foot, most=2) if is_length else []
    room = Box(box.width, box.height - len(warning) * foot.line_height - (4 if warning else 0))
    aspect = icons()[options.icon].aspect if options.shape == "icon" else 1.0
    value_font, font = style.body(_VALUE_PX, bold=True), style.body(LABEL_PX)
    words = value_font.line_height + _NAME_LINES * font.line_height + 6
    cells = _cells(len(values), room, words, aspect)
    widest = max(text_width(text, value_font) for text in texts)
    value_font = value_font.sized(min(_VALUE_PX, _VALUE_PX * cells.width / widest))
    shapes: list[Shape] = []
    for index, value in enumerate(values):
        left, top = index % cells.across * (cells.width + _GAP_PX), index // cells.across * (cells.height + _GAP_PX)
        middle, ground = left + cells.width / 2, top + cells.height - words
        part = (value or 0.0) / highest if highest else 0.0
        tall = cells.largest * (part if is_length else math.sqrt(part))
        if value is not None and tall > 0:
            colour = mark_colour(grid.names[index], 0, 1, options.emphasis, style)
            shape = _shape(options, middle - tall * aspect / 2, ground - tall, tall, colour)
            shape.title = grid.title(0, index, texts[index])
            shapes.append(shape)
        y = ground + value_font.line_height
        shapes.append(Text(middle, y, texts[index], value_font, style.ink, "middle"))
        for line in wrap(grid.names[index], cells.width, font, most=_NAME_LINES):
            y += font.line_height
            shapes.append(Text(middle, y, line, font, style.muted, "middle"))
    for place, line in enumerate(reversed(warning)):
        shapes.append(Text(0, box.height - 3 - place * foot.line_height, line, foot, style.muted))
    said = describe(answer, "Shapes by size") + (f" {_LENGTH_WARNING}" if is_length else "")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said)


def _shape(options: SizedShapesOptions, x: float, y: float, tall: float, colour: str) -> Shape:
    if options.shape == "icon":
        return icon_path(options.icon, x, y, tall, colour)
    return Rect(x, y, tall, tall, colour, tall / 2 if options.shape == "circle" else 0)


def _cells(count: int, room: Box, words: float, aspect: float) -> _Cells:
    """Return the arrangement in which the largest shape gets as large as it can."""

    def arranged(across: int) -> _Cells:
        down = math.ceil(count / across)
        width = (room.width - (across - 1) * _GAP_PX) / across
        height = (room.height - (down - 1) * _GAP_PX) / down
        return _Cells(across, width, height, max(2.0, min(height - words, width / aspect)))

    return max((arranged(across) for across in range(1, count + 1)), key=lambda cells: (cells.largest, cells.across))


VISUAL = Visual(
    name="sized_shapes",
    label="Shapes by size",
    purposes=("who is biggest",),
    purpose="a few amounts as shapes whose area is the amount",
    needs=Needs(groups=(2, 12), negative=False),
    options=SizedShapesOptions,
    draw=draw,
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.42, "{groups} amounts of very different size, at a glance", groups=(2, 6)),
        rule(0.25, "areas are compared less exactly than lengths"),
    ),
)
