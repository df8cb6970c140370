"""An answer in words: names of groups, values with units, and the description that stands for a drawing."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import Any

from ypsil.core.figures import decimals_for, format_number, format_period, format_share
from ypsil.core.questions.model import Answer, AnswerColumn

# A name is said in a description up to this length.
_SAID_LETTERS = 60


def group_name(value: Any, column: AnswerColumn) -> str:
    """Return a group's value as readers see it.

    >>> group_name(3, AnswerColumn("Day", "category", "per", grain="weekday"))
    'Wednesday'
    """
    if isinstance(value, dt.datetime) and column.grain is None:
        day = format_period(value.date(), "day")
        return f"{day}, {value:%H:%M}" if value.time() != dt.time() else day
    if column.grain is not None or column.kind == "date":
        return format_period(value, column.grain)
    return format_number(value) if column.kind == "number" else str(value)


def value_text(value: Any, column: AnswerColumn, decimals: int | None = None) -> str:
    """Return a measured value with its unit; a missing one is a dash."""
    if value is None:
        return "–"
    if not isinstance(value, int | float):
        return format_period(value, "day") if hasattr(value, "year") else str(value)
    if column.unit == "%" and decimals is None:
        return format_share(value)
    return format_number(value, decimals=decimals, unit=column.unit)


def value_texts(values: Sequence[Any], column: AnswerColumn, decimals: int | None = None) -> list[str]:
    """Return measured values with one number of decimals for all."""
    if decimals is not None:
        return [value_text(value, column, decimals) for value in values]
    numbers = [value for value in values if isinstance(value, int | float)]
    decimals = decimals_for(numbers, unit=column.unit)
    if column.unit == "%":
        return [value_text(value, column) for value in values]
    return [value_text(value, column, decimals) for value in values]


def describe(answer: Answer, kind: str) -> str:
    """Return a description of a drawing: what it shows, how much of it, its highest and lowest value."""
    base = f"n = {format_number(answer.base)}"
    measures, per = answer.of("measure"), answer.of("per")
    if not answer.rows:
        return f"{kind}. There are no rows to show."
    if not per:
        said = "; ".join(f"{column.name}: {value_text(answer.values(column)[0], column)}" for column in measures)
        return f"{kind}. {said} ({base})."
    column = measures[0]
    names = [_short(group_name(value, per[0])) for value in answer.values(per[0])]
    values = answer.values(column)
    present = [(value, name) for value, name in zip(values, names, strict=True) if isinstance(value, int | float)]
    text = f"{kind} of {answer.sentence[0].lower()}{answer.sentence[1:]}, {len(set(names))} values ({base})."
    if not present:
        return text + " All of them are missing."
    high, low = max(present, key=lambda pair: pair[0]), min(present, key=lambda pair: pair[0])
    text += f" Highest: {high[1]}, {value_text(high[0], column)}."
    return text + (f" Lowest: {low[1]}, {value_text(low[0], column)}." if low[1] != high[1] else "")


def told(answer: Answer, kind: str, said: str) -> str:
    """Return the description of a drawing whose values are not listed: its kind, its question, what it holds."""
    return f"{kind} of {answer.sentence[0].lower()}{answer.sentence[1:]}, {said} (n = {format_number(answer.base)})."


def _short(name: str) -> str:
    return name if len(name) <= _SAID_LETTERS else name[: _SAID_LETTERS - 1] + "…"


def numbers_table(answer: Answer) -> tuple[list[str], list[list[str]]]:
    """Return the headings and the cells of the numbers behind a drawing."""
    headings = [column.name for column in answer.columns]
    columns = [
        value_texts(answer.values(column), column)
        if column.role == "measure"
        else [group_name(value, column) for value in answer.values(column)]
        for column in answer.columns
    ]
    return headings, [list(row) for row in zip(*columns, strict=True)]
