"""Pie: the parts of one whole as slices, from the largest clockwise from the top."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Scene
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.slices import SliceOptions, slices
from ypsil.core.visuals.shared.summary import describe


def draw(answer: Answer, options: SliceOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one slice a group, named beside it."""
    return Scene(
        box.width,
        box.height,
        tuple(slices(answer, options, box, style, hole=0.0)),
        answer.sentence,
        describe(answer, "Pie"),
    )


VISUAL = Visual(
    name="pie",
    label="Pie",
    purposes=("share of a whole",),
    purpose="the parts of one whole, at a glance",
    needs=Needs(groups=(2, 12), parts=True),
    options=SliceOptions,
    draw=draw,
    native="pie",
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(
            0.6,
            "{groups} parts of one whole",
            source="Cleveland and McGill, “Graphical Perception” (1984): angles are read less exactly than lengths",
            groups=(2, 5),
        ),
        rule(0.3, "{groups} slices are hard to compare; bars are clearer", groups=(6, MANY)),
    ),
    default_size=(10, 38),
)
