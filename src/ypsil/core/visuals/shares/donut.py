"""Donut: the parts of one whole as a ring, the whole in its middle."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Scene
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.settings import setting
from ypsil.core.visuals.shared.slices import SliceOptions, slices
from ypsil.core.visuals.shared.summary import describe


class DonutOptions(SliceOptions):
    hole: float = setting(0.6, "Hole", "Marks", "as a part of the radius", ge=0.2, le=0.9)


def draw(answer: Answer, options: DonutOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one part of the ring a group, named beside it, and their sum in the middle."""
    shapes = slices(answer, options, box, style, hole=options.hole)
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Donut"))


VISUAL = Visual(
    name="donut",
    label="Donut",
    purposes=("share of a whole",),
    purpose="the parts of one whole, with the whole in the middle",
    needs=Needs(groups=(2, 12), parts=True),
    options=DonutOptions,
    draw=draw,
    native="ring",
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.64, "{groups} parts of one whole, and the whole as a number", groups=(2, 6)),
        rule(0.32, "{groups} parts are hard to compare; bars are clearer", groups=(7, MANY)),
    ),
    default_size=(10, 38),
)
