"""What a live figure says, worked out from its table."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.cache import Cache
from ypsil.core.errors import YpsilError
from ypsil.core.figures import POINTS, format_number
from ypsil.core.prose.model import LiveFigure, Shown
from ypsil.core.questions.model import Question
from ypsil.core.visuals.shared.summary import big_number, group_name, value_texts

MISSING = "not known"
_ROW_OF = {"first": 0, "last": -1, "before_last": -2}


@dataclass(frozen=True, slots=True)
class Said:
    """A live figure in words, with the number behind it and its unit, or the reason why there is none."""

    text: str
    value: float | None = None
    unit: str | None = None
    problem: str = ""


def say(figure: LiveFigure, answer: Callable[[Question], Answer], locale: str) -> Said:
    """Return what a figure says; ``answer`` answers questions of its table. What cannot be worked out says why."""
    try:
        found = answer(figure.question).written_in(locale)
        if figure.pick == "year_so_far":
            return _measured(figure, *_year_so_far(found))
        row = _row(figure, found)
        if figure.take == "name":
            per = found.of("per")[0]
            return Said(group_name(found.values(per)[row], per))
        column = found.of("measure")[0]
        value = found.values(column)[row]
        if figure.against is not None:
            value, column = _compared(figure, value, column, answer(figure.against))
        return _measured(figure, value, column)
    except YpsilError as problem:
        return Said(MISSING, problem=problem.what)


def read_on(day: dt.date | None, locale: str) -> Said:
    """Return the day on which a table was read, as dates are written in a locale."""
    if day is None:
        return Said(MISSING, problem="it is not known when its table was read")
    column = AnswerColumn("Read", "date", "measure", locale=locale)
    return Said(value_texts([day], column)[0])


def _measured(figure: LiveFigure, value: Any, column: AnswerColumn) -> Said:
    if value is None or (isinstance(value, float) and not math.isfinite(value)):
        raise YpsilError("there is no value to work it out from")
    if not isinstance(value, int | float):
        return Said(value_texts([value], column)[0])
    number = float(value)
    said = written(number, column, figure.shown) if figure.words is None else figure.words.of(number)
    return Said(said, number, column.unit)


def _year_so_far(answer: Answer) -> tuple[float, AnswerColumn]:
    """Return the part by which the newest year is more than the year before, of the periods that both have."""
    per, column = answer.of("per")[0], answer.of("measure")[0]
    values = {start: value for start, value in zip(answer.values(per), answer.values(column), strict=True) if value}
    newest = max((start.year for start in values), default=0)
    now = {start: value for start, value in values.items() if start.year == newest}
    then = [start.replace(year=newest - 1) for start in now if (start.month, start.day) != (2, 29)]
    if not then or any(start not in values for start in then):
        raise YpsilError("the year before has no such periods")
    share = replace(column, unit="%", prefix="", decimals=None)
    return sum(now.values()) / sum(values[start] for start in then) - 1, share


def _row(figure: LiveFigure, answer: Answer) -> int:
    """Return the place of the row that a figure speaks of."""
    row = _ROW_OF[figure.pick]
    if answer.height < (row + 1 if row >= 0 else -row):
        raise YpsilError(answer.hides or "no row of the table fits")
    return row if row >= 0 else answer.height + row


def _compared(
    figure: LiveFigure, now: float | None, column: AnswerColumn, other: Answer
) -> tuple[float | None, AnswerColumn]:
    """Return how a value compares with that of another answer, and what it is measured in."""
    before = other.values(other.of("measure")[0])[0] if other.height else None
    if now is None or before is None:
        return None, column
    if figure.compared == "difference":
        points = replace(column, unit=POINTS) if column.unit == "%" else column
        return now - before, points
    if not before or (figure.compared == "percent" and before < 0):
        raise YpsilError("what it is compared with is nothing, or less than nothing")
    plain = replace(column, prefix="", decimals=None)
    if figure.compared == "times":
        return now / before, replace(plain, unit=None)
    if figure.compared == "share":
        return now / before, replace(plain, unit="%")
    return now / before - 1, replace(plain, unit="%")


def written(value: float, column: AnswerColumn, shown: Shown) -> str:
    """Return a value as a figure is to be written.

    >>> visits = AnswerColumn("Visits", "number", "measure")
    >>> [written(16_521_400.5, visits, shown) for shown in (Shown(), Shown(form="short"), Shown(places=1))]
    ['16,521,401', '16.5M', '16,521,400.5']
    >>> written(-0.163, AnswerColumn("Change", "number", "measure", "%"), Shown(sign="never"))
    '16%'
    """
    amount = abs(value) if shown.sign == "never" else value
    if not shown.has_unit and column.unit != "%":
        column = replace(column, unit=None, prefix="")
    full = value_texts([amount], column, shown.places)[0]
    said = big_number(amount, column) if shown.form == "short" else full
    if not shown.has_unit and column.unit == "%":
        said = format_number(amount * 100, decimals=shown.places or 0, locale=column.locale)
    return f"+{said}" if shown.sign == "always" and value > 0 else said


_remembered: Cache[str, Said] = Cache("live figures", 1 << 22, lambda said: 200 + len(said.text) + len(said.problem))


def remembered(key: str, make: Callable[[], Said]) -> Said:
    """Return what a figure says, worked out once for each key; ``key`` names all that it depends on."""
    found = _remembered.get(key)
    if found is None:
        found = make()
        _remembered.put(key, found)
    return found
