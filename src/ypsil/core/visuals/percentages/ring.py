"""Percentage ring: a share clockwise from the top, the number in its middle."""

from __future__ import annotations

import math

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Path, Scene, Shape, Text
from ypsil.core.drawing.svg import number as px
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Visual, rule
from ypsil.core.visuals.percentages.cells import Form, draw_percentages
from ypsil.core.visuals.percentages.shown import NEEDS, PercentOptions, Shown, colour, shown
from ypsil.core.visuals.shared.settings import setting


class RingOptions(PercentOptions):
    thickness: float = setting(0.24, "Thickness", "Marks", "as a part of the radius", ge=0.05, le=0.5)


def draw(answer: Answer, options: RingOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each share as a ring."""
    found = shown(answer, options)

    def ring(one: Shown, width: float, height: float) -> list[Shape]:
        radius = min(width, height) / 2 - 1
        thickness = radius * options.thickness
        middle = radius - thickness / 2
        figure = style.heading(radius * 0.62)
        widest = max(text_width(other.text, figure) for other in found)
        figure = figure.sized(min(figure.size, figure.size * 1.7 * (radius - thickness) / widest))
        x, y = width / 2, height / 2
        shapes: list[Shape] = [_arc(x, y, middle, 1.0, thickness, style.grid)]
        if one.share > 0:
            shapes.append(_arc(x, y, middle, one.share, thickness, colour(options, style)))
        return [*shapes, Text(x, y + figure.size * 0.35, one.text, figure, style.ink, "middle")]

    return draw_percentages(answer, found, options, box, style, Form(1.0), ring)


def _arc(x: float, y: float, radius: float, share: float, thickness: float, stroke: str) -> Path:
    """An open arc drawn as a thick stroke; a whole turn is two halves, since an arc cannot end where it starts."""
    start = f"M{px(x)} {px(y - radius)}"
    if share >= 1:
        half = f"A{px(radius)} {px(radius)} 0 1 1"
        around = f"{start}{half} {px(x)} {px(y + radius)}{half} {px(x)} {px(y - radius)}"
        return Path(around, stroke=stroke, stroke_width=thickness)
    angle = 2 * math.pi * share
    end = f"{px(x + radius * math.sin(angle))} {px(y - radius * math.cos(angle))}"
    arc = f"{start}A{px(radius)} {px(radius)} 0 {int(share > 0.5)} 1 {end}"
    return Path(arc, stroke=stroke, stroke_width=thickness)


VISUAL = Visual(
    name="ring",
    label="Percentage ring",
    purposes=("share of a whole", "what people answered"),
    purpose="one share of a whole, or a few side by side",
    needs=NEEDS,
    options=RingOptions,
    draw=draw,
    advice=(
        rule(0.96, "one share of a whole", measures=(1, 1), per=(0, 0)),
        rule(0.55, "{groups} shares, side by side", measures=(1, 1), per=(1, 1), groups=(2, 4)),
        rule(0.3, "shares of a whole, side by side"),
    ),
    is_titled=False,
    default_size=(6, 34),
)
