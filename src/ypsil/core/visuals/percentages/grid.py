"""Hundred cells: a percentage as cells of a square of ten by ten, the last one filled in part."""

from __future__ import annotations

import math
from typing import Literal

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Rect, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Visual, rule
from ypsil.core.visuals.percentages.cells import Form, draw_percentages
from ypsil.core.visuals.percentages.shown import NEEDS, PercentOptions, Shown, colour, shown
from ypsil.core.visuals.shared.settings import setting

_ACROSS = 10


class GridOptions(PercentOptions):
    cells: Literal["squares", "dots"] = setting("squares", "Cells", "Marks")


def draw(answer: Answer, options: GridOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each share as a hundred cells, filled row by row from the top."""

    def grid(one: Shown, width: float, height: float) -> list[Shape]:
        step = min(width, height) / _ACROSS
        size = step * 0.86
        radius = size / 2 if options.cells == "dots" else size * 0.12
        left = (width - step * _ACROSS + step - size) / 2
        shapes: list[Shape] = []
        for cell in range(_ACROSS * _ACROSS):
            x, y = left + cell % _ACROSS * step, (cell // _ACROSS) * step
            part = min(1.0, max(0.0, one.share * _ACROSS * _ACROSS - cell))
            part = round(part, 6)
            if part < 1:
                shapes.append(Rect(x, y, size, size, style.grid, radius))
            if part > 0:
                shapes.append(_filled(x, y, size, part, radius, colour(options, style)))
        return shapes

    form = Form(1.0, figure_above=True)
    return draw_percentages(answer, shown(answer, options), options, box, style, form, grid)


def _filled(x: float, y: float, size: float, part: float, radius: float, fill: str) -> Rect:
    """A cell, or a smaller one in its middle with a part of its area."""
    side = size * math.sqrt(part)
    return Rect(x + (size - side) / 2, y + (size - side) / 2, side, side, fill, radius * side / size)


VISUAL = Visual(
    name="percent_grid",
    label="Hundred cells",
    purposes=("share of a whole", "what people answered"),
    purpose="a share as cells out of a hundred",
    needs=NEEDS,
    options=GridOptions,
    draw=draw,
    advice=(
        rule(0.84, "each cell is one of a hundred", measures=(1, 1), per=(0, 0)),
        rule(0.4, "shares as cells out of a hundred"),
    ),
    is_titled=False,
    default_size=(6, 40),
)
