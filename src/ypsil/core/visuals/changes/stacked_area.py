"""Stacked areas: how several amounts and their sum move over time."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Path, Scene, Shape
from ypsil.core.drawing.stacks import shares, stack
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.changes.line import plot_of
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.curves import Curve, curves_of, places_of, spread_labels
from ypsil.core.visuals.shared.grid import Series, grid_of, on_scale
from ypsil.core.visuals.shared.marks import curve_mark
from ypsil.core.visuals.shared.settings import AxisOptions, PatternOptions, setting
from ypsil.core.visuals.shared.stacking import as_parts
from ypsil.core.visuals.shared.summary import describe


class StackedAreaOptions(AxisOptions, PatternOptions):
    amounts: Literal["as they are", "parts of 100%"] = setting("as they are", "Amounts", "Numbers")


def draw(answer: Answer, options: StackedAreaOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one band a series, the first at the foot; a missing value counts as nothing, since bands must join."""
    axis, _ = curves_of(answer)
    grid = grid_of(answer)
    x = places_of(axis, grid.groups)
    rows = [[value or 0.0 for value in one.values] for one in grid.series]
    parts = options.amounts == "parts of 100%"
    spans = stack([[part or 0.0 for part in row] for row in shares(rows)] if parts else rows)
    bands = [np.array([span or (0.0, 0.0) for span in row]) for row in spans]
    domain = (0.0, 1.0) if parts else nice_domain(0, _highest(on_scale(grid, box)))
    column = as_parts(grid.column) if parts else grid.column
    ends = [one.name if box.beside is None else "" for one in grid.series]
    plot = plot_of(axis, [Curve("", x, bands[-1][:, 1])], column, domain, ends, options, box, style)
    shapes: list[Shape] = list(plot.shapes)
    at = plot.across.all(x)
    labels = []
    for number, (one, band) in enumerate(zip(grid.series, bands, strict=True)):
        low, high = plot.scale.all(band[:, 0]), plot.scale.all(band[:, 1])
        there = zip([*at, *at[::-1]], [*high, *low[::-1]], strict=True)
        outline = "L".join(f"{px:.1f} {py:.1f}" for px, py in there)
        shapes.append(Path(f"M{outline}Z", fill=style.colour(number), stroke=style.paper, title=curve_mark(one.name)))
        labels.append(((low[-1] + high[-1]) / 2, at[-1], ends[number], style.colour(number)))
    room = box.width - plot.right - 13
    font = style.body(LABEL_PX, bold=True)
    named = [(y, px, shorten(name, room, font), colour, name) for y, px, name, colour in labels]
    shapes += spread_labels(named, style, plot.bottom)
    kind = "Stacked areas, each period 100%" if parts else "Stacked areas"
    missing = sum(value is None for one in grid.series for value in one.values)
    return Scene(
        box.width, box.height, (*shapes, *plot.front), answer.sentence, describe(answer, kind), undrawn=missing
    )


def _highest(series: list[Series]) -> float:
    """Return the largest sum of the series at one place."""
    return max(sum(value or 0.0 for value in values) for values in zip(*(one.values for one in series), strict=True))


VISUAL = Visual(
    name="stacked_area",
    label="Stacked areas",
    purposes=("how it changes", "share of a whole"),
    purpose="how several amounts and their sum move",
    needs=Needs(measures=(1, 8), split="any", ordered=True, groups=(2, MANY), series=(2, 8), parts=True),
    options=StackedAreaOptions,
    draw=draw,
    native="stacked areas",
    advice=(
        rule(0.7, "{series} kinds and their sum over {groups} periods", time=True, groups=(12, MANY)),
        rule(0.4, "few periods: columns show each", time=True),
        rule(0.3, "an area suggests that one thing turns into the next"),
    ),
)
