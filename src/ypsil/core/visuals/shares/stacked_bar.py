"""Stacked bars: what several kinds add up to, names in full."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Scene
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.stacking import HorizontalStackOptions, stacked_bars


def draw(answer: Answer, options: HorizontalStackOptions, box: Box, style: HouseStyle) -> Scene:
    return stacked_bars(answer, options, box, style, parts=False)


VISUAL = Visual(
    name="stacked_bar",
    label="Stacked bars",
    purposes=("who is biggest",),
    purpose="what several kinds add up to, names in full",
    needs=Needs(measures=(1, 8), split="any", groups=(1, 60), series=(2, 8), parts=True),
    options=HorizontalStackOptions,
    draw=draw,
    native="stacked bars",
    advice=(
        rule(0.25, "time reads from left to right", time=True),
        rule(0.78, "{groups} values with their make-up, names in full", groups=(5, 30)),
        rule(0.55, "{groups} values with their make-up"),
    ),
)
