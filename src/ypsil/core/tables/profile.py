"""What a table offers to a question: its columns with their commonest values."""

from __future__ import annotations

import math
from dataclasses import dataclass

import polars as pl

from ypsil.core.figures import Grain
from ypsil.core.tables.model import Column, Kind

_SHOWN_VALUES = 60
# The longest stretch of days that each period suits.
_GRAIN_OF_SPAN: tuple[tuple[float, Grain], ...] = ((62, "day"), (200, "week"), (366 * 12, "month"), (math.inf, "year"))


@dataclass(frozen=True, slots=True)
class Profile:
    """A table's columns; for those with labels their values from the commonest down, for dates a fitting period."""

    columns: tuple[Column, ...]
    values: dict[str, tuple[str, ...]]
    rows: int
    grains: dict[str, Grain]

    def of(self, *kinds: Kind) -> list[Column]:
        return [column for column in self.columns if column.kind in kinds]

    def column(self, name: str | None) -> Column | None:
        return next((column for column in self.columns if column.name == name), None)


def profile(frame: pl.DataFrame, columns: tuple[Column, ...]) -> Profile:
    """Return the profile of a frame; yes/no columns offer both words whether or not both occur."""
    values: dict[str, tuple[str, ...]] = {}
    for column in columns:
        if column.kind == "yesno":
            values[column.name] = ("Yes", "No")
        elif column.kind in ("category", "place", "list"):
            series = frame[column.name]
            flat = series.explode() if column.kind == "list" else series
            counted = flat.drop_nulls().value_counts().sort(["count", column.name], descending=[True, False])
            values[column.name] = tuple(counted[column.name].head(_SHOWN_VALUES).to_list())
    grains = {column.name: natural_grain(frame[column.name]) for column in columns if column.kind == "date"}
    return Profile(columns, values, frame.height, grains)


def natural_grain(dates: pl.Series) -> Grain:
    """Return the period that a column of dates is best summed up by.

    Dates that all start a year stand for years. Otherwise the length of time decides, so that between about
    ten and sixty periods are shown (common practice, no source).

    >>> import datetime as dt
    >>> natural_grain(pl.Series([dt.date(2020, 1, 1), dt.date(2021, 1, 1)]))
    'year'
    >>> natural_grain(pl.Series([dt.date(2026, 3, 2), dt.date(2026, 3, 30)]))
    'day'
    """
    days = dates.drop_nulls().cast(pl.Date).unique()
    if len(days) < 2:
        return "month"
    if bool(((days.dt.month() == 1) & (days.dt.day() == 1)).all()):
        return "year"
    if bool((days.dt.day() == 1).all()):
        return "month"
    span = (days.max() - days.min()).days  # type: ignore[operator, union-attr]
    return next(grain for longest, grain in _GRAIN_OF_SPAN if span <= longest)
