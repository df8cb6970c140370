"""Columns of 100%: how the make-up differs from group to group."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Scene
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.stacking import ShareOptions, stacked_columns


def draw(answer: Answer, options: ShareOptions, box: Box, style: HouseStyle) -> Scene:
    return stacked_columns(answer, options, box, style, parts=True)


VISUAL = Visual(
    name="share_column",
    label="Columns of 100%",
    purposes=(
        "share of a whole",
        "how it changes",
    ),
    purpose="how the make-up differs from group to group",
    needs=Needs(measures=(1, 8), split="any", groups=(1, 60), series=(2, 8), parts=True),
    options=ShareOptions,
    draw=draw,
    native="shared columns",
    advice=(
        rule(0.66, "how the make-up shifts over {groups} periods", time=True, groups=(1, 24)),
        rule(0.3, "many periods: an area is calmer", time=True),
        rule(0.62, "how the make-up differs, in order", ordered=True),
        rule(0.5, "how the make-up differs", groups=(1, 8)),
        rule(0.3, "names have little room under columns"),
    ),
)
