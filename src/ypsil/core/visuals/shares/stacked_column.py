"""Stacked columns: what several kinds add up to, group by group."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Scene
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.stacking import StackOptions, stacked_columns


def draw(answer: Answer, options: StackOptions, box: Box, style: HouseStyle) -> Scene:
    return stacked_columns(answer, options, box, style, parts=False)


VISUAL = Visual(
    name="stacked_column",
    label="Stacked columns",
    purposes=(
        "how it changes",
        "who is biggest",
    ),
    purpose="what several kinds add up to, group by group",
    needs=Needs(measures=(1, 8), split="any", groups=(1, 60), series=(2, 8), parts=True),
    options=StackOptions,
    draw=draw,
    native="stacked columns",
    advice=(
        rule(0.72, "{series} kinds over {groups} periods, and their total", time=True, groups=(1, 24)),
        rule(0.3, "many periods: stacked areas are calmer", time=True),
        rule(0.74, "{series} kinds and their total, in order", ordered=True),
        rule(0.6, "{series} kinds and their total", groups=(1, 8)),
        rule(0.35, "names have little room under columns"),
    ),
)
