"""Periods of time: their names in a locale and the period before one.

A period is kept as the date it starts on. Weeks are those of ISO 8601: they start on Monday, and week 1
is the week with the year's first Thursday.
"""

from __future__ import annotations

import datetime as dt
from functools import lru_cache
from typing import Literal, get_args

from babel import Locale
from babel.dates import format_date

from ypsil.core.figures.locales import DEFAULT_LOCALE

Grain = Literal["year", "quarter", "month", "week", "weekday", "day", "hour"]
GRAINS: tuple[Grain, ...] = get_args(Grain)

_PATTERNS: dict[str, str] = {"year": "y", "month": "MMM y", "day": "d MMM y"}


@lru_cache(maxsize=16384)
def format_period(start: dt.date | int, grain: Grain | None, *, locale: str = DEFAULT_LOCALE) -> str:
    """Return the name of the period that starts on ``start``; weekdays (1–7) and hours (0–23) are numbers.

    >>> day = dt.date(2026, 3, 2)
    >>> [format_period(day, grain) for grain in ("year", "quarter", "month", "week", "day")]
    ['2026', 'Q1 2026', 'Mar 2026', '2026-W10', '2 Mar 2026']
    >>> format_period(1, "weekday"), format_period(14, "hour")
    ('Monday', '14:00')
    """
    if isinstance(start, int):
        if grain == "weekday":
            return str(Locale.parse(locale).days["stand-alone"]["wide"][start - 1])
        return f"{start:02d}:00"
    if grain == "quarter":
        return f"Q{(start.month + 2) // 3} {start.year}"
    if grain == "week":
        week = start.isocalendar()
        return f"{week.year}-W{week.week:02d}"
    return str(format_date(start, format=_PATTERNS.get(grain or "day", _PATTERNS["day"]), locale=locale))


def days_after(day: dt.date, days: int) -> dt.date:
    """Return the day that is so many days later (or earlier), or the first or last day there is.

    >>> days_after(dt.date(2026, 3, 1), -1), days_after(dt.date(9999, 12, 30), 5)
    (datetime.date(2026, 2, 28), datetime.date(9999, 12, 31))
    """
    return dt.date.fromordinal(min(max(day.toordinal() + days, 1), dt.date.max.toordinal()))


def period_before(start: dt.date, grain: Grain) -> dt.date:
    """Return the start of the period just before the one that starts on ``start``; before the first there is none but
    itself.

    >>> period_before(dt.date(2026, 1, 1), "month"), period_before(dt.date(2026, 4, 1), "quarter")
    (datetime.date(2025, 12, 1), datetime.date(2026, 1, 1))
    """
    months = {"year": 12, "quarter": 3, "month": 1}.get(grain)
    if months is None:
        return days_after(start, -7 if grain == "week" else -1)
    index = max(12, start.year * 12 + start.month - 1 - months)
    return dt.date(index // 12, index % 12 + 1, 1)


def year_before(start: dt.date, grain: Grain) -> dt.date | None:
    """Return the start of the same period a year before; None where that year has none (29 February, week 53).

    >>> year_before(dt.date(2026, 3, 1), "month"), year_before(dt.date(2024, 2, 29), "day")
    (datetime.date(2025, 3, 1), None)
    >>> year_before(dt.date(2026, 3, 2), "week")
    datetime.date(2025, 3, 3)
    """
    try:
        if grain == "week":
            year, week, _ = start.isocalendar()
            return dt.date.fromisocalendar(year - 1, week, 1)
        return start.replace(year=start.year - 1)
    except ValueError:
        return None
