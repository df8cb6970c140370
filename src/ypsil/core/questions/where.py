"""Filters of a question as polars expressions."""

from __future__ import annotations

import datetime as dt
from typing import Any

import polars as pl

from ypsil.core.errors import QuestionRefused
from ypsil.core.figures import period_before
from ypsil.core.questions.model import Filter, Value
from ypsil.core.tables.model import Column

YES_WORDS = ("yes", "y", "true")


def keep_rows(frame: pl.DataFrame, columns: dict[str, Column], rules: tuple[Filter, ...]) -> pl.DataFrame:
    """Return the rows that pass every rule; a missing value passes only ``empty``."""
    for rule in rules:
        frame = frame.filter(_condition(frame, columns[rule.column], rule))
    return frame


def _condition(frame: pl.DataFrame, column: Column, rule: Filter) -> pl.Expr:
    cell = pl.col(column.name)
    if rule.test in ("empty", "not_empty"):
        return cell.is_null() if rule.test == "empty" else cell.is_not_null()
    if rule.test == "last":
        return cell >= _start_of_last(frame, column, rule)
    if rule.test == "contains":
        if column.kind not in ("category", "text", "place"):
            raise _unfit(rule, column, "text")
        return cell.str.to_lowercase().str.contains(str(rule.values[0]).lower(), literal=True)
    if rule.test in ("in", "not_in"):
        found = holds_any(column, rule.values)
        return found if rule.test == "in" else ~found
    return _bounds(cell, column, rule)


def holds_any(column: Column, values: tuple[Value, ...]) -> pl.Expr:
    """Return whether a cell is one of the values (for a list: holds one of them)."""
    cell = pl.col(column.name)
    if column.kind == "list":
        return cell.list.eval(pl.element().is_in([str(value) for value in values])).list.any()
    return cell.is_in([_typed(column, value) for value in values])


def _bounds(cell: pl.Expr, column: Column, rule: Filter) -> pl.Expr:
    if column.kind not in ("number", "date"):
        raise _unfit(rule, column, "number or date")
    bounds = [pl.lit(_typed(column, value)) for value in rule.values[:-1]]
    last = _typed(column, rule.values[-1])
    if rule.test == "between":
        return (cell >= bounds[0]) & (cell <= pl.lit(_end_of_day(last)))
    return cell >= pl.lit(last) if rule.test == "at_least" else cell <= pl.lit(_end_of_day(last))


def _end_of_day(bound: Any) -> Any:
    """An upper bound that is a day includes the whole of it, also where cells hold times."""
    if isinstance(bound, dt.date) and not isinstance(bound, dt.datetime):
        return dt.datetime.combine(bound, dt.time.max)
    return bound


def _typed(column: Column, value: Value) -> Any:
    """Return a filter's value in the column's own type."""
    try:
        if column.kind == "number":
            return float(value)
        if column.kind == "date":
            return dt.date.fromisoformat(str(value))
    except ValueError:
        raise QuestionRefused(
            f"“{value}” does not fit the {column.kind} column “{column.name}”",
            remedy="give dates as 2026-03-31" if column.kind == "date" else "give a number",
        ) from None
    if column.kind == "yesno":
        return value if isinstance(value, bool) else str(value).lower() in YES_WORDS
    return str(value)


def _start_of_last(frame: pl.DataFrame, column: Column, rule: Filter) -> dt.date:
    """Return the first day of the last ``count`` periods, counted back from the data's own last date."""
    if column.kind != "date":
        raise _unfit(rule, column, "date")
    latest = frame[column.name].max()
    by = rule.by or "day"
    if by in ("weekday", "hour"):
        raise QuestionRefused(f"the last {by}s are not a stretch of time", remedy="count days, weeks or months")
    if latest is None:
        return dt.date.max
    day = latest.date() if isinstance(latest, dt.datetime) else latest
    assert isinstance(day, dt.date)
    start = {
        "year": day.replace(month=1, day=1),
        "quarter": day.replace(month=(day.month - 1) // 3 * 3 + 1, day=1),
        "month": day.replace(day=1),
        "week": day - dt.timedelta(days=day.weekday()),
    }.get(by, day)
    for _ in range((rule.count or 1) - 1):
        start = period_before(start, by)
    return start


def _unfit(rule: Filter, column: Column, wanted: str) -> QuestionRefused:
    return QuestionRefused(
        f"“{rule.test}” needs a {wanted} column, and “{column.name}” holds {column.kind}",
        remedy="choose another test or column",
    )
