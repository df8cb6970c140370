"""An answer as groups by series, and its values as texts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.scene import Mark
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.figures import (
    SHARE_UNITS,
    format_share,
)
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import BY_SIZE, NumberOptions
from ypsil.core.visuals.shared.summary import group_name, mark_texts, value_texts

FACTORS = {BY_SIZE: 1.0, "as they are": 1.0, "thousands": 1e3, "millions": 1e6, "billions": 1e9}


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
            part = format_share(value / self.wholes[index], locale=self.column.locale)
            share = f"{part} of {self.names[index] if series.name else 'all'}"
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
    factor = FACTORS[options.scale]
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
