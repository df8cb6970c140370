"""Sparkline: a line the size of a word, with its last value."""

from __future__ import annotations

import math

import numpy as np

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Path, Rect, Scene, Shape, Text
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.changes.line import place_name
from ypsil.core.visuals.shared.curves import breaks, curves_of, path_of, reduced
from ypsil.core.visuals.shared.grid import texts_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NumberOptions, setting
from ypsil.core.visuals.shared.summary import describe


class SparklineOptions(NumberOptions):
    extremes: bool = setting(True, "Dots at the highest and lowest value", "Marks")
    last: bool = setting(True, "The last value beside it", "Marks")


def draw(answer: Answer, options: SparklineOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one line without axes over the whole box; the highest, lowest and last points carry their values."""
    axis, (curve,) = curves_of(answer)
    column = answer.of("measure")[0]
    present = np.flatnonzero(~np.isnan(curve.y))
    low, high = float(curve.y[present].min()), float(curve.y[present].max())
    font = style.body(min(22.0, max(12.0, box.height * 0.3)), bold=True)
    text = texts_of([float(curve.y[present[-1]])], column, options)[0]
    # The last value that there is, with its place where another follows that has none.
    since = place_name(axis, float(curve.x[present[-1]])) if present[-1] + 1 < len(curve.y) else ""
    small = font.sized(max(12.0, font.size * 0.55))
    wide = max(text_width(text, font), text_width(since, small))
    room = wide + 16 if options.last and box.width > 120 else 8.0
    height = min(box.height, box.width * 0.35)
    top = (box.height - height) / 2
    across = LinearScale((axis.low, axis.high if axis.high > axis.low else axis.low + 1), (5, box.width - room))
    scale = LinearScale((low, high if high > low else low + 1), (top + height - 6, top + 6))
    x, y = across.all(curve.x), scale.all(curve.y)
    kept = reduced(curve, x)
    lift = np.diff(np.searchsorted(np.flatnonzero(breaks(axis, curve)), kept, side="right"), prepend=0) > 0
    shapes: list[Shape] = [
        Path(path_of(x[kept], y[kept], lift), stroke=style.accent, stroke_width=2 * style.charts.line)
    ]
    ends = {int(present[-1]): style.ink}
    if options.extremes:
        ends = {
            int(present[curve.y[present].argmin()]): style.muted,
            int(present[curve.y[present].argmax()]): style.accent,
        } | ends
    for index, colour in ends.items():
        title = mark_title(
            place_name(axis, float(curve.x[index])), texts_of([float(curve.y[index])], column, options)[0]
        )
        shapes.append(Rect(x[index] - 3.5, y[index] - 3.5, 7, 7, colour, 3.5, title))
    if room > 8 and math.isfinite(y[present[-1]]):
        baseline = min(max(y[present[-1]] + font.size * 0.35, font.size), box.height - 2)
        shapes.append(Text(box.width, baseline, text, font, style.ink, "end"))
        if since:
            shapes.append(Text(box.width, baseline + small.line_height, since, small, style.muted, "end"))
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Small line"))


VISUAL = Visual(
    name="sparkline",
    label="Small line",
    purposes=("how it changes",),
    purpose="the shape of a movement in little room",
    needs=Needs(ordered=True, groups=(2, MANY), each_row="any"),
    options=SparklineOptions,
    draw=draw,
    advice=(
        rule(0.4, "{groups} periods as a small line without scales", time=True),
        rule(0.15, "without time it says little"),
    ),
    default_size=(6, 12),
)
