"""Lines through many points: where they lie on a time axis, where they break, and how a million become a few
thousand without losing their extremes."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import polars as pl

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Anchor, Line, Shape, Text
from ypsil.core.drawing.ticks import ticks
from ypsil.core.drawing.time_ticks import Unit, seconds, time_step, time_ticks
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.shared.axes import LABEL_PX, axis_texts, period_of
from ypsil.core.visuals.shared.summary import group_name

_TICK_PX = 58
_CALENDAR = {"year": "year", "quarter": "month", "month": "month", "week": "day", "day": "day"}
# A line breaks where the next point is farther than so many usual steps: weekends are no gap in daily figures.
_BREAK = {"year": 1.5, "quarter": 1.5, "month": 1.5, "week": 1.5}
_USUAL_BREAK = 3.6
_POINTS_A_PIXEL = 4


@dataclass(frozen=True, slots=True)
class Curve:
    """One series: places on the axis (seconds, numbers or positions), values (NaN where missing), names of places."""

    name: str
    x: np.ndarray
    y: np.ndarray


@dataclass(frozen=True, slots=True)
class Axis:
    """What goes along: whether it is time, its range, and the names of its places where they are few."""

    column: AnswerColumn
    is_time: bool
    low: float
    high: float
    names: tuple[str, ...] = ()


def curves_of(answer: Answer) -> tuple[Axis, list[Curve]]:
    """Return the series of an answer along its first grouping column, as arrays in the order of their rows."""
    per, measures, splits = answer.of("per")[0], answer.of("measure"), answer.of("split")
    cells = answer.series(per)
    is_time = per.kind == "date"
    names: tuple[str, ...] = ()
    if is_time:
        places = cells.cast(pl.Datetime("us")).to_physical().cast(pl.Float64) / 1e6
    elif per.kind == "number":
        places = cells.cast(pl.Float64)
    else:
        members = cells.unique(maintain_order=True)
        names = tuple(group_name(value, per) for value in members.to_list())
        rank = pl.DataFrame({"value": members, "rank": np.arange(len(members), dtype=float)})
        places = cells.to_frame("value").join(rank, on="value", how="left", maintain_order="left")["rank"]
    x = places.to_numpy()
    axis = Axis(per, is_time, float(x.min()), float(x.max()), names)
    if not splits:
        named = len(measures) > 1
        return axis, [Curve(one.name if named else "", x, floats_of(answer.series(one))) for one in measures]
    split, y = answer.series(splits[0]), floats_of(answer.series(measures[0]))
    found = []
    for member in answer.members(splits[0]):
        chosen = (split == member).to_numpy()
        found.append(Curve(group_name(member, splits[0]), x[chosen], y[chosen]))
    return axis, found


def places_of(axis: Axis, groups: Sequence[Any]) -> np.ndarray:
    """Return the places of groups on the axis."""
    if axis.is_time:
        return np.array([seconds(group) for group in groups])
    return np.array(groups, dtype=float) if not axis.names else np.arange(len(groups), dtype=float)


def floats_of(cells: pl.Series) -> np.ndarray:
    """Return a column of numbers as an array, NaN where a value is missing."""
    values: np.ndarray = cells.cast(pl.Float64, strict=False).fill_null(float("nan")).to_numpy()
    return values


def breaks(axis: Axis, curve: Curve) -> np.ndarray:
    """Return before which points the line is lifted: after a missing value, and where periods are missing."""
    lifted = np.zeros(len(curve.x), dtype=bool)
    if len(curve.x):
        lifted[0] = True
    missing = np.isnan(curve.y)
    lifted[1:] |= missing[:-1]
    if axis.is_time and len(curve.x) > 2 and axis.column.grain is not None:
        steps = np.diff(curve.x)
        usual = float(np.median(steps))
        lifted[1:] |= steps > usual * _BREAK.get(axis.column.grain, _USUAL_BREAK)
    return lifted


def reduced(curve: Curve, places: np.ndarray) -> np.ndarray:
    """Return which points to draw: for each pixel the first, the last, the lowest and the highest.

    ``places`` are the points' x in px, rising. What is drawn is pixel for pixel what all points would give (Jugel
    and others, "M4", 2014); extremes are never lost.
    """
    count = len(places)
    missing = np.isnan(curve.y)
    index = np.flatnonzero(~missing) if missing.any() else None
    pixels = (places if index is None else places[index]).astype(np.int32)
    starts = np.flatnonzero(np.r_[True, pixels[1:] != pixels[:-1]])
    if count <= _POINTS_A_PIXEL * (len(starts) + 1):
        return np.arange(count)
    values = curve.y if index is None else curve.y[index]
    stops = np.r_[starts[1:], len(pixels)]
    # There are no more pixels than the drawing is wide: asking each is faster than passes over all points.
    pieces = [(start, values[start:stop]) for start, stop in zip(starts.tolist(), stops.tolist(), strict=True)]
    lowest = [start + int(piece.argmin()) for start, piece in pieces]
    highest = [start + int(piece.argmax()) for start, piece in pieces]
    chosen = [starts, stops - 1, np.array(lowest), np.array(highest)]
    found: np.ndarray = np.unique(np.concatenate(chosen))
    return found if index is None else index[found]


def path_of(x: np.ndarray, y: np.ndarray, lifted: np.ndarray, *, steps: bool = False) -> str:
    """Return an SVG path through points in px; missing values (NaN) are left out."""
    commands: list[str] = []
    pen_down = False
    last_y = 0.0
    for px, py, lift in zip(np.round(x, 1).tolist(), np.round(y, 1).tolist(), lifted.tolist(), strict=True):
        if py != py:
            pen_down = False
            continue
        if lift or not pen_down:
            commands.append(f"M{px:g} {py:g}")
        elif steps:
            commands.append(f"L{px:g} {last_y:g}L{px:g} {py:g}")
        else:
            commands.append(f"L{px:g} {py:g}")
        pen_down, last_y = True, py
    return "".join(commands)


def along_labels(axis: Axis, across: LinearScale, y: float, width: float, style: HouseStyle) -> list[Shape]:
    """Name the places along the axis: calendar moments, numbers, or as many names as have room."""
    if axis.is_time:
        return _time_labels(axis, across, y, width, style)
    if axis.column.kind == "number" and not axis.names:
        values = ticks(axis.low, axis.high, max(2, int(abs(across.range[1] - across.range[0]) // _TICK_PX)))
        texts = axis_texts(values, axis.column)
        return _placed([(across(value), text) for value, text in zip(values, texts, strict=True)], y, width, style)
    return _name_labels(axis.names, across, y, width, style)


def needs_years(axis: Axis, width: float) -> bool:
    """Tell whether a time axis of this width has a second line of labels, for the years."""
    return axis.is_time and _unit_along(axis, width) not in ("year", "hour", "minute", "second")


def _ends(axis: Axis) -> tuple[dt.datetime, dt.datetime]:
    epoch = dt.datetime(1970, 1, 1)
    return epoch + dt.timedelta(seconds=axis.low), epoch + dt.timedelta(seconds=axis.high)


def _unit_along(axis: Axis, width: float) -> str:
    unit = time_step(*_ends(axis), max(2, int(width // _TICK_PX))).unit
    least = _CALENDAR.get(axis.column.grain or "", "second")
    return least if least in ("year", "month") and unit not in ("year", "month") else unit


def _time_labels(axis: Axis, across: LinearScale, y: float, width: float, style: HouseStyle) -> list[Shape]:
    """Name calendar moments; the year stands once below its first moment."""
    start, stop = _ends(axis)
    length = abs(across.range[1] - across.range[0])
    at_least: Unit = _CALENDAR.get(axis.column.grain or "", "second")  # type: ignore[assignment]
    moments = time_ticks(start, stop, max(2, int(length // _TICK_PX)), at_least=at_least)
    if len(moments) < 2:
        moments = [start] if start == stop else [start, stop]
    unit = _unit_along(axis, length)
    places = [across(seconds(moment)) for moment in moments]
    shapes = _placed(
        [(x, _moment_name(moment, unit)) for x, moment in zip(places, moments, strict=True)], y, width, style
    )
    if needs_years(axis, length):
        font = style.body(LABEL_PX)
        firsts: dict[int, float] = {}
        for moment, x in zip(moments, places, strict=True):
            firsts.setdefault(moment.year, x)
        years = [(x, str(year)) for year, x in firsts.items()]
        # A year of which only the end is seen gives way to the next.
        if len(years) > 1 and years[1][0] - years[0][0] < text_width(years[0][1], font) + 8:
            years = years[1:]
        shapes += [shape for shape in _placed(years, y + font.line_height, width, style) if isinstance(shape, Text)]
    return shapes


def _moment_name(moment: dt.datetime, unit: str) -> str:
    if unit in ("hour", "minute", "second"):
        if (moment.hour, moment.minute, moment.second) == (0, 0, 0):
            return period_of(moment.date(), "day")
        return f"{moment:%H:%M:%S}" if unit == "second" else f"{moment:%H:%M}"
    return period_of(moment.date(), unit)


def _name_labels(names: tuple[str, ...], across: LinearScale, y: float, width: float, style: HouseStyle) -> list[Shape]:
    """Name as many places as have room, at even distances, the last one always."""
    font = style.body(LABEL_PX)
    widest = max((text_width(name, font) for name in names), default=0) + 14
    step = abs(across(1) - across(0)) if len(names) > 1 else widest
    every = max(1, int(-(-widest // max(step, 0.01))))
    shown = range((len(names) - 1) % every, len(names), every)
    return _placed([(across(index), names[index]) for index in shown], y, width, style)


def _placed(labels: list[tuple[float, str]], y: float, width: float, style: HouseStyle) -> list[Shape]:
    """Stand labels at their places, moved in from the ends; one that would touch the one before is left out."""
    font = style.body(LABEL_PX)
    shapes: list[Shape] = []
    free = -1e9
    for place, text in labels:
        half = text_width(text, font) / 2
        x = min(max(place, half), max(half, width - half))
        if x - half < free + 8:
            continue
        shapes.append(Line(place, y - 19, place, y - 14, style.muted, 1))
        shapes.append(Text(x, y, text, font, style.ink, "middle"))
        free = x + half
    return shapes


def spread_labels(
    labels: list[tuple[float, float, str, str, str]], style: HouseStyle, bottom: float, anchor: Anchor = "start"
) -> list[Shape]:
    """Stand labels (y, x, text, colour, all of it) beside the ends of their lines, moved apart where they would meet.

    With the anchor ``end`` they stand before their lines' starts.
    """
    font = style.body(LABEL_PX, bold=True)
    placed = sorted(labels)
    wanted = [y + font.size * 0.35 for y, *_ in placed]
    baselines = spread(wanted, font.line_height, font.size, bottom)
    side = -10 if anchor == "end" else 10
    shapes: list[Shape] = []
    for (_, x, text, colour, whole), baseline in zip(placed, baselines, strict=True):
        shapes.append(Text(x + side, baseline, text, font, colour, anchor, "" if text == whole else whole))
    return shapes


def spread(wanted: list[float], apart: float, first: float, last: float) -> list[float]:
    """Return places from ``first`` to ``last`` at least ``apart``, as near as can be to those wanted, which rise.

    Places that would meet are moved as one by the mean of their errors (isotonic regression by pooling adjacent
    violators: Barlow and others, Statistical Inference under Order Restrictions, 1972). Too many run over ``first``.

    >>> spread([10, 12, 50], 10, 0, 100)
    [6.0, 16.0, 50.0]
    """
    pools: list[tuple[float, int]] = []
    for index, place in enumerate(wanted):
        mean, count = place - index * apart, 1
        while pools and pools[-1][0] > mean:
            before, many = pools.pop()
            mean, count = (before * many + mean * count) / (many + count), many + count
        pools.append((mean, count))
    lowest, highest = first, last - (len(wanted) - 1) * apart
    levels = [min(max(mean, lowest), highest) for mean, count in pools for _ in range(count)]
    return [float(level + index * apart) for index, level in enumerate(levels)]
