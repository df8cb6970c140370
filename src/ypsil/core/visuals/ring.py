"""Percentage ring: one share of a whole, the number in its middle."""

from __future__ import annotations

import math

from pydantic import Field

from ypsil.core.drawing.scene import Path, Scene, Shape, Text
from ypsil.core.drawing.svg import number as px
from ypsil.core.drawing.wrap import wrap
from ypsil.core.figures import format_number, format_share
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.settings import PaletteOptions


class RingOptions(PaletteOptions):
    label: str = Field("", title="Label", description="in place of the measure's name")
    thickness: float = Field(0.24, ge=0.05, le=0.5, title="Thickness", description="as a part of the radius")


def draw(answer: Answer, options: RingOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the share clockwise from the top, with its label and base below."""
    column = answer.of("measure")[0]
    share = float(answer.values(column)[0])
    label = options.label or column.name
    font = style.body(15)
    lines = wrap(label, box.width, font, most=3)
    foot = (len(lines) + 1) * font.line_height + 8
    radius = max(24.0, min(box.width, box.height - foot) / 2 - 2)
    x, y = box.width / 2, radius + 2
    thickness = radius * options.thickness
    text = format_share(share)
    figure = style.heading(min(radius * 0.56, (radius - thickness) * 1.15 / max(2, len(text)) * 2))
    shapes: list[Shape] = [_arc(x, y, radius - thickness / 2, 1.0, thickness, style.grid)]
    if share > 0:
        shapes.append(_arc(x, y, radius - thickness / 2, share, thickness, style.accent))
    shapes.append(Text(x, y + figure.size * 0.35, text, figure, style.ink, "middle"))
    baseline = 2 * radius + 10
    for line in lines:
        baseline += font.line_height
        shapes.append(Text(x, baseline, line, font, style.ink, "middle"))
    base = f"n = {format_number(answer.base)}"
    shapes.append(Text(x, baseline + font.line_height, base, style.body(13), style.muted, "middle"))
    return Scene(box.width, box.height, tuple(shapes), label, f"{label}: {text} ({base}).")


def _arc(x: float, y: float, radius: float, share: float, thickness: float, colour: str) -> Path:
    """An open arc drawn as a thick stroke; a whole turn is two halves, since an arc cannot end where it starts."""
    start = f"M{px(x)} {px(y - radius)}"
    if share >= 1:
        half = f"A{px(radius)} {px(radius)} 0 1 1"
        return Path(
            f"{start}{half} {px(x)} {px(y + radius)}{half} {px(x)} {px(y - radius)}",
            stroke=colour,
            stroke_width=thickness,
        )
    angle = 2 * math.pi * share
    end = f"{px(x + radius * math.sin(angle))} {px(y - radius * math.cos(angle))}"
    return Path(
        f"{start}A{px(radius)} {px(radius)} 0 {int(share > 0.5)} 1 {end}",
        stroke=colour,
        stroke_width=thickness,
    )


VISUAL = Visual(
    name="ring",
    label="Percentage ring",
    purposes=("share of a whole",),
    purpose="one share of a whole",
    needs=Needs(per=(0, 0), shares=True),
    options=RingOptions,
    draw=draw,
    advice=(rule(0.96, "one share of a whole"),),
    is_titled=False,
    default_size=(6, 34),
)
