"""An answer in words: names of groups, values with units, and the description that stands for a drawing."""

from __future__ import annotations

import csv
import datetime as dt
import io
import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import polars as pl

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.figures import (
    DEFAULT_LOCALE,
    SHARE_UNITS,
    ShortForm,
    ShortText,
    decimals_apart,
    decimals_for,
    format_compact,
    format_number,
    format_period,
    format_share,
    one_form,
)
from ypsil.core.figures.capitals import lower_first
from ypsil.core.tables.defused import defused_text

# A name is said in a description up to this length.
_SAID_LETTERS = 60
_YEARS = (1500, 2199)


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
    if column.kind != "number":
        return str(value)
    # What may be a year has no mark between its digits.
    may_be_year = value == int(value) and _YEARS[0] <= value <= _YEARS[1]
    return (
        f"{int(value)}"
        if may_be_year and column.unit is None
        else format_number(value, unit=column.unit, locale=column.locale)
    )


def value_text(value: Any, column: AnswerColumn, decimals: int | None = None) -> str:
    """Return a measured value with its unit, in full; a missing one is a dash."""
    if value is None:
        return "–"
    if not isinstance(value, int | float):
        return format_period(value, column.grain or "day") if hasattr(value, "year") else str(value)
    if column.unit == "%" and decimals is None:
        return column.prefix + format_share(value, locale=column.locale)
    return column.prefix + format_number(value, decimals=decimals, unit=column.unit, locale=column.locale)


def value_texts(values: Sequence[Any], column: AnswerColumn, decimals: int | None = None) -> list[str]:
    """Return measured values in full, with one number of decimals for all; one that would vanish has more."""
    decimals = column.decimals if decimals is None else decimals
    if decimals is not None:
        return [value_text(value, column, decimals) for value in values]
    numbers = [float(value) for value in values if isinstance(value, int | float)]
    if column.unit in SHARE_UNITS:
        return _share_texts(values, numbers, column)
    decimals = decimals_for(numbers, unit=column.unit)
    return [value_text(value, column, None if _vanishes(value, decimals) else decimals) for value in values]


def mark_texts(values: Sequence[Any], column: AnswerColumn, decimals: int | None = None) -> list[str]:
    """Return measured values as they stand on marks: long ones short, all alike, each knowing its number in full.

    >>> amounts = AnswerColumn("Gross", "number", "measure", "$")
    >>> mark_texts([55_100_282_358, 912_000_000], amounts), mark_texts([55_100_282_358], amounts)[0].whole
    (['$55.1B', '$0.9B'], '$55,100,282,358')
    """
    numbers = [float(value) for value in values if isinstance(value, int | float)]
    form = one_form(numbers, column.locale) if column.unit not in SHARE_UNITS else ShortForm()
    if form.factor == 1:
        return value_texts(values, column, decimals)
    scaled = [number / form.factor for number in numbers if math.isfinite(number)]
    places = decimals
    if places is None:
        places = decimals_apart(scaled, 0 if max(map(abs, scaled)) >= 1000 else 1, most=4)
        places = 0 if all(number == int(number) for number in scaled) else places
    full = [value_text(value, column) for value in values]

    def short(value: float) -> str:
        if _vanishes(value / form.factor, places):
            # Beside billions, a few are nothing that could be written in the same form.
            return mark_texts([value], column, decimals)[0]
        return column.prefix + form.text(value, unit=column.unit, decimals=places)

    return [
        ShortText(short(value), whole) if isinstance(value, int | float) else whole
        for value, whole in zip(values, full, strict=True)
    ]


def short_number(value: float, locale: str = DEFAULT_LOCALE) -> str:
    """Return one number as it stands on a mark.

    >>> short_number(1_000_001), short_number(943)
    ('1.0M', '943')
    """
    return mark_texts([value], AnswerColumn("", "number", "measure", locale=locale))[0]


def _vanishes(value: Any, decimals: int) -> bool:
    return isinstance(value, int | float) and value != 0 and round(value, decimals) == 0


def _share_texts(values: Sequence[Any], numbers: Sequence[float], column: AnswerColumn) -> list[str]:
    """Return percentages and points in whole numbers, with a decimal where two that differ would look alike."""
    scaled = [number * 100 for number in numbers if math.isfinite(number)]
    apart = decimals_apart([round(number, 9) for number in scaled], 0, most=1)
    # A few shares that would be written alike have a decimal; near the ends each has its own.
    inner = [number for number in scaled if 1 <= abs(number) <= 99]
    apart = apart if len({round(number) for number in inner}) < len(set(inner)) else 0
    if column.unit != "%":
        apart = decimals_for(scaled) if any(_vanishes(number, apart) for number in scaled) else apart
        return [value_text(value, column, apart) for value in values]
    return [
        column.prefix + format_share(value, decimals=apart, locale=column.locale)
        if isinstance(value, int | float)
        else value_text(value, column)
        for value in values
    ]


def big_number(value: float, column: AnswerColumn) -> str:
    """Return a headline number: large ones short, shares as percentages."""
    locale = column.locale
    if column.unit == "%":
        return column.prefix + format_share(value, locale=locale)
    said = format_compact(value, unit=column.unit, locale=locale)
    return column.prefix + said


def describe(answer: Answer, kind: str) -> str:
    """Return a description of a drawing: what it shows, how much of it, its highest and lowest value."""
    base = f"n = {format_number(answer.base, locale=answer.locale)}"
    measures, per = answer.of("measure"), answer.of("per")
    if not answer.height:
        return f"{kind}. There are no rows to show."
    if not per:
        said = "; ".join(f"{column.name}: {value_texts([answer.values(column)[0]], column)[0]}" for column in measures)
        return f"{kind}. {said} ({base})."
    values, groups = answer.series(measures[0]), answer.series(per[0])
    is_plain = answer.each_row or len(answer.columns) == 1 + len(measures)
    count = answer.height if is_plain else groups.n_unique()
    values_said = "1 value" if count == 1 else f"{format_number(count, locale=answer.locale)} values"
    text = f"{kind} of {within_sentence(answer)}, {values_said} ({base})."
    if values.null_count() == len(values) or not values.dtype.is_numeric():
        return text + (" All of them are missing." if values.null_count() == len(values) else "")
    high, low = int(values.arg_max() or 0), int(values.arg_min() or 0)
    texts = mark_texts([values[high], values[low]], measures[0])
    if values[high] == values[low] and len(values) - values.null_count() > 1:
        return f"{text} All of them are {texts[0]}."
    text += f" Highest: {_whose(answer, high)}{_and_others(values, high, answer.locale)}, {texts[0]}."
    is_one = values[high] == values[low]
    return (
        text
        if is_one
        else f"{text} Lowest: {_whose(answer, low)}{_and_others(values, low, answer.locale)}, {texts[1]}."
    )


def _and_others(values: pl.Series, row: int, locale: str) -> str:
    """Return how many other rows hold the same value as one, in words."""
    others = int((values == values[row]).sum()) - 1
    return f" and {format_number(others, locale=locale)} {'other' if others == 1 else 'others'}" if others else ""


def _whose(answer: Answer, row: int) -> str:
    """Return whose value a row holds: its group, and within it the one it is split by, for that is what is highest."""
    columns = [*answer.of("per"), *answer.of("split")]
    return ", ".join(_short(group_name(answer.series(column)[row], column)) for column in columns)


def told(answer: Answer, kind: str, said: str) -> str:
    """Return the description of a drawing whose values are not listed: its kind, its question, what it holds."""
    return f"{kind} of {within_sentence(answer)}, {said} (n = {format_number(answer.base, locale=answer.locale)})."


def within_sentence(answer: Answer) -> str:
    """Return the sentence of an answer as it goes on within another; names of the table's own keep their capitals."""
    return answer.sentence if answer.each_row else lower_first(answer.sentence)


def _short(name: str) -> str:
    return name if len(name) <= _SAID_LETTERS else name[: _SAID_LETTERS - 1] + "…"


def numbers_table(answer: Answer, most: int | None = None) -> tuple[list[str], list[list[str]]]:
    """Return the headings and the cells of the numbers behind a drawing, of the first ``most`` rows."""
    if most is not None and answer.height > most:
        answer = replace(answer, frame=answer.frame.head(most))
    headings = [column.name for column in answer.columns]
    columns = [
        value_texts(answer.values(column), column)
        if column.role == "measure"
        else [group_name(value, column) for value in answer.values(column)]
        for column in answer.columns
    ]
    return headings, [list(row) for row in zip(*columns, strict=True)]


def numbers_csv(answer: Answer) -> str:
    """Return all the numbers behind a drawing as CSV (RFC 4180), unrounded; no cell can act as a formula."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow([defused_text(column.name) for column in answer.columns])
    for row in answer.frame.iter_rows():
        writer.writerow([_csv_cell(value, column) for value, column in zip(row, answer.columns, strict=True)])
    return buffer.getvalue()


def _csv_cell(value: Any, column: AnswerColumn) -> Any:
    if value is None:
        return ""
    if column.role == "measure" and isinstance(value, int | float):
        return value
    if isinstance(value, dt.date):
        return value.isoformat()
    return defused_text(group_name(value, column))
