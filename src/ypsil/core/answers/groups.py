"""What an answer has a row for: the values, periods and classes of a column."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import dataclass
from typing import Any, Literal

import polars as pl

from ypsil.core.answers.model import AnswerColumn
from ypsil.core.errors import QuestionRefused
from ypsil.core.figures import Grain
from ypsil.core.questions.model import Bins, Per, Width
from ypsil.core.tables.classes import MOST_CLASSES, class_names, class_of, edges_of_width, even_edges
from ypsil.core.tables.model import Column, Kind

TRUNCATE = {"year": "1y", "quarter": "1q", "month": "1mo", "week": "1w", "day": "1d"}
Role = Literal["per", "split"]
NO_ANSWER = "No answer"
# The day that polars counts from.
_DAY_ZERO = dt.date(1970, 1, 1)


@dataclass(frozen=True, slots=True)
class Group:
    """A column of the answer that rows are grouped by.

    ``members`` are all its values, where they are known; ``given`` is the order that somebody gave them.
    """

    key: str
    column: AnswerColumn
    cells: pl.Expr | pl.Series
    explode: bool = False
    members: tuple[Any, ...] = ()
    gaps: Literal["zero", "open"] | None = None
    given: tuple[str, ...] = ()

    @property
    def has_periods(self) -> bool:
        """Tell whether one period follows another (weekdays and hours come round again)."""
        return self.column.grain in TRUNCATE

    @property
    def in_time_order(self) -> bool:
        return self.column.grain is not None or self.column.kind in ("date", "number")


def check_group(per: Per, column: Column) -> None:
    """Raise QuestionRefused when a column cannot be grouped the way that is asked."""
    if per.by in (None, "word", "row"):
        return
    if isinstance(per.by, Bins | Width):
        if column.kind != "number":
            raise QuestionRefused(
                f"“{column.name}” holds {column.kind}, so it has no classes of numbers",
                remedy="choose a number column or leave “by” out",
            )
        return
    if column.kind != "date":
        raise QuestionRefused(
            f"“{column.name}” holds {column.kind}, so it cannot be grouped by {per.by}",
            remedy="choose a date column or leave “by” out",
        )
    if column.form == "time" and per.by != "hour":
        raise QuestionRefused(
            f"“{column.name}” holds times of the day, so it cannot be grouped by {per.by}",
            remedy="group it by hour",
        )


def group_of(per: Per, column: Column, rows: pl.DataFrame, role: Role, key: str) -> Group:
    """Return how rows are grouped by a column; raises QuestionRefused for too many classes."""
    cell = pl.col(column.name)
    if isinstance(per.by, Bins | Width):
        return _classes(per.by, column, rows[column.name], role, key)
    if per.by == "row":
        return Group(key, AnswerColumn(column.name, column.kind, role, None, None, (), column.kind == "date"), cell)
    if column.kind == "date":
        grain = per.grain or usual_grain(column)
        cells, kind = _by_grain(rows[column.name], grain, column.form == "time")
        return Group(key, AnswerColumn(column.name, kind, role, None, grain, (), True), cells, gaps=per.gaps)
    if column.kind == "yesno":
        yes_or_no = pl.when(cell).then(pl.lit("Yes")).otherwise(pl.lit("No"))
        words: pl.Expr = pl.when(cell.is_not_null()).then(yes_or_no)
        if per.missing:
            words = words.fill_null(NO_ANSWER)
        return Group(key, AnswerColumn(column.name, "category", role), words)
    kind = "category" if column.kind == "list" else column.kind
    ordered = kind == "number"
    several: Literal["answers"] | None = "answers" if column.kind == "list" else None
    unit = column.unit if kind == "number" else None
    described = AnswerColumn(column.name, kind, role, unit, ordered=ordered, several=several)
    labels = _with_missing(rows[column.name], per, column)
    return Group(key, described, labels, column.kind == "list", given=column.order)


def usual_grain(column: Column) -> Grain:
    """Return what dates are grouped by where nobody says: as they were written."""
    if column.form == "time":
        return "hour"
    return column.form if column.form in ("year", "quarter", "month", "week") else "day"


def _with_missing(cells: pl.Series, per: Per, column: Column) -> pl.Series:
    """Give the rows without a value a group of their own, where that is asked."""
    if not per.missing or column.kind not in ("category", "place", "list"):
        return cells
    if column.kind != "list":
        return cells.fill_null(NO_ANSWER)
    absent = cells.is_null() | (cells.list.len() == 0)
    return pl.select(pl.when(absent).then(pl.lit([NO_ANSWER])).otherwise(cells)).to_series().alias(cells.name)


def _by_grain(cells: pl.Series, grain: Grain, is_time: bool) -> tuple[pl.Series, Kind]:
    if grain == "weekday":
        return cells.dt.weekday().cast(pl.Int64), "category"
    if grain == "hour":
        return (cells if is_time else cells.cast(pl.Datetime)).dt.hour().cast(pl.Int64), "category"
    return _starts(cells.cast(pl.Date), TRUNCATE[grain]), "date"


def _starts(days: pl.Series, length: str) -> pl.Series:
    """Return the first day of the period that each day lies in.

    It is looked up among all days from the first to the last, of which there are mostly far fewer than rows.
    """
    first, last = days.min(), days.max()
    if not isinstance(first, dt.date) or not isinstance(last, dt.date) or (last - first).days > len(days):
        return days.dt.truncate(length)
    starts = pl.date_range(first, last, "1d", eager=True).dt.truncate(length).to_physical().to_numpy()
    numbers = days.to_physical()
    has_gaps = numbers.null_count() > 0
    places = (numbers.fill_null(strategy="max") if has_gaps else numbers).to_numpy() - (first - _DAY_ZERO).days
    found = pl.Series(days.name, starts[places]).cast(pl.Date)
    return found.set(days.is_null(), None) if has_gaps else found


def _classes(by: Bins | Width, column: Column, cells: pl.Series, role: Role, key: str) -> Group:
    numbers = cells.cast(pl.Float64)
    numbers = numbers.set(~numbers.is_finite(), None)
    low, high = numbers.min(), numbers.max()
    if not isinstance(low, float) or not isinstance(high, float):
        described = AnswerColumn(column.name, "category", role, None, None, (), True)
        return Group(key, described, cells.cast(pl.String))
    if isinstance(by, Width) and not (
        (high - low) / by.width <= MOST_CLASSES and math.isfinite(max(abs(low), abs(high)) / by.width)
    ):
        raise QuestionRefused(
            f"that would make more than {MOST_CLASSES} classes of “{column.name}”", remedy="make them wider"
        )
    is_even = isinstance(by, Bins)
    edges = even_edges(low, high, by.bins) if isinstance(by, Bins) else edges_of_width(low, high, by.width)
    names = class_names(edges, unit=column.unit, last_closed=is_even)
    if len(set(names)) < len(names):
        raise QuestionRefused(f"the classes of “{column.name}” are too narrow to name", remedy="make them wider")
    places = pl.Series(class_of(numbers.fill_null(low).to_numpy(), edges))
    labels = pl.Series(names).gather(places).set(numbers.is_null(), None)
    described = AnswerColumn(column.name, "category", role, column.unit, None, tuple(edges), True)
    return Group(key, described, labels, members=tuple(names))
