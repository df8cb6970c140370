"""Bars of 100%: how the make-up differs, names in full."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Scene
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.stacking import HorizontalShareOptions, stacked_bars


def draw(answer: Answer, options: HorizontalShareOptions, box: Box, style: HouseStyle) -> Scene:
    return stacked_bars(answer, options, box, style, parts=True)


VISUAL = Visual(
    name="share_bar",
    label="Bars of 100%",
    purposes=("share of a whole", "what people answered"),
    purpose="how the make-up differs, names in full",
    needs=Needs(measures=(1, 8), split="any", groups=(1, 60), series=(2, 8), parts=True),
    options=HorizontalShareOptions,
    draw=draw,
    native="shared bars",
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.7, "make-up of {groups} values, names in full"),
    ),
)
