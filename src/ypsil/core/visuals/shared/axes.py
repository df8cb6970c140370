"""Axes of cartesian charts: the value axis, its ticks, and the names of the groups."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from functools import lru_cache
from typing import Any

from ypsil.core.answers.model import AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Font, Line, Shape, Text
from ypsil.core.drawing.ticks import ticks
from ypsil.core.drawing.wrap import ELLIPSIS, shorten, wrap
from ypsil.core.figures import (
    POINTS,
    SHARE_UNITS,
    ShortForm,
    decimals_kept,
    format_number,
    format_period,
    one_form,
)
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.grid import FACTORS, Grid
from ypsil.core.visuals.shared.settings import BY_SIZE, NumberOptions
from ypsil.core.visuals.shared.summary import group_name

LABEL_PX = 13.0
_SIGNS = ("%", POINTS, "£", "€", "$", "¥")
_END_PX = 18.0
_SMALL_PX = 150
_TICK_ROOM_PX = 24


def axis_texts(values: list[float], column: AnswerColumn, options: NumberOptions | None = None) -> list[str]:
    """Return tick labels; a currency or percent sign stands on each, any other unit in the axis name."""
    unit = column.unit if column.unit in _SIGNS else None
    factor = FACTORS[options.scale] if options else 1.0
    short = options is None or options.scale == BY_SIZE
    decimals = options.decimals if options else None
    # A chart asks twice: for the room that the labels take, and for the labels.
    return list(_tick_texts(tuple(values), unit, column.prefix, 0.0 if short else factor, decimals, column.locale))


@lru_cache(maxsize=4096)
def _tick_texts(
    values: tuple[float, ...], unit: str | None, prefix: str, factor: float, decimals: int | None, locale: str
) -> tuple[str, ...]:
    form = one_form(values, locale) if not factor and unit not in SHARE_UNITS else ShortForm()
    shown = [value / (factor or form.factor) for value in values]
    scaled = [value * 100 for value in shown] if unit in SHARE_UNITS else shown
    decimals = max(decimals_kept([round(value, 9) for value in scaled], most=9), decimals or 0)
    if form.factor > 1:
        # The same sign stands on all but zero, which is nothing of anything.
        return tuple(prefix + form.text(value, unit=unit, decimals=decimals) if value else "0" for value in values)
    return tuple(prefix + format_number(value, decimals=decimals, unit=unit, locale=locale) for value in shown)


def axis_name(column: AnswerColumn, options: NumberOptions, series: Sequence[str] = ()) -> str:
    """Return what the values are, with the unit that does not stand on each tick and the scale; without the measure's
    name where it is one of several ``series`` on the axis, which are named where they are drawn."""
    name = "" if column.name in series else column.name
    unit = column.unit if column.unit and column.unit not in _SIGNS else ""
    scale = options.scale if FACTORS[options.scale] > 1 else ""
    return ", ".join(part for part in (name, " ".join(part for part in (scale, unit) if part)) if part)


def named_axis(name: str, box: Box, top: float, style: HouseStyle, *, shown: bool = True) -> tuple[list[Shape], float]:
    """Return the name of the value axis, at its head, and the height it takes; small drawings do without."""
    if not shown or not name or box.height < _SMALL_PX or box.width < _SMALL_PX:
        return [], 0.0
    font = style.body(LABEL_PX - 1)
    return [
        Text(0, top + font.size, shorten(name, box.width, font), font, style.muted, title=name)
    ], font.line_height + 4


def value_axis(
    domain: tuple[float, float],
    column: AnswerColumn,
    left: float,
    right: float,
    scale: LinearScale,
    style: HouseStyle,
    options: NumberOptions | None = None,
) -> list[Shape]:
    """Return light horizontal lines with their values in front of them; zero is drawn stronger."""
    font = style.body(LABEL_PX - 1)
    values = axis_ticks(domain, column, vertical_tick_count(scale))
    shapes: list[Shape] = []
    for value, label in zip(values, axis_texts(values, column, options), strict=True):
        y = scale(value)
        strong = value == 0
        if strong or style.charts.grid == "lines":
            shapes.append(Line(left, y, right, y, style.muted if strong else style.grid, 1))
        shapes.append(Text(left - 8, y + 4, label, font, style.muted, "end"))
    return shapes


def axis_ticks(domain: tuple[float, float], column: AnswerColumn, count: int) -> list[float]:
    """Return the values that an axis names; of what is counted, whole ones only."""
    values = ticks(*domain, count)
    whole = [value for value in values if value == int(value)]
    return whole if column.counts and len(whole) > 1 else values


def vertical_tick_count(scale: LinearScale) -> int:
    """Return how many ticks a vertical scale has room for, at most five."""
    return max(1, min(5, int(abs(scale.range[1] - scale.range[0]) // _TICK_ROOM_PX)))


def horizontal_value_axis(
    domain: tuple[float, float],
    column: AnswerColumn,
    top: float,
    bottom: float,
    scale: LinearScale,
    style: HouseStyle,
    options: NumberOptions | None = None,
) -> list[Shape]:
    """Return light vertical lines with their values below them, as many as stand clear of each other."""
    font = style.body(LABEL_PX - 1)
    room = abs(scale.range[1] - scale.range[0])
    shapes: list[Shape] = []
    for count in (5, 3, 2):
        values = axis_ticks(domain, column, count)
        labels = axis_texts(values, column, options)
        if sum(text_width(label, font) + 16 for label in labels) <= room:
            break
    else:
        # In the smallest drawings the ends say enough.
        values, labels = [values[0], values[-1]], [labels[0], labels[-1]]
    for value, label in zip(values, labels, strict=True):
        x = scale(value)
        if value == 0 or style.charts.grid == "lines":
            shapes.append(Line(x, top, x, bottom, style.muted if value == 0 else style.grid, 1))
        end = max(scale.range) + _END_PX - text_width(label, font) / 2
        shapes.append(Text(min(x, end), bottom + 17, label, font, style.muted, "middle"))
    return shapes


def axis_room(
    domain: tuple[float, float], column: AnswerColumn, style: HouseStyle, options: NumberOptions | None = None
) -> float:
    """Return the width that a value axis's labels take."""
    values = axis_ticks(domain, column, 5)
    font = style.body(LABEL_PX - 1)
    return max((text_width(label, font) for label in axis_texts(values, column, options)), default=0) + 12


def group_labels(names: list[str], step: float, font: Font, most_lines: int = 3) -> tuple[list[list[str]], int]:
    """Wrap group names into bands of ``step`` px; return the lines of each and how many bands a label spans.

    Where names are too narrow to read, every second, third … one is shown.
    """
    lines, every = _wrapped_labels(tuple(names), step, font, most_lines)
    return [list(one) for one in lines], every


@lru_cache(maxsize=256)
def _wrapped_labels(
    names: tuple[str, ...], step: float, font: Font, most_lines: int
) -> tuple[tuple[tuple[str, ...], ...], int]:
    widest_word = max((text_width(word, font) for name in names for word in name.split()), default=0)
    every = 1
    while (every * step - 4) < min(widest_word, 64) and every < len(names):
        every += 1
    room = every * step - 4
    lines = [wrap(name, room, font, most=most_lines) if index % every == 0 else [] for index, name in enumerate(names)]
    return tuple(tuple(shorten(line, room, font) for line in one) for one in lines), every


def names_between(grid: Grid, every: int) -> int:
    """Return how many groups have no name where every second, third … has one; periods and classes need no more."""
    if grid.per.kind in ("date", "number") or grid.per.grain or grid.per.edges:
        return 0
    return len(grid.names) - len(range(0, len(grid.names), every))


def full_name(name: str, lines: Sequence[str]) -> str:
    """Return the name that is told on hover: none where all of it stands there."""
    return name if lines and lines[-1].endswith(ELLIPSIS) else ""


def short_periods(groups: Sequence[Any], per: AnswerColumn) -> list[str]:
    """Return the names of periods, the year only where it begins: “Jan 2026”, “Feb”, “Mar”.

    >>> days = [dt.date(2025, 12, 1), dt.date(2026, 1, 1), dt.date(2026, 2, 1)]
    >>> short_periods(days, AnswerColumn("Day", "date", "per", grain="month"))
    ['Dec 2025', 'Jan 2026', 'Feb']
    """
    names = [group_name(value, per) for value in groups]
    if per.grain not in ("month", "quarter", "day"):
        return names
    found = []
    year: int | None = None
    for value, name in zip(groups, names, strict=True):
        found.append(name if value.year != year else name.removesuffix(f" {value.year}"))
        year = value.year
    return found


def period_of(moment: dt.date, unit: str) -> str:
    """Return a tick of a time axis in words, without its year unless that is all it says."""
    if unit == "year":
        return str(moment.year)
    if unit == "month":
        return format_period(moment, "month").removesuffix(f" {moment.year}")
    return format_period(moment, "day").removesuffix(f" {moment.year}")
