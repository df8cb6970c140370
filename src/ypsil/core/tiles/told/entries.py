"""Entries: what is typed, or fed from the rows of a table, with what their figures mean."""

from __future__ import annotations

import datetime as dt
import math
import re
from dataclasses import dataclass
from functools import lru_cache

import polars as pl
from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.errors import TooFewPeople, YpsilError
from ypsil.core.figures import Grain, format_number, format_period
from ypsil.core.questions.model import Measure, Question
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.convert import as_text
from ypsil.core.tables.dates_in_text import period_of
from ypsil.core.tables.model import Column
from ypsil.core.tables.numbers_in_text import parse_numbers
from ypsil.core.tiles.base import Asked
from ypsil.core.tiles.context import Context

MOST_ENTRIES = 60
_GONE = "Its table is no longer there. Choose another, or type what belongs here."
_EMPTY = "No row of its table passes."
_NOTHING_LEFT = "No row fits what is chosen."
# Signs that part the two ends of a period: 2019 – 2022, Mar 2026 to May 2026.
_YEARS = re.compile(r"\d{4}[-–]\d{4}")
_ISO = re.compile(r"\d{4}-\d{2}(-\d{2})?")
_TO = (" – ", " - ", " to ", " bis ", " until ")


class Entry(BaseModel):
    """One thing that is told: what it is, what is said of it (a line each), its figure or date, its sign."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    head: str = Field("", max_length=300)
    text: str = Field("", max_length=2_000)
    figure: str = Field("", max_length=60)
    sign: str = Field("", max_length=120, description="an icon, a coloured picture or one's own")

    @property
    def is_empty(self) -> bool:
        return not (self.head.strip() or self.text.strip() or self.figure.strip())

    def lines(self) -> list[str]:
        """Return what is said of it, line by line."""
        return [line.strip() for line in self.text.splitlines() if line.strip()]


class Feed(BaseModel):
    """Rows of a table as entries: which columns say what, which rows, in which order, how many."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    table: str
    head: str
    text: str = ""
    figure: str = ""
    until: str = Field("", description="the column that says when a period ends, where the figures are dates")
    sign: str = ""
    where: tuple[Filter, ...] = ()
    by: str = Field("", description="the column whose values give the order; left out: as the rows stand")
    descending: bool = False
    most: int = Field(8, ge=1, le=MOST_ENTRIES)

    def columns(self) -> list[str]:
        """Return the columns that it needs, each once."""
        named = (self.head, self.text, self.figure, self.until, self.sign, self.by)
        return list(dict.fromkeys(name for name in named if name))

    def question(self) -> Question:
        """Return what it asks of its table: the columns that it needs, in the rows that pass."""
        return Question(measures=tuple(Measure(stat="count", column=name) for name in self.columns()), where=self.where)

    def asked(self) -> Asked:
        return Asked(self.table, self.question())


@dataclass(frozen=True, slots=True)
class Told:
    """An entry as it is drawn: its number, its words, its figure in words, and what that figure is, where it is
    one: an amount, or the first and the last day of what it names; from one day to another it is a period."""

    number: int
    entry: Entry
    figure: str = ""
    amount: float | None = None
    days: tuple[dt.date, dt.date] | None = None
    is_period: bool = False


@dataclass(frozen=True, slots=True)
class Telling:
    """All that is told, how many more rows there are than are shown, and why there is nothing, where there is not."""

    told: tuple[Told, ...] = ()
    more: int = 0
    problem: str = ""
    is_told: bool = False


def typed(entries: tuple[Entry, ...], locale: str) -> Telling:
    """Return typed entries with what their figures mean; those that say nothing are left out."""
    said = [entry for entry in entries if not entry.is_empty]
    return Telling(
        tuple(
            Told(
                place,
                entry,
                _shown(entry.figure.strip(), locale),
                amount_of(entry.figure),
                days_of(entry.figure),
                _ends(entry.figure) is not None,
            )
            for place, entry in enumerate(said, start=1)
        )
    )


def fed(feed: Feed, context: Context) -> Telling:
    """Return the entries that rows of a table give; where they cannot be had it says why."""
    table = context.tables.get(feed.table)
    if table is None:
        return Telling(problem=_GONE)
    try:
        rows = table.rows(context.narrowed(feed.table, feed.question()))
    except TooFewPeople as few:
        return Telling(problem=few.line(), is_told=True)
    except YpsilError as problem:
        return Telling(problem=f"{table.name}: {problem.line()}.")
    known = {column.name: column for column in table.columns}
    rows = rows.filter(pl.col(feed.head).is_not_null())
    if feed.by:
        rows = rows.sort(feed.by, descending=feed.descending, nulls_last=True, maintain_order=True)
    shown = rows.head(feed.most)
    if not shown.height and context.chosen:
        return Telling(problem=_NOTHING_LEFT, is_told=True)
    if not shown.height:
        return Telling(problem=f"{table.name}: {_EMPTY}")
    words = {name: _words(shown[name], known[name], context.locale) for name in feed.columns()}

    def word(name: str, row: int) -> str:
        return str(words[name][row]) if name else ""

    found = []
    for row in range(shown.height):
        entry = Entry(
            head=word(feed.head, row)[:300],
            text=word(feed.text, row)[:2_000],
            figure=word(feed.figure, row)[:60],
            sign=word(feed.sign, row)[:120],
        )
        value = shown[feed.figure][row] if feed.figure else None
        until = shown[feed.until][row] if feed.until else None
        found.append(_told(row + 1, entry, value, until, known.get(feed.figure), context.locale))
    return Telling(tuple(found), rows.height - shown.height)


def _words(cells: pl.Series, column: Column, locale: str) -> list[str]:
    """Return a column's values as people write them; nothing for those that are missing."""
    if column.kind == "date" and cells.dtype in (pl.Date, pl.Datetime):
        return ["" if cell is None else format_period(_day(cell), _grain(column), locale=locale) for cell in cells]
    return as_text(cells, column.field).fill_null("").cast(pl.String).to_list()


def _grain(column: Column | None) -> Grain:
    form = column.form if column else None
    return form if form in ("year", "quarter", "month", "week") else "day"


def _told(number: int, entry: Entry, value: object, until: object, column: Column | None, locale: str) -> Told:
    if isinstance(value, dt.datetime | dt.date):
        first = _day(value)
        last = _day(until) if isinstance(until, dt.datetime | dt.date) else _last_day(first, column)
        said = format_period(first, _grain(column), locale=locale)
        if isinstance(until, dt.datetime | dt.date):
            said += f" – {format_period(last, _grain(column), locale=locale)}"
        is_period = isinstance(until, dt.datetime | dt.date)
        return Told(number, entry, said, None, (first, max(first, last)), is_period)
    if isinstance(value, int | float) and not isinstance(value, bool) and math.isfinite(value):
        unit = column.unit if column else None
        said = format_number(float(value), unit=unit, locale=locale)
        # A bare number of four digits may be a year.
        return Told(number, entry, said, float(value), days_of(entry.figure))
    return Told(number, entry, entry.figure.strip(), amount_of(entry.figure), days_of(entry.figure))


def _day(value: dt.datetime | dt.date) -> dt.date:
    return value.date() if isinstance(value, dt.datetime) else value


def _last_day(first: dt.date, column: Column | None) -> dt.date:
    form = column.form if column else None
    named = {"year": f"{first.year:04d}", "month": f"{first.year:04d}-{first.month:02d}"}.get(form or "")
    found = period_of(named) if named else None
    return found[1] if found else first


@lru_cache(maxsize=4096)
def days_of(text: str) -> tuple[dt.date, dt.date] | None:
    """Return the first and the last day that a text names, alone or as a period from one to the other.

    >>> [day.isoformat() for day in days_of("2019 – 2022")], days_of("soon")
    (['2019-01-01', '2022-12-31'], None)
    """
    ends = _ends(text)
    if ends is None:
        return period_of(text) if text.strip() else None
    first, last = map(period_of, ends)
    return (first[0], max(first[0], last[1])) if first and last else None


def _ends(text: str) -> tuple[str, str] | None:
    """Return what a period is said to begin and to end with; nothing where no two ends are said."""
    text = text.strip()
    if _YEARS.fullmatch(text):
        return text[:4], text[5:]
    for mark in _TO:
        first, found, last = text.partition(mark)
        if found:
            return first.strip(), last.strip()
    return None


def _shown(text: str, locale: str) -> str:
    """Return a figure as it is shown: days and months in figures alone as people write them."""
    ends = _ends(text)
    if ends is not None and any(map(_ISO.fullmatch, ends)):
        return " – ".join(_shown(end, locale) for end in ends)
    if not _ISO.fullmatch(text):
        return text
    named = period_of(text)
    return format_period(named[0], "day" if text.count("-") == 2 else "month", locale=locale) if named else text


@lru_cache(maxsize=4096)
def amount_of(text: str) -> float | None:
    """Return the number that a text is; nothing where it is none."""
    if not text.strip():
        return None
    found = parse_numbers(pl.Series([text.strip()]))
    value = found.values[0] if found.values.len() else None
    return None if value is None else float(value)
