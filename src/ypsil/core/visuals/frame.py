"""What cartesian charts share: value axis, names of the groups, legend, lines across, and a message where nothing
can stand."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.colour import readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Anchor, Font, Line, Mark, Rect, Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain, ticks
from ypsil.core.drawing.wrap import ELLIPSIS, shorten, wrap
from ypsil.core.figures import (
    POINTS,
    SHARE_UNITS,
    ShortForm,
    current_locale,
    decimals_kept,
    format_number,
    format_period,
    format_share,
    one_form,
)
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.marks import mark_title
from ypsil.core.visuals.settings import BY_SIZE, NumberOptions
from ypsil.core.visuals.summary import group_name, mark_texts, value_texts

LABEL_PX = 13.0
_LEGEND_ROW_PX = 22.0
_SIGNS = ("%", POINTS, "£", "€", "$", "¥")
_FACTORS = {BY_SIZE: 1.0, "as they are": 1.0, "thousands": 1e3, "millions": 1e6, "billions": 1e9}
_END_PX = 18.0
_SMALL_PX = 150
_TICK_ROOM_PX = 24


@dataclass(frozen=True, slots=True)
class Series:
    """One row of values for all groups; ``name`` is empty where there is no split."""

    name: str
    values: tuple[float | None, ...]


@dataclass(frozen=True, slots=True)
class Grid:
    """An answer as groups by series: ``groups`` are the values, ``names`` what readers see of them."""

    groups: tuple[Any, ...]
    names: list[str]
    series: list[Series]
    per: AnswerColumn
    column: AnswerColumn
    wholes: tuple[float, ...] = ()

    def title(self, number: int, index: int, text: str) -> Mark:
        """Return what a reader learns at the mark of a series and a group: names, value, share of the whole."""
        series = self.series[number]
        value = series.values[index]
        share = ""
        if self.wholes and self.wholes[index] > 0 and value is not None and self.column.unit not in SHARE_UNITS:
            share = f"{format_share(value / self.wholes[index])} of {self.names[index] if series.name else 'all'}"
        return mark_title(self.names[index], text, share, series=series.name)


def _wholes(answer: Answer, series: list[Series]) -> tuple[float, ...]:
    """Return of each group the whole that its values are parts of: its own sum, without a split that of all.

    There is none where values do not add up, are cut off or negative, for several measures, and over time.
    """
    measures, is_split = answer.of("measure"), bool(answer.of("split"))
    if len(measures) > 1 or not measures[0].adds_up or answer.is_cut or answer.each_row:
        return ()
    rows = [[value or 0.0 for value in one.values] for one in series]
    if any(value < 0 for row in rows for value in row) or (not is_split and answer.of("per")[0].kind == "date"):
        return ()
    if is_split:
        return tuple(map(sum, zip(*rows, strict=True)))
    return (sum(rows[0]),) * len(rows[0])


def grid_of(answer: Answer) -> Grid:
    """Return an answer as one series a split value, or one a measure where there are several and no split."""
    per, measures, splits = answer.of("per")[0], answer.of("measure"), answer.of("split")
    column = measures[0]
    if not splits:
        groups = tuple(answer.values(per))
        names = [group_name(value, per) for value in groups]
        named = len(measures) > 1
        series = [
            Series(one.name if named else "", tuple(_number(value) for value in answer.values(one))) for one in measures
        ]
        return Grid(groups, names, series, per, column, _wholes(answer, series))
    split = splits[0]
    groups = tuple(dict.fromkeys(answer.values(per)))
    keys = zip(answer.values(per), answer.values(split), strict=True)
    found = dict(zip(keys, answer.values(column), strict=True))
    members = answer.members(split)
    series = [
        Series(group_name(member, split), tuple(_number(found.get((group, member))) for group in groups))
        for member in members
    ]
    return Grid(groups, [group_name(value, per) for value in groups], series, per, column, _wholes(answer, series))


def series_of(answer: Answer) -> tuple[list[str], list[Series]]:
    """Return the names of an answer's groups, and its values as one series a split value or measure."""
    grid = grid_of(answer)
    return grid.names, grid.series


def _number(value: object) -> float | None:
    return float(value) if isinstance(value, int | float) else None


def on_scale(grid: Grid, box: Box) -> list[Series]:
    """Return what the scale of a drawing must hold: its own values, or also those of the drawings beside it."""
    if box.beside is None:
        return grid.series
    measures = box.beside.of("measure")
    return [Series(one.name, tuple(_number(value) for value in box.beside.values(one))) for one in measures]


def value_range(series: list[Series]) -> tuple[float, float]:
    """Return the lowest and highest value, zero among them."""
    values = [0.0, *(value for one in series for value in one.values if value is not None)]
    return (min(values), max(values)) if any(values) else (0.0, 1.0)


def value_domain(series: list[Series], count: int = 5) -> tuple[float, float]:
    """Return a round domain that holds all values and zero."""
    return nice_domain(*value_range(series), count)


def texts_of(values: Sequence[Any], column: AnswerColumn, options: NumberOptions) -> list[str]:
    """Return values as they stand on marks: in the unit and the scale that are set."""
    if options.scale == BY_SIZE:
        return mark_texts(values, column, options.decimals)
    factor = _FACTORS[options.scale]
    if factor == 1:
        return value_texts(values, column, options.decimals)
    shown = [None if value is None else value / factor for value in values]
    return value_texts(shown, column, 1 if options.decimals is None else options.decimals)


def texts_of_grid(grid: Grid, options: NumberOptions) -> list[list[str]]:
    """Return the texts of all values of a grid, a row a series, all with the same decimals and in the same scale."""
    flat = [value for one in grid.series for value in one.values]
    texts = texts_of(flat, grid.column, options)
    width = len(grid.names)
    return [texts[start : start + width] for start in range(0, len(texts), width)] if width else []


def axis_texts(values: list[float], column: AnswerColumn, options: NumberOptions | None = None) -> list[str]:
    """Return tick labels; a currency or percent sign stands on each, any other unit in the axis name."""
    unit = column.unit if column.unit in _SIGNS else None
    factor = _FACTORS[options.scale] if options else 1.0
    short = options is None or options.scale == BY_SIZE
    decimals = options.decimals if options else None
    # A chart asks twice: for the room that the labels take, and for the labels.
    return list(_tick_texts(tuple(values), unit, column.prefix, 0.0 if short else factor, decimals, current_locale()))


@lru_cache(maxsize=4096)
def _tick_texts(
    values: tuple[float, ...], unit: str | None, prefix: str, factor: float, decimals: int | None, locale: str
) -> tuple[str, ...]:
    form = one_form(values) if not factor and unit not in SHARE_UNITS else ShortForm()
    shown = [value / (factor or form.factor) for value in values]
    scaled = [value * 100 for value in shown] if unit in SHARE_UNITS else shown
    decimals = max(decimals_kept([round(value, 9) for value in scaled], most=9), decimals or 0)
    if form.factor > 1:
        # The same sign stands on all but zero, which is nothing of anything.
        return tuple(prefix + form.text(value, unit=unit, decimals=decimals) if value else "0" for value in values)
    return tuple(prefix + format_number(value, decimals=decimals, unit=unit, locale=locale) for value in shown)


def axis_name(column: AnswerColumn, options: NumberOptions) -> str:
    """Return what the values are, with the unit that does not stand on each tick and the scale."""
    unit = column.unit if column.unit and column.unit not in _SIGNS else ""
    scale = options.scale if _FACTORS[options.scale] > 1 else ""
    return ", ".join(part for part in (column.name, " ".join(part for part in (scale, unit) if part)) if part)


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
    """Return light level lines with their values in front of them; zero is drawn stronger."""
    font = style.body(LABEL_PX - 1)
    values = axis_ticks(domain, column, upright_ticks(scale))
    shapes: list[Shape] = []
    for value, label in zip(values, axis_texts(values, column, options), strict=True):
        y = scale(value)
        strong = value == 0
        shapes.append(Line(left, y, right, y, style.muted if strong else style.grid, 1))
        shapes.append(Text(left - 8, y + 4, label, font, style.muted, "end"))
    return shapes


def axis_ticks(domain: tuple[float, float], column: AnswerColumn, count: int) -> list[float]:
    """Return the values that an axis names; of what is counted, whole ones only."""
    values = ticks(*domain, count)
    whole = [value for value in values if value == int(value)]
    return whole if column.counts and len(whole) > 1 else values


def upright_ticks(scale: LinearScale) -> int:
    """Return how many ticks an upright scale has room for, at most five."""
    return max(1, min(5, int(abs(scale.range[1] - scale.range[0]) // _TICK_ROOM_PX)))


def level_axis(
    domain: tuple[float, float],
    column: AnswerColumn,
    top: float,
    bottom: float,
    scale: LinearScale,
    style: HouseStyle,
    options: NumberOptions | None = None,
) -> list[Shape]:
    """Return light upright lines with their values below them, as many as stand clear of each other."""
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


def legend(
    series: list[Series], width: float, style: HouseStyle, top: float = 0, colours: Sequence[str] = ()
) -> tuple[list[Shape], float]:
    """Return the legend of a split, in rows from ``top``, and its height; ``colours`` replace the palette's."""
    if not any(one.name for one in series):
        return [], 0
    shown = colours or [style.colour(index) for index in range(len(series))]
    return key_of([(one.name, colour) for one, colour in zip(series, shown, strict=True)], width, style, top)


def key_of(
    entries: Sequence[tuple[str, str]], width: float, style: HouseStyle, top: float = 0
) -> tuple[list[Shape], float]:
    """Return what colours mean, in rows from ``top``, and the height it takes."""
    font = style.body(LABEL_PX)
    shapes: list[Shape] = []
    x, y = 0.0, top + 14
    for name, colour in entries:
        text = shorten(name, width - 24, font)
        needed = 18 + text_width(text, font) + 18
        if x > 0 and x + needed - 18 > width:
            x, y = 0.0, y + _LEGEND_ROW_PX
        shapes.append(Rect(x, y - 10, 12, 12, colour, 2))
        shapes.append(Text(x + 18, y, text, font, style.ink, title=name if text != name else ""))
        x += needed
    return shapes, y - top + 12


def mark_colour(name: str, number: int, count: int, emphasis: str, style: HouseStyle) -> str:
    """Return the colour of a group's mark: by series where there are several, else quiet beside the emphasis."""
    if count > 1:
        return style.colour(number)
    return style.quiet if emphasis and name != emphasis else style.accent


@dataclass(frozen=True, slots=True)
class Room:
    """A rectangle that a mark takes, in px."""

    x: float
    y: float
    width: float
    height: float


def value_inside(text: str, room: Room, colour: str, font: Font, style: HouseStyle) -> list[Shape]:
    """Return a value in the middle of its mark of this colour, where it has room."""
    if text_width(text, font) > room.width - 2 or room.height < font.size + 3:
        return []
    middle, baseline = room.x + room.width / 2, room.y + room.height / 2 + font.size * 0.35
    return [Text(middle, baseline, text, font, readable_on(colour, style.ink, style.paper), "middle")]


def sheet_behind(text: Text, style: HouseStyle) -> Rect:
    """Return a sheet of paper behind a text, so that no line runs through it."""
    width = text_width(text.text, text.font) + 4
    left = {"start": text.x - 2, "middle": text.x - width / 2, "end": text.x + 2 - width}[text.anchor]
    return Rect(left, text.y - text.font.size * 0.9, width, text.font.size * 1.15, style.paper)


def message_scene(message: str, box: Box, style: HouseStyle, name: str) -> Scene:
    """Return a scene that says in words why nothing is drawn."""
    font = style.body(16)
    lines = wrap(message, max(40, box.width - 40), font, most=max(1, int(box.height // font.line_height) - 1))
    top = box.height / 2 - (len(lines) - 1) * font.line_height / 2
    anchor: Anchor = "middle"
    shapes = tuple(
        Text(box.width / 2, top + index * font.line_height, line, font, style.muted, anchor)
        for index, line in enumerate(lines)
    )
    return Scene(box.width, box.height, shapes, name, message, refusal=message)
