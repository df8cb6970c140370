"""Area chart: an amount over time, filled down to zero."""

from __future__ import annotations

import numpy as np

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Path, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.changes.line import (
    Plot,
    RunOptions,
    curves_on_scale,
    domain_of,
    end_name,
    marks_of,
    plot_of,
    start_text,
)
from ypsil.core.visuals.shared.curves import Axis, Curve, breaks, curves_of, path_of, reduced
from ypsil.core.visuals.shared.summary import describe


class AreaOptions(RunOptions):
    pass


def draw(answer: Answer, options: AreaOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one line with the room below it filled; a missing value or period is a gap in both."""
    axis, curves = curves_of(answer)
    column = answer.of("measure")[0]
    ends = [end_name(curves[0], column, options) if box.beside is None else ""]
    starts = [start_text(curves[0], column, options)]
    plot = plot_of(
        axis, curves, column, domain_of(curves_on_scale(curves, box), from_zero=True), ends, options, box, style, starts
    )
    shapes: list[Shape] = [*plot.shapes, *filled(axis, curves[0], style.accent, plot, steps=options.shape == "steps")]
    shapes += marks_of(axis, curves, ends, [style.accent], plot, options, box, style)
    return Scene(box.width, box.height, (*shapes, *plot.front), answer.sentence, describe(answer, "Area chart"))


def filled(axis: Axis, curve: Curve, colour: str, plot: Plot, *, steps: bool = False) -> list[Shape]:
    """Return the room between a line and zero, one outline a stretch without gaps."""
    x, y = plot.across.all(curve.x), plot.scale.all(curve.y)
    starts = np.flatnonzero(breaks(axis, curve))
    zero = plot.scale(0)
    shapes: list[Shape] = []
    for start, stop in zip(starts, [*starts[1:], len(x)], strict=True):
        piece = Curve("", curve.x[start:stop], curve.y[start:stop])
        kept = start + reduced(piece, x[start:stop])
        kept = kept[~np.isnan(curve.y[kept])]
        if len(kept) > 1:
            line = path_of(x[kept], y[kept], np.zeros(len(kept), dtype=bool), steps=steps)
            d = f"{line}L{x[kept[-1]]:.1f} {zero:.1f}L{x[kept[0]]:.1f} {zero:.1f}Z"
            shapes.append(Path(d, fill=colour, opacity=0.22))
    return shapes


VISUAL = Visual(
    name="area",
    label="Area",
    purposes=("how it changes",),
    purpose="the size of an amount over time",
    needs=Needs(ordered=True, groups=(2, MANY), each_row="any"),
    options=AreaOptions,
    draw=draw,
    native="areas",
    advice=(
        rule(0.2, "single rows without a time have no order", each_row=True, time=False),
        rule(0.62, "{groups} periods of one amount, from zero", time=True),
        rule(0.35, "an area suggests that one thing turns into the next"),
    ),
)
