"""Filled icon: a shape of which a share of the area is filled."""

from __future__ import annotations

from typing import Literal

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.contours import level
from ypsil.core.drawing.icons import icon_path, icons
from ypsil.core.drawing.scene import Part, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Visual, rule
from ypsil.core.visuals.percentages.cells import Form, draw_percentages
from ypsil.core.visuals.percentages.shown import NEEDS, PercentOptions, Shown, colour, shown
from ypsil.core.visuals.shared.icon_names import IconName
from ypsil.core.visuals.shared.settings import setting


class IconOptions(PercentOptions):
    icon: IconName = setting("person", "Icon", "Marks", shows="icon", max_length=60)


class FilledIconOptions(IconOptions):
    filled_from: Literal["bottom", "left"] = setting("bottom", "Filled from the", "Marks")


def draw(answer: Answer, options: FilledIconOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw an icon for each share, filled by area."""

    def filled(one: Shown, width: float, height: float) -> list[Shape]:
        shape = icon_path(options.icon, 0, 0, height, colour(options, style))
        axis: Literal["up", "right"] = "up" if options.filled_from == "bottom" else "right"
        shape.part = Part(level(shape.d, one.share, axis), style.quiet, axis)
        return [shape]

    form = Form(icons()[options.icon].aspect, figure_above=True)
    return draw_percentages(answer, shown(answer, options), options, box, style, form, filled)


VISUAL = Visual(
    name="filled_icon",
    label="Filled icon",
    purposes=("share of a whole",),
    purpose="a share as the filled part of a shape",
    needs=NEEDS,
    options=FilledIconOptions,
    draw=draw,
    advice=(
        rule(0.7, "a share as the filled part of a shape", measures=(1, 1), per=(0, 0)),
        rule(0.3, "shares as filled parts of shapes"),
    ),
    is_titled=False,
    default_size=(6, 34),
)
