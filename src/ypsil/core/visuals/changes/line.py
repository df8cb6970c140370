"""Line chart: how an amount moves, each line named at its end."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX, axis_name, axis_room, named_axis, value_axis
from ypsil.core.visuals.shared.curves import (
    Axis,
    Curve,
    along_labels,
    breaks,
    curves_of,
    floats_of,
    needs_years,
    path_of,
    reduced,
    spread_labels,
)
from ypsil.core.visuals.shared.grid import Grid, Series, texts_of
from ypsil.core.visuals.shared.marks import curve_mark, mark_title
from ypsil.core.visuals.shared.reference_lines import (
    draw_reference_lines,
    reference_bands,
    reference_lines_of,
    reference_room,
    with_reference,
)
from ypsil.core.visuals.shared.settings import AxisOptions, PatternOptions, setting
from ypsil.core.visuals.shared.summary import describe, group_name

_MOST_POINTS = 40
_MOST_SEARCHED = 5_000
_MOST_COLOURS = 8
_NAMED_OF_MANY = 5
_POINTS_A_PIXEL = 4


class RunOptions(AxisOptions):
    """What runs from point to point."""

    points: bool = setting(True, "Points where there are up to 40 periods", "Marks")
    shape: Literal["straight", "steps"] = setting("straight", "From point to point", "Marks")
    at_end: Literal["as it suits", "name", "value", "name and value", "nothing"] = setting(
        "as it suits", "At the end of a line", "Marks"
    )
    at_start: Literal["nothing", "value"] = setting("nothing", "At its start", "Marks")


class LineOptions(RunOptions, PatternOptions):
    from_zero: bool = setting(True, "Values from zero", "Axes")
    emphasis: str = setting("", "Line to stand out", "Colours", "the others are drawn quiet", max_length=300)


@dataclass(frozen=True, slots=True)
class Plot:
    """Where lines run: scales to px, the room's edges, what stands behind and in front, how many times as wide as usual
    they are."""

    across: LinearScale
    scale: LinearScale
    left: float
    right: float
    bottom: float
    shapes: list[Shape]
    front: list[Shape]
    column: AnswerColumn
    stroke: float = 1.0


def draw(answer: Answer, options: LineOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one line a series; a missing value or period is a gap, and ends are named unless others stand beside."""
    axis, curves = curves_of(answer)
    column = answer.of("measure")[0]
    colours = line_colours(curves, options.emphasis, style)
    named = [colour != style.quiet and box.beside is None for colour in colours]
    ends = [end_name(curve, column, options) if shown else "" for curve, shown in zip(curves, named, strict=True)]
    starts = [start_text(curve, column, options) if shown else "" for curve, shown in zip(curves, named, strict=True)]
    domain = domain_of(curves_on_scale(curves, box), from_zero=options.from_zero)
    plot = plot_of(axis, curves, column, domain, [*ends, _others(ends)], options, box, style, starts)
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
    font = style.body(LABEL_PX - 1)
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
    shapes += end_labels(curves, ends, colours, plot, box, style)
    return shapes + start_labels(curves, colours, plot, options, style)


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


def _first(curve: Curve) -> tuple[float, float]:
    return _end(curve.x, curve.y)


def _last(curve: Curve) -> tuple[float, float]:
    return _end(curve.x[::-1], curve.y[::-1])


def _end(x: np.ndarray, y: np.ndarray) -> tuple[float, float]:
    """Return the first point that has a value; ends are seldom missing, so very long lines are not searched whole."""
    for few in (10, len(y)):
        present = np.flatnonzero(~np.isnan(y[:few]))
        if len(present):
            return float(x[present[0]]), float(y[present[0]])
    return math.nan, -math.inf


def end_name(curve: Curve, column: AnswerColumn, options: RunOptions) -> str:
    """Return what stands beside the end of a line: its name, or where there is one line its last value."""
    last = _last(curve)[1]
    value = texts_of([last], column, options)[0] if math.isfinite(last) else ""
    if options.at_end == "as it suits":
        return curve.name or value
    said = {"name": [curve.name], "value": [value], "name and value": [curve.name, value], "nothing": []}
    return " ".join(part for part in said[options.at_end] if part)


def start_text(curve: Curve, column: AnswerColumn, options: RunOptions) -> str:
    """Return what stands before the start of a line: its first value, or nothing."""
    first = _first(curve)[1]
    return texts_of([first], column, options)[0] if options.at_start == "value" and math.isfinite(first) else ""


def curves_on_scale(curves: list[Curve], box: Box) -> list[Curve]:
    """Return the lines that the scale must hold: those drawn, or also those of the drawings beside them."""
    if box.beside is None:
        return curves
    none = np.empty(0)
    return [Curve(one.name, none, floats_of(box.beside.series(one))) for one in box.beside.of("measure")]


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
    starts: Sequence[str] = (),
) -> Plot:
    """Lay out the axes of a chart of lines; ``ends`` are what stands beside their ends, ``starts`` before them."""
    bold, font = style.body(LABEL_PX, bold=True), style.body(LABEL_PX)
    domain = with_reference(domain, options)
    said = axis_name(column, options, [curve.name for curve in curves])
    named, top = named_axis(said, box, 0, style, shown=options.axis_name)
    left = axis_room(domain, column, style, options)
    present = [value for curve in curves for value in curve.y[~np.isnan(curve.y)].tolist()] if options.average else []
    lines = reference_lines_of(Grid((), [], [Series("", tuple(present))], axis.column, column), options)
    room = min(0.25 * box.width, max((text_width(text, bold) for text in ends), default=0)) + 14
    room = max(room, reference_room(lines, box, style))
    right = box.width - room
    labels = 2 if needs_years(axis, right - left) else 1
    bottom = box.height - labels * font.line_height - 8
    scale = LinearScale(domain, (bottom, min(top + 12, bottom - 10)))
    low, high = (axis.low, axis.high) if axis.high > axis.low else (axis.low - 1, axis.high + 1)
    before = max((text_width(text, bold) + 6 for text in starts if text), default=0.0)
    across = LinearScale((low, high), (left + 8 + before, max(left + 20 + before, right)))
    behind = reference_bands(lines, scale, left, right, style)
    shapes = [*named, *behind, *value_axis(domain, column, left, right, scale, style, options)]
    shapes += along_labels(axis, across, bottom + 19, box.width, style)
    front = draw_reference_lines(lines, scale, left, right, box.width, style)
    return Plot(across, scale, left, right, bottom, shapes, front, column, style.charts.line)


def _line(
    axis: Axis, curve: Curve, column: AnswerColumn, colour: str, plot: Plot, options: RunOptions, *, points: bool
) -> list[Shape]:
    x = plot.across.all(curve.x)
    lifted = breaks(axis, curve)
    kept = reduced(curve, x)
    starts = np.flatnonzero(lifted)
    # A break between two drawn points lifts the line at the second, also where the break's own point is not drawn.
    lift = np.diff(np.searchsorted(starts, kept, side="right"), prepend=0) > 0
    path = path_of(x[kept], plot.scale.all(curve.y[kept]), lift, steps=options.shape == "steps")
    marks: list[Shape] = [
        Path(
            path,
            stroke=colour,
            stroke_width=plot.stroke * (2.5 if len(curve.x) < 400 else 1.25),
            title=curve_mark(curve.name),
        )
    ]
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
    if points:
        shown = np.flatnonzero(~np.isnan(curve.y))
    else:
        starts = np.flatnonzero(lifted)
        starts = starts[~np.isnan(curve.y[starts])]
        after = np.minimum(starts + 1, len(lifted) - 1)
        shown = starts[(starts == after) | lifted[after] | np.isnan(curve.y[after])]
    shown = shown[: 10 * _MOST_POINTS]
    if options.note and not points:
        shown = np.union1d(shown, _places_named(axis, curve, options.note_at)).astype(int)
    texts = texts_of(curve.y[shown].tolist(), column, options)
    marks: list[Shape] = []
    for index, text in zip(shown.tolist(), texts, strict=True):
        x, y = plot.across(float(curve.x[index])), plot.scale(float(curve.y[index]))
        title = mark_title(place_name(axis, float(curve.x[index])), text, series=curve.name)
        marks.append(Rect(x - 3, y - 3, 6, 6, colour, 3, title))
    return marks


def _places_named(axis: Axis, curve: Curve, name: str) -> list[int]:
    """Return which points of a line stand at the place that a note is about."""
    if len(curve.x) > _MOST_SEARCHED:
        return []
    present = np.flatnonzero(~np.isnan(curve.y)).tolist()
    return [
        index for index in present if mark_title(place_name(axis, float(curve.x[index])), series=curve.name).is_of(name)
    ]


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
    """Return the names of the lines beside their last points, and under them how many of very many have none."""
    bold = style.body(LABEL_PX, bold=True)
    labels = []
    for curve, text, colour in zip(curves, ends, colours, strict=True):
        x, y = _last(curve)
        if text and math.isfinite(y):
            at = plot.across(x)
            labels.append((plot.scale(y), at, shorten(text, max(20.0, box.width - at - 12), bold), colour, text))
    if labels and (others := _others(ends)):
        lowest = max(y for y, *_ in labels)
        labels.append((lowest + 1, plot.right, shorten(others, box.width - plot.right - 12, bold), style.muted, others))
    return spread_labels(labels, style, plot.bottom)


def _others(ends: list[str]) -> str:
    """Return how many lines have no name, where several of very many have one."""
    nameless = ends.count("")
    return f"{nameless} others" if len(ends) > _MOST_COLOURS and len(ends) - nameless > 1 else ""


def start_labels(
    curves: list[Curve], colours: list[str], plot: Plot, options: RunOptions, style: HouseStyle
) -> list[Shape]:
    """Return the first values of the lines before their first points, where they are wanted; quiet lines have none."""
    labels = []
    for curve, colour in zip(curves, colours, strict=True):
        text = start_text(curve, plot.column, options) if colour != style.quiet else ""
        if text:
            x, y = _first(curve)
            labels.append((plot.scale(y), plot.across(x), text, colour, text))
    return spread_labels(labels, style, plot.bottom, "end")


VISUAL = Visual(
    name="line",
    label="Lines",
    purposes=("how it changes", "what people say"),
    purpose="follow amounts over many periods",
    needs=Needs(measures=(1, 6), split="any", ordered=True, groups=(2, MANY), series=(1, 60), each_row="any"),
    options=LineOptions,
    draw=draw,
    native="lines",
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
