"""What the data offers at a control: the values there are, how far the amounts go, which periods there are."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from dataclasses import dataclass

import polars as pl

from ypsil.core.answers.groups import TRUNCATE
from ypsil.core.cache import Cache
from ypsil.core.choosing.control import Choice, Control, Way, way_of
from ypsil.core.figures import Grain, format_period
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.model import Column
from ypsil.core.tables.natural_order import natural_order
from ypsil.core.tables.profile import natural_grain
from ypsil.core.tables.shown_names import in_words

# So many values are listed; others are typed. So many periods are shown; of more, longer ones are.
MOST_LISTED, MOST_PERIODS = 500, 400
_LONGER: dict[Grain, Grain] = {"day": "month", "week": "month", "month": "year", "quarter": "year"}
_BYTES, _EACH = 1 << 24, 90


@dataclass(frozen=True, slots=True)
class Offered:
    """What can be chosen at a control: ``values`` in their order; the ``ends`` of amounts; the first days of the
    ``periods`` from the first to the last, and how long each is."""

    control: Control
    column: Column
    way: Way
    values: tuple[str, ...] = ()
    ends: tuple[float, float] | None = None
    periods: tuple[dt.date, ...] = ()
    grain: Grain = "day"

    @property
    def name(self) -> str:
        """What it is called."""
        return self.control.title.strip() or self.column.shown or in_words(self.column.name)

    def words(self, choice: Choice, locale: str) -> list[str]:
        """Return what a choice holds as readers see it, each thing by itself; nothing where all is chosen."""
        if choice.last:
            return [f"Last {choice.last} {self.grain}s" if choice.last > 1 else f"Last {self.grain}"]
        if self.way == "values":
            return list(choice.values)
        low, high = (self.end_in_words(end, locale) for end in (choice.low, choice.high))
        if low and high:
            return [low if low == high else f"{low} to {high}"]
        return [f"From {low}"] if low else [f"Up to {high}"] if high else []

    def end_in_words(self, end: str, locale: str) -> str:
        """Return the end of an amount or a period as readers see it."""
        if not end or self.way != "period":
            return end
        return format_period(self.starts()[end], self.grain, locale=locale)

    def starts(self) -> dict[str, dt.date]:
        """Return the periods by what they are called in an address."""
        return {period_key(start, self.grain): start for start in self.periods}

    def rule(self, choice: Choice) -> Filter | None:
        """Return a choice as a filter of rows; None where nothing is chosen."""
        column = self.column.name
        if choice.last:
            return Filter(column=column, test="last", count=choice.last, by=self.grain)
        if choice.values:
            return Filter(column=column, test="in", values=choice.values)
        low, high = (self._typed(end) for end in (choice.low, choice.high))
        by = self.grain if self.way == "period" else None
        if low is not None and high is not None:
            return Filter(column=column, test="between", values=(low, high), by=by)
        if low is not None:
            return Filter(column=column, test="at_least", values=(low,), by=by)
        return None if high is None else Filter(column=column, test="at_most", values=(high,), by=by)

    def _typed(self, end: str) -> str | float | None:
        return None if not end else float(end) if self.way == "amount" else end


def period_key(start: dt.date, grain: Grain) -> str:
    """Return a period as it stands in an address.

    >>> day = dt.date(2026, 4, 6)
    >>> [period_key(day, grain) for grain in ("year", "quarter", "month", "week", "day")]
    ['2026', '2026-Q2', '2026-04', '2026-W15', '2026-04-06']
    """
    if grain == "year":
        return f"{start:%Y}"
    if grain == "quarter":
        return f"{start:%Y}-Q{(start.month + 2) // 3}"
    if grain == "week":
        return f"{start:%G-W%V}"
    return f"{start:%Y-%m}" if grain == "month" else start.isoformat()


_known: Cache[tuple[str, Control, Column], Offered] = Cache(
    "what can be chosen", _BYTES, lambda one: _EACH * (4 + len(one.values) + len(one.periods))
)


def offered_by(control: Control, column: Column, frame: Callable[[], pl.DataFrame], key: str) -> Offered | None:
    """Return what a control offers; None where rows cannot be chosen by its column. ``key`` names all of the table."""
    way = way_of(column)
    if way is None:
        return None
    return _known.get_or_make((key, control, column), lambda: _made(control, column, way, frame()))


def _made(control: Control, column: Column, way: Way, frame: pl.DataFrame) -> Offered:
    cells = frame[column.name].drop_nulls()
    if way == "values":
        return Offered(control, column, way, values=_values(column, cells))
    if way == "amount":
        numbers = cells.cast(pl.Float64)
        numbers = numbers.filter(numbers.is_finite())
        ends = None if numbers.is_empty() else (float(numbers.min()), float(numbers.max()))  # type: ignore[arg-type]
        return Offered(control, column, way, ends=ends)
    days = cells.cast(pl.Date)
    grain = control.by or natural_grain(days)
    periods = _periods(days, grain)
    while len(periods) > MOST_PERIODS and grain in _LONGER:
        grain = _LONGER[grain]
        periods = _periods(days, grain)
    return Offered(control, column, way, periods=periods, grain=grain)


def _values(column: Column, cells: pl.Series) -> tuple[str, ...]:
    if column.kind == "yesno":
        return ("Yes", "No")
    found = {str(value) for value in (cells.explode() if column.kind == "list" else cells).unique().drop_nulls()}
    given = [value for value in column.order if value in found]
    if given:
        return (*given, *sorted(found - set(given), key=str.casefold))
    return tuple(natural_order(sorted(found)) or sorted(found, key=str.casefold))


def _periods(days: pl.Series, grain: Grain) -> tuple[dt.date, ...]:
    if days.is_empty():
        return ()
    length = TRUNCATE[grain]
    starts = days.dt.truncate(length)
    return tuple(pl.date_range(starts.min(), starts.max(), length, eager=True))  # type: ignore[arg-type]
