"""Periods of time that somebody names: a month, a quarter, a year, or so many before the newest."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsil.core.figures import Grain, days_after, period_before
from ypsil.core.report.wanted.lexicon import BEFORE, BEFORE_THAT, NEWEST, NUMBERS, UNITS
from ypsil.core.tables.conditions import Filter

Lead = Literal["", "since", "until"]
_MONTHS = {
    name[:length]: number
    for number, name in enumerate(
        ("january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november",
         "december"), 1)
    for length in (3, 4, len(name))
}  # fmt: skip
_YEAR = re.compile(r"(?:1[5-9]|2[01])\d\d")
_ISO = re.compile(r"\d{4}-\d{2}(?:-\d{2})?")
_QUARTER = re.compile(r"q([1-4])")
_LEADS: dict[str, Lead] = {
    "since": "since",
    "after": "since",
    "until": "until",
    "till": "until",
    "before": "until",
    "through": "until",
}


@dataclass(frozen=True, slots=True)
class Period:
    """A period that was named: a fixed one as dates are written (2026, 2026-03), or one by its distance from the newest
    (0 the newest, 1 the one before, or the last ``count``). ``lead`` tells whether it begins or ends a stretch,
    ``may_be_newest`` that “last month” may mean the newest there is as well."""

    said: str
    grain: Grain
    fixed: str = ""
    back: int = 0
    count: int = 1
    lead: Lead = ""
    may_be_newest: bool = False


def period_at(tokens: Sequence[str], at: int, newest: dt.date | None) -> tuple[Period, int] | None:
    """Return the period that begins at a word, and how many words name it; None where none does.

    >>> period_at(["since", "march"], 0, dt.date(2026, 2, 14))
    (Period(said='since march', grain='month', fixed='2025-03', back=0, count=1, lead='since', may_be_newest=False), 2)
    >>> period_at(["last", "3", "months"], 0, None)
    (Period(said='last 3 months', grain='month', fixed='', back=0, count=3, lead='', may_be_newest=False), 3)
    """
    lead: Lead = _LEADS.get(tokens[at], "")
    start = at + 1 if lead else at
    while start < len(tokens) and tokens[start] in ("the", "in"):
        start += 1
    found = _plain(tokens, start, newest)
    if found is None:
        return None
    period, length = found
    said = " ".join(tokens[at : start + length])
    return replace(period, said=said, lead=lead), start + length - at


def _plain(tokens: Sequence[str], at: int, newest: dt.date | None) -> tuple[Period, int] | None:
    if at >= len(tokens):
        return None
    word = tokens[at]
    following = tokens[at + 1] if at + 1 < len(tokens) else ""
    if _ISO.fullmatch(word):
        return Period(word, "day" if len(word) > 7 else "month", word), 1
    if _YEAR.fullmatch(word):
        return Period(word, "year", word), 1
    if word in _MONTHS:
        return _month(_MONTHS[word], following, newest)
    quarter = _QUARTER.fullmatch(word)
    if quarter:
        return _quarter(int(quarter[1]), following, newest)
    return _by_distance(tokens, at)


def _month(number: int, following: str, newest: dt.date | None) -> tuple[Period, int] | None:
    if _YEAR.fullmatch(following):
        return Period("", "month", f"{following}-{number:02d}"), 2
    if newest is None:
        return None
    year = newest.year - (number > newest.month)
    return Period("", "month", f"{year}-{number:02d}"), 1


def _quarter(number: int, following: str, newest: dt.date | None) -> tuple[Period, int] | None:
    is_said = bool(_YEAR.fullmatch(following))
    if not is_said and newest is None:
        return None
    year = int(following) if is_said or newest is None else newest.year - (3 * number - 2 > newest.month)
    return Period("", "quarter", f"{year}-Q{number}"), 1 + is_said


def _by_distance(tokens: Sequence[str], at: int) -> tuple[Period, int] | None:
    for length in (3, 2):
        unit = BEFORE_THAT.get(tuple(tokens[at : at + length]))
        if unit is not None:
            return Period("", unit, back=1), length
    word = tokens[at]
    if word not in (*NEWEST, *BEFORE) or at + 1 >= len(tokens):
        return None
    following = tokens[at + 1]
    if following in UNITS:
        return Period("", UNITS[following], back=int(word in BEFORE), may_be_newest=word in BEFORE), 2
    count = NUMBERS.get(following) or (int(following) if following.isdigit() else 0)
    if word in BEFORE and count and at + 2 < len(tokens) and tokens[at + 2] in UNITS:
        return Period("", UNITS[tokens[at + 2]], count=count), 3
    return None


def fixed_before(period: Period, newest: dt.date) -> Period:
    """Return the period before the one that a day is in, as the dates that it is.

    >>> fixed_before(Period("last month", "month", back=1), dt.date(2026, 1, 14)).fixed
    '2025-12'
    """
    start = newest
    if period.grain == "month":
        start = newest.replace(day=1)
    elif period.grain == "quarter":
        start = dt.date(newest.year, (newest.month - 1) // 3 * 3 + 1, 1)
    elif period.grain == "week":
        start = days_after(newest, -newest.weekday())
    start = period_before(start, period.grain)
    written = {
        "year": f"{start.year}",
        "quarter": f"{start.year}-Q{(start.month + 2) // 3}",
        "month": f"{start:%Y-%m}",
        "week": f"{start.isocalendar().year}-W{start.isocalendar().week:02d}",
    }
    return replace(period, fixed=written.get(period.grain, start.isoformat()), back=0)


def rule_for(column: str, period: Period) -> Filter | None:
    """Return the filter of a period that no other than the newest has to be known for; None for those that are found by
    going back."""
    if period.fixed:
        test = {"": "in", "since": "at_least", "until": "at_most"}[period.lead]
        return Filter(column=column, test=test, values=(period.fixed,))
    if period.back:
        return None
    return Filter(column=column, test="last", count=period.count, by=period.grain)
