"""Row of icons: so many in ten, the last one filled in part, or rounded and said so."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Literal

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.contours import level
from ypsil.core.drawing.icons import icon_path, icons
from ypsil.core.drawing.scene import Part, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Visual, rule
from ypsil.core.visuals.percentages.cells import Form, draw_percentages
from ypsil.core.visuals.percentages.icon import IconOptions
from ypsil.core.visuals.percentages.shown import NEEDS, Shown, colour, percent_text, shown
from ypsil.core.visuals.shared.settings import setting

_LINE = 10
_GAP = 0.16


class IconRowOptions(IconOptions):
    count: int = setting(10, "How many icons", "Marks", "so many in ten", ge=2, le=100)
    filling: Literal["exact", "whole icons"] = setting(
        "exact", "Filled", "Marks", "exact: the last one in part; whole icons: rounded, and said"
    )


def draw(answer: Answer, options: IconRowOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each share as that many of a number of icons."""
    found = [_rounded(one, options) for one in shown(answer, options)]
    lines = math.ceil(options.count / _LINE)
    across = math.ceil(options.count / lines)
    step = icons()[options.icon].aspect + _GAP

    def row(one: Shown, width: float, height: float) -> list[Shape]:
        tall = min(width / (across * step - _GAP), height / (lines * (1 + _GAP) - _GAP))
        if one.value is None:
            filled = 0.0
        else:
            filled = one.value * options.count
            filled = _half_up(filled) if options.filling == "whole icons" else filled
        shapes: list[Shape] = []
        for place in range(options.count):
            x, y = (place % across) * step * tall, (place // across) * (1 + _GAP) * tall
            part = min(1.0, max(0.0, round(filled - place, 6)))
            fill = colour(options, style) if part > 0 else style.quiet
            shape = icon_path(options.icon, x, y, tall, fill)
            if 0 < part < 1:
                shape.part = Part(level(shape.d, part, "right"), style.quiet, "right")
            shapes.append(shape)
        return shapes

    aspect = (across * step - _GAP) / (lines * (1 + _GAP) - _GAP)
    return draw_percentages(answer, found, options, box, style, Form(aspect, is_wide=True, figure_above=True), row)


def _half_up(value: float) -> int:
    return math.floor(value + 0.5)


def _rounded(one: Shown, options: IconRowOptions) -> Shown:
    """Say so many in ten in place of a percentage, and what it was before it was rounded."""
    if options.filling == "exact" or one.value is None:
        return one
    whole = _half_up(one.value * options.count)
    is_same = one.text == percent_text(whole / options.count, options)
    note = "" if is_same else f"rounded from {one.text}"
    return replace(one, text=f"{whole} in {options.count}", note=note)


VISUAL = Visual(
    name="icon_row",
    label="Row of icons",
    purposes=("share of a whole", "what people answered"),
    purpose="a share as so many in ten",
    needs=NEEDS,
    options=IconRowOptions,
    draw=draw,
    advice=(
        rule(0.86, "so many in ten, easy to picture", measures=(1, 1), per=(0, 0)),
        rule(0.45, "shares as so many in ten"),
    ),
    is_titled=False,
    default_size=(10, 20),
)
