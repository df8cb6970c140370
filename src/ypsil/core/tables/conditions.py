"""Rules for rows to keep: in a question, and in a step."""

from __future__ import annotations

import datetime as dt
from typing import Any, Literal

import polars as pl
from pydantic import BaseModel, ConfigDict, model_validator
from pydantic import Field as Setting

from ypsil.core.errors import QuestionRefused
from ypsil.core.figures import Grain, format_number, format_period, period_before
from ypsil.core.tables.dates_in_text import period_of
from ypsil.core.tables.model import Field

Test = Literal["in", "not_in", "between", "at_least", "at_most", "contains", "empty", "not_empty", "last"]
Value = str | float | bool
_YEARS = (1500, 2199)
YES_WORDS = ("yes", "y", "true")


class Filter(BaseModel):
    """Rows to keep. ``last`` keeps the rows of the last ``count`` periods before the data's own end."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    column: str
    test: Test
    values: tuple[Value, ...] = ()
    count: int | None = Setting(None, ge=1)
    by: Grain | None = None

    @model_validator(mode="before")
    @classmethod
    def _accept_short_forms(cls, data: Any) -> Any:
        """``"value": 5`` stands for ``"values": [5]``, and ``last`` may have its settings in ``values``."""
        if not isinstance(data, dict):
            return data
        data = dict(data)
        if "value" in data and "values" not in data:
            data["values"] = [data.pop("value")]
        if data.get("test") == "last" and isinstance(data.get("values"), dict):
            data.update(data.pop("values"))
        return data

    @model_validator(mode="after")
    def _whole(self) -> Filter:
        needed = {"between": 2, "at_least": 1, "at_most": 1, "contains": 1}.get(self.test)
        if needed is not None and len(self.values) != needed:
            raise ValueError(f"“{self.test}” takes {needed} in “values”")
        if self.test in ("in", "not_in") and not self.values:
            raise ValueError(f"“{self.test}” needs “values”")
        if self.test == "last" and (self.count is None or self.by is None):
            raise ValueError("“last” needs “count” and “by”")
        return self


def condition(frame: pl.DataFrame, field: Field, rule: Filter) -> pl.Expr:
    """Return whether a row passes a rule about a column with this field; a missing value passes only ``empty``.

    Raises QuestionRefused where the rule does not fit what the column holds.
    """
    cell = pl.col(rule.column)
    if rule.test in ("empty", "not_empty"):
        return cell.is_null() if rule.test == "empty" else cell.is_not_null()
    if rule.test == "last":
        return cell >= _start_of_last(frame, field, rule)
    if rule.test == "contains":
        if field.kind not in ("category", "text", "place"):
            raise _unfit(rule, field, "text")
        return cell.str.to_lowercase().str.contains(str(rule.values[0]).lower(), literal=True)
    if rule.test in ("in", "not_in"):
        found = holds_any(rule.column, field, rule.values)
        return found if rule.test == "in" else ~found
    return _bounds(cell, field, rule)


def holds_any(name: str, field: Field, values: tuple[Value, ...]) -> pl.Expr:
    """Return whether a cell is one of the values (for a list: holds one of them)."""
    cell = pl.col(name)
    if field.kind == "list":
        return cell.list.eval(pl.element().is_in([str(value) for value in values])).list.any()
    if field.kind == "date" and field.form != "time":
        periods = [_period(name, value) for value in values]
        return pl.any_horizontal(cell.is_between(start, _end_of_day(end)) for start, end in periods)
    wanted = [_typed(name, field, value) for value in values]
    return (cell.cast(pl.Float64) if field.kind == "number" else cell).is_in(wanted)


def _bounds(cell: pl.Expr, field: Field, rule: Filter) -> pl.Expr:
    if field.kind not in ("number", "date"):
        raise _unfit(rule, field, "number or date")
    if field.kind == "date" and field.form != "time":
        starts, ends = zip(*(_period(rule.column, value) for value in rule.values), strict=True)
        first, last = starts[0], _end_of_day(ends[-1])
    else:
        first, last = (_typed(rule.column, field, value) for value in (rule.values[0], rule.values[-1]))
    if rule.test == "between":
        return (cell >= pl.lit(first)) & (cell <= pl.lit(last))
    return cell >= pl.lit(first) if rule.test == "at_least" else cell <= pl.lit(last)


def _period(name: str, value: Value) -> tuple[dt.date, dt.date]:
    """Return the first and last day of what a filter names: a day, or a whole month, quarter, week or year."""
    text = f"{value:.0f}" if isinstance(value, float) and value.is_integer() else str(value)
    found = period_of(text)
    if found is None:
        raise QuestionRefused(
            f"“{text}” does not fit the date column “{name}”", remedy="give dates as 2026-03-31, 2026-03 or 2026"
        )
    return found


def _end_of_day(bound: Any) -> Any:
    """An upper bound that is a day includes the whole of it, also where cells hold times."""
    if isinstance(bound, dt.date) and not isinstance(bound, dt.datetime):
        return dt.datetime.combine(bound, dt.time.max)
    return bound


def _typed(name: str, field: Field, value: Value) -> Any:
    """Return a filter's value in the column's own type."""
    try:
        if field.kind == "number":
            return float(value)
        if field.form == "time":
            return dt.time.fromisoformat(str(value))
    except ValueError:
        raise QuestionRefused(
            f"“{value}” does not fit the {field.kind} column “{name}”",
            remedy="give times as 14:30" if field.kind == "date" else "give a number",
        ) from None
    if field.kind == "yesno":
        return value if isinstance(value, bool) else str(value).lower() in YES_WORDS
    return str(value)


_FIRST_YEAR = 1


def _start_of_last(frame: pl.DataFrame, field: Field, rule: Filter) -> dt.date:
    """Return the first day of the last ``count`` periods, counted back from the data's own last date."""
    if field.kind != "date" or field.form == "time":
        raise _unfit(rule, field, "date")
    latest = frame[rule.column].max()
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
        if start.year <= _FIRST_YEAR:
            # Further back the calendar ends; so far back there is nothing to cut off.
            return dt.date.min
        start = period_before(start, by)
    return start


def _unfit(rule: Filter, field: Field, wanted: str) -> QuestionRefused:
    return QuestionRefused(
        f"“{rule.test}” needs a {wanted} column, and “{rule.column}” holds {field.kind}",
        remedy="choose another test or column",
    )


def value_word(value: Value) -> str:
    """Return a filter's value as it is said; what may be a year has no mark between its digits.

    >>> value_word(1950.0), value_word(12_500.0), value_word(True)
    ('1950', '12,500', 'Yes')
    """
    if isinstance(value, float) and value.is_integer() and _YEARS[0] <= value <= _YEARS[1]:
        return f"{value:.0f}"
    if isinstance(value, bool):
        return "Yes" if value else "No"
    return value if isinstance(value, str) else format_number(value)


def join_or(values: tuple[Value, ...]) -> str:
    """Return values as "A", "A or B", "A, B or C"."""
    words = [value_word(value) for value in values]
    return words[0] if len(words) == 1 else ", ".join(words[:-1]) + " or " + words[-1]


def test_words(rule: Filter) -> tuple[str, str]:
    """Return a filter's test and its values as words: ``("is", "Adult")``."""
    if rule.test == "last":
        count = rule.count or 1
        return "is in", f"the last {count} {rule.by}s of the data" if count != 1 else f"the last {rule.by} of the data"
    words = {
        "in": "is",
        "not_in": "is not",
        "at_least": "is at least",
        "at_most": "is at most",
        "contains": "contains",
        "empty": "is missing",
        "not_empty": "is present",
    }
    if rule.by is not None:
        rule = rule.model_copy(update={"values": tuple(_period_word(value, rule.by) for value in rule.values)})
    if rule.test == "between" and rule.by is not None and rule.values[0] == rule.values[1]:
        return "is", str(rule.values[0])
    if rule.test == "between":
        return "is between", f"{value_word(rule.values[0])} and {value_word(rule.values[1])}"
    return words[rule.test], join_or(rule.values) if rule.values else ""


def _period_word(value: Value, by: Grain) -> Value:
    """Return the period that a filter of periods names as it is said."""
    days = period_of(str(value))
    return value if days is None else format_period(days[0], by)
