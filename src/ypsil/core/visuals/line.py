"""Line chart: how an amount moves, each line named at its end."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.drawing.wrap import shorten
from ypsil.core.questions.model import Answer, AnswerColumn
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.curves import (
    Axis,
    Curve,
    along_labels,
    breaks,
    curves_of,
    needs_years,
    path_of,
    reduced,
    spread_labels,
)
from ypsil.core.visuals.frame import (
    LABEL_PX,
    Grid,
    Series,
    across_of,
    across_room,
    axis_name,
    axis_room,
    lines_across,
    mark_title,
    named_axis,
    texts_of,
    value_axis,
    with_reference,
)
from ypsil.core.visuals.settings import AxisOptions, setting
from ypsil.core.visuals.summary import describe, group_name

_MOST_POINTS = 40
_MOST_COLOURS = 8
_NAMED_OF_MANY = 5
_POINTS_A_PIXEL = 4


class RunOptions(AxisOptions):
    """What runs from point to point."""

    points: bool = setting(True, "Points where there are up to 40 periods", "Marks")
    shape: Literal["straight", "steps"] = setting("straight", "From point to point", "Marks")


class LineOptions(RunOptions):
    from_zero: bool = setting(True, "Values from zero", "Axes")
    emphasis: str = setting("", "Line to stand out", "Colours", "the others are drawn quiet", max_length=300)


@dataclass(frozen=True, slots=True)
class Plot:
    """Where lines run: scales to px, the room's edges, what stands behind and in front."""

    across: LinearScale
    scale: LinearScale
    left: float
    right: float
    bottom: float
    shapes: list[Shape]
    front: list[Shape]
    column: AnswerColumn


def draw(answer: Answer, options: LineOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one line a series; a missing value or period is a gap, and the ends are named."""
    return lines(answer, options, box, style)


def lines(
    answer: Answer,
    options: LineOptions,
    box: Box,
    style: HouseStyle,
    domain: tuple[float, float] | None = None,
    *,
    names_ends: bool = True,
) -> Scene:
    """Draw lines, on a scale that is given or on their own, their ends named or not."""
    axis, curves = curves_of(answer)
    column = answer.of("measure")[0]
    colours = line_colours(curves, options.emphasis, style)
    named = [colour != style.quiet and names_ends for colour in colours]
    ends = [end_name(curve, column, options) if shown else "" for curve, shown in zip(curves, named, strict=True)]
    plot = plot_of(
        axis, curves, column, domain or domain_of(curves, from_zero=options.from_zero), ends, options, box, style
    )
    marks = marks_of(axis, curves, ends, colours, plot, options, box, style)
    kind = "Line chart" if options.shape == "straight" else "Stepped line chart"
    said = describe(answer, kind)
    note = _reduction(curves, plot)
    shapes = (*plot.shapes, *marks, *plot.front, *_noted(note, box, style))
    return Scene(box.width, box.height, shapes, answer.sentence, f"{said} {note}".strip())


def _reduction(curves: list[Curve], plot: Plot) -> str:
    """Say so where not every point is drawn."""
    most = max(len(curve.x) for curve in curves)
    if most <= _POINTS_A_PIXEL * abs(plot.across.range[1] - plot.across.range[0]):
        return ""
    return f"{sum(len(curve.x) for curve in curves):,} points; each pixel keeps its highest and lowest."


def _noted(note: str, box: Box, style: HouseStyle) -> list[Shape]:
    font = style.body(LABEL_PX - 2)
    return [Text(box.width, font.size, shorten(note, box.width * 0.7, font), font, style.muted, "end")] if note else []


def marks_of(
    axis: Axis,
    curves: list[Curve],
    ends: list[str],
    colours: list[str],
    plot: Plot,
    options: RunOptions,
    box: Box,
    style: HouseStyle,
) -> list[Shape]:
    """Return the lines, quiet ones behind, with their points and the names at their ends."""
    ordered = sorted(range(len(curves)), key=lambda index: colours[index] != style.quiet)
    dense = max(len(curve.x) for curve in curves) > _MOST_POINTS or len(curves) > _MOST_COLOURS
    shapes: list[Shape] = []
    for index in ordered:
        points = options.points and not dense
        shapes += _line(axis, curves[index], plot.column, colours[index], plot, options, points=points)
    return shapes + end_labels(curves, ends, colours, plot, box, style)


def line_colours(curves: list[Curve], emphasis: str, style: HouseStyle) -> list[str]:
    """Return a colour for each line: the accent for one, quiet ones beside the emphasis or among very many."""
    if len(curves) == 1:
        return [style.accent]
    if emphasis and any(curve.name == emphasis for curve in curves):
        return [style.accent if curve.name == emphasis else style.quiet for curve in curves]
    if len(curves) <= _MOST_COLOURS:
        return [style.colour(index) for index in range(len(curves))]
    lasts = sorted(range(len(curves)), key=lambda index: -_last(curves[index])[1])[:_NAMED_OF_MANY]
    return [style.colour(lasts.index(index)) if index in lasts else style.quiet for index in range(len(curves))]


def _last(curve: Curve) -> tuple[float, float]:
    present = np.flatnonzero(~np.isnan(curve.y))
    if not len(present):
        return math.nan, -math.inf
    return float(curve.x[present[-1]]), float(curve.y[present[-1]])


def end_name(curve: Curve, column: AnswerColumn, options: RunOptions) -> str:
    """Return what stands beside the end of a line: its name, or where there is one line its last value."""
    last = _last(curve)[1]
    return curve.name or (texts_of([last], column, options)[0] if math.isfinite(last) else "")


def domain_of(curves: list[Curve], *, from_zero: bool) -> tuple[float, float]:
    """Return a round domain that holds all values, and zero unless that is not wanted."""
    ends = [(float(np.fmin.reduce(curve.y)), float(np.fmax.reduce(curve.y))) for curve in curves if len(curve.y)]
    lows = [low for low, _ in ends if math.isfinite(low)]
    highs = [high for _, high in ends if math.isfinite(high)]
    low, high = min(lows, default=0.0), max(highs, default=0.0)
    if from_zero or low == high:
        low, high = min(0.0, low), max(0.0, high)
    return nice_domain(low, high) if low != high else (0.0, 1.0)


def plot_of(
    axis: Axis,
    curves: list[Curve],
    column: AnswerColumn,
    domain: tuple[float, float],
    ends: list[str],
    options: AxisOptions,
    box: Box,
    style: HouseStyle,
) -> Plot:
    """Lay out the axes of a chart of lines; ``ends`` are what stands beside their ends."""
    bold, font = style.body(LABEL_PX, bold=True), style.body(LABEL_PX)
    domain = with_reference(domain, options)
    named, top = named_axis(axis_name(column, options), box, 0, style, shown=options.axis_name)
    left = axis_room(domain, column, style, options)
    present = [value for curve in curves for value in curve.y[~np.isnan(curve.y)].tolist()] if options.average else []
    lines = across_of(Grid((), [], [Series("", tuple(present))], axis.column, column), options)
    room = min(0.25 * box.width, max((text_width(text, bold) for text in ends), default=0)) + 14
    room = max(room, across_room(lines, box, style))
    right = box.width - room
    labels = 2 if needs_years(axis, right - left) else 1
    bottom = box.height - labels * font.line_height - 8
    scale = LinearScale(domain, (bottom, min(top + 12, bottom - 10)))
    low, high = (axis.low, axis.high) if axis.high > axis.low else (axis.low - 1, axis.high + 1)
    across = LinearScale((low, high), (left + 8, max(left + 20, right)))
    shapes = [*named, *value_axis(domain, column, left, right, scale, style, options)]
    shapes += along_labels(axis, across, bottom + 19, box.width, style)
    front = lines_across(lines, scale, left, right, box.width, style)
    return Plot(across, scale, left, right, bottom, shapes, front, column)


def _line(
    axis: Axis, curve: Curve, column: AnswerColumn, colour: str, plot: Plot, options: RunOptions, *, points: bool
) -> list[Shape]:
    x, y = plot.across.all(curve.x), plot.scale.all(curve.y)
    lifted = breaks(axis, curve)
    kept = reduced(curve, x)
    starts = np.flatnonzero(lifted)
    # A break between two drawn points lifts the line at the second, also where the break's own point is not drawn.
    lift = np.diff(np.searchsorted(starts, kept, side="right"), prepend=0) > 0
    path = path_of(x[kept], y[kept], lift, steps=options.shape == "steps")
    marks: list[Shape] = [Path(path, stroke=colour, stroke_width=2.5 if len(curve.x) < 400 else 1.25, title=curve.name)]
    return marks + _points(axis, curve, column, colour, plot, options, lifted, points=points)


def _points(
    axis: Axis,
    curve: Curve,
    column: AnswerColumn,
    colour: str,
    plot: Plot,
    options: RunOptions,
    lifted: np.ndarray,
    *,
    points: bool,
) -> list[Shape]:
    """Return the points that carry names and values: all where they are few, else those that stand alone."""
    present = ~np.isnan(curve.y)
    after = np.r_[lifted[1:] | ~present[1:], True]
    shown = np.flatnonzero(present if points else present & lifted & after)[: 10 * _MOST_POINTS]
    texts = texts_of(curve.y[shown].tolist(), column, options)
    marks: list[Shape] = []
    for index, text in zip(shown.tolist(), texts, strict=True):
        x, y = plot.across(float(curve.x[index])), plot.scale(float(curve.y[index]))
        title = mark_title(place_name(axis, float(curve.x[index])), curve.name, text)
        marks.append(Rect(x - 3, y - 3, 6, 6, colour, 3, title))
    return marks


def place_name(axis: Axis, x: float) -> str:
    """Return the name of a place on the axis."""
    if axis.names:
        return axis.names[int(x)]
    if not axis.is_time:
        return group_name(x, axis.column)
    moment = np.datetime64(int(x * 1e6), "us").astype(object)
    return group_name(moment.date() if axis.column.grain else moment, axis.column)


def end_labels(
    curves: list[Curve], ends: list[str], colours: list[str], plot: Plot, box: Box, style: HouseStyle
) -> list[Shape]:
    """Return the names of the lines beside their last points."""
    bold = style.body(LABEL_PX, bold=True)
    labels = []
    for curve, text, colour in zip(curves, ends, colours, strict=True):
        x, y = _last(curve)
        if text and math.isfinite(y):
            at = plot.across(x)
            labels.append((plot.scale(y), at, shorten(text, max(20.0, box.width - at - 12), bold), colour))
    return spread_labels(labels, style, plot.bottom)


VISUAL = Visual(
    name="line",
    label="Lines",
    purposes=("how it changes",),
    purpose="follow amounts over many periods",
    needs=Needs(measures=(1, 6), split="any", ordered=True, groups=(2, MANY), series=(1, 60), each_row="any"),
    options=LineOptions,
    draw=draw,
    advice=(
        rule(0.93, "{values} single values in order: a line shows the movement", each_row=True, time=True),
        rule(0.2, "single rows without a time have no order", each_row=True),
        rule(0.95, "{groups} periods in order: a line shows the change", time=True, groups=(13, MANY)),
        rule(0.95, "{series} lines over {groups} periods can be compared", time=True, series=(2, 8)),
        rule(0.5, "{series} lines: the highest are named, the rest stay quiet", time=True, series=(9, MANY)),
        rule(0.78, "{groups} periods in order: a line shows the change", time=True),
        rule(0.3, "a line suggests that one thing turns into the next"),
    ),
)
