"""KPI tile: one number big, with its label and the change against the period before."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Path, Scene, Shape, Text
from ypsil.core.drawing.svg import number as px
from ypsil.core.drawing.wrap import wrap
from ypsil.core.figures import (
    format_change,
    format_number,
    format_period,
    period_before,
)
from ypsil.core.questions.model import Answer, AnswerColumn
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Options, Visual, is_over_time, rule
from ypsil.core.visuals.frame import message_scene
from ypsil.core.visuals.summary import big_number


class KpiOptions(Options):
    label: str = Field("", title="Label", description="in place of the measure's name")
    good: Literal["up", "down", "neither"] = Field("up", title="Which way is good")


def draw(answer: Answer, options: KpiOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the last period's value, and its change against the calendar period just before it."""
    column = answer.of("measure")[0]
    value = answer.values(column)[-1]
    label = options.label or column.name
    if is_over_time(answer):
        per = answer.of("per")[0]
        label += f", {format_period(answer.values(per)[-1], per.grain)}"
    if value is None:
        return message_scene(f"{label}: the last period has no value.", box, style, label)
    text = big_number(value, column)
    period, comparison, direction = _comparison(answer, column)
    figure = _fitting(text, box.width, min(box.height * 0.42, 64), style)
    y = 0.0
    shapes: list[Shape] = []
    label_font = style.body(15)
    for line in wrap(label, box.width, label_font, most=2):
        y += label_font.line_height
        shapes.append(Text(0, y - 4, line, label_font, style.muted))
    y += figure.size * 0.98
    shapes.append(Text(0, y, text, figure, style.ink))
    y += 30
    x = 0.0
    if direction is not None:
        colour = _change_colour(direction, options, style)
        if direction:
            shapes.append(_arrow(0, y, direction > 0, colour))
            x = 18
        font = style.body(15, bold=True)
        shapes.append(Text(x, y, comparison, font, colour))
        x += text_width(comparison, font) + 6
    for line in wrap(period, box.width - x, style.body(14), most=1) if period else []:
        shapes.append(Text(x, y, line, style.body(14), style.muted))
    description = f"{label}: {text}. {comparison} {period}".strip() + f" (n = {format_number(answer.base)})."
    return Scene(box.width, box.height, tuple(shapes), label, description)


def _comparison(answer: Answer, column: AnswerColumn) -> tuple[str, str, int | None]:
    """Return the period in words, the change in words and its direction; None where nothing compares."""
    if not is_over_time(answer):
        return "", "", None
    per = answer.of("per")[0]
    starts: list[dt.date] = answer.values(per)
    values = dict(zip(starts, answer.values(column), strict=True))
    now, grain = starts[-1], per.grain or "day"
    before_start = period_before(now, grain)
    after, before = values[now], values.get(before_start)
    if before is None or after is None:
        return "", "", None
    direction = (after > before) - (after < before)
    if column.unit == "%":
        points = (after - before) * 100
        change = f"{format_number(points, decimals=1)} points"
        change = "+" + change if points > 0 else change
    else:
        change = format_change(before, after) or format_number(after - before)
    return f"against {format_period(before_start, grain)}", change, direction


def _change_colour(direction: int, options: KpiOptions, style: HouseStyle) -> str:
    if direction == 0 or options.good == "neither":
        return style.muted
    return style.rise if (direction > 0) == (options.good == "up") else style.fall


def _arrow(x: float, baseline: float, up: bool, colour: str) -> Path:
    top, foot = baseline - 11, baseline
    tip, flat = (top, foot) if up else (foot, top)
    return Path(f"M{px(x)} {px(flat)}L{px(x + 12)} {px(flat)}L{px(x + 6)} {px(tip)}Z", fill=colour)


def _fitting(text: str, width: float, size: float, style: HouseStyle) -> Font:
    font = style.heading(size)
    wide = text_width(text, font)
    return font.sized(size * width / wide) if wide > width else font


VISUAL = Visual(
    name="kpi",
    label="Headline number",
    purposes=("how much",),
    purpose="one number big, with its change against the period before",
    needs=Needs(per=(0, 1), dates="needed", groups=(1, 100_000)),
    options=KpiOptions,
    draw=draw,
    advice=(rule(0.7, "the latest value and its change", time=True), rule(0.95, "one number, shown big")),
    default_size=(6, 20),
)
