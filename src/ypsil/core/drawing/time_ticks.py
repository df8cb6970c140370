"""Dates for an axis: at the starts of days, weeks, months and years, never at odd moments."""

from __future__ import annotations

import bisect
import datetime as dt
from dataclasses import dataclass
from typing import Literal

from ypsil.core.drawing.ticks import ticks

Unit = Literal["second", "minute", "hour", "day", "week", "month", "year"]
_SECONDS = {"second": 1, "minute": 60, "hour": 3600, "day": 86400, "week": 604800, "month": 2592000, "year": 31536000}
_STEPS: tuple[tuple[Unit, int], ...] = (
    ("second", 1), ("second", 5), ("second", 15), ("second", 30),
    ("minute", 1), ("minute", 5), ("minute", 15), ("minute", 30),
    ("hour", 1), ("hour", 3), ("hour", 6), ("hour", 12),
    ("day", 1), ("day", 2), ("week", 1), ("month", 1), ("month", 3), ("year", 1),
)  # fmt: skip
_LENGTHS = [_SECONDS[unit] * step for unit, step in _STEPS]
_EPOCH = dt.datetime(1970, 1, 1)


@dataclass(frozen=True, slots=True)
class TimeStep:
    unit: Unit
    step: int


def seconds(moment: dt.date | dt.datetime) -> float:
    """Return a moment as seconds since 1970, as a place on an axis; a date is its midnight."""
    return (_moment(moment) - _EPOCH).total_seconds()


def _moment(moment: dt.date | dt.datetime) -> dt.datetime:
    return moment if isinstance(moment, dt.datetime) else dt.datetime.combine(moment, dt.time())


def time_step(start: dt.date | dt.datetime, stop: dt.date | dt.datetime, count: int) -> TimeStep:
    """Return the calendar step that is nearest (geometrically) to ``count`` steps between two moments.

    >>> time_step(dt.date(2026, 1, 1), dt.date(2026, 12, 31), 12)
    TimeStep(unit='month', step=1)
    """
    target = abs(seconds(stop) - seconds(start)) / max(1, count)
    place = bisect.bisect_right(_LENGTHS, target)
    if place == len(_STEPS):
        years = ticks(seconds(start) / _SECONDS["year"], seconds(stop) / _SECONDS["year"], count)
        return TimeStep("year", max(1, round(years[1] - years[0])) if len(years) > 1 else 1)
    if place == 0:
        return TimeStep("second", 1)
    nearer = place - 1 if target / _LENGTHS[place - 1] < _LENGTHS[place] / target else place
    return TimeStep(*_STEPS[nearer])


def time_ticks(
    start: dt.date | dt.datetime, stop: dt.date | dt.datetime, count: int = 6, *, at_least: Unit = "second"
) -> list[dt.datetime]:
    """Return about ``count`` calendar moments from ``start`` to ``stop``, in steps of at least a unit.

    Weeks start on Monday (ISO 8601); steps of two days start with the odd days of a month.

    >>> [tick.month for tick in time_ticks(dt.date(2026, 1, 15), dt.date(2026, 12, 2), 4)]
    [4, 7, 10]
    """
    low, high = sorted((_moment(start), _moment(stop)))
    chosen = time_step(low, high, count)
    if _SECONDS[chosen.unit] < _SECONDS[at_least]:
        chosen = TimeStep(at_least, 1)
    found = []
    tick = _first(low, chosen)
    while tick <= high:
        if tick >= low:
            found.append(tick)
        tick = _next(tick, chosen)
    return found


def _first(low: dt.datetime, chosen: TimeStep) -> dt.datetime:
    """Return a moment of the step's own grid at or before ``low``."""
    step = chosen.step
    midnight = low.replace(hour=0, minute=0, second=0, microsecond=0)
    if chosen.unit == "year":
        return dt.datetime(max(1, low.year // step * step), 1, 1)
    if chosen.unit == "month":
        return dt.datetime(low.year, (low.month - 1) // step * step + 1, 1)
    if chosen.unit == "week":
        return midnight - dt.timedelta(days=low.weekday())
    if chosen.unit == "day":
        return midnight - dt.timedelta(days=(low.day - 1) % step)
    length = _SECONDS[chosen.unit] * step
    return midnight + dt.timedelta(seconds=int((low - midnight).total_seconds() // length) * length)


def _next(tick: dt.datetime, chosen: TimeStep) -> dt.datetime:
    if chosen.unit in ("year", "month"):
        months = chosen.step * (12 if chosen.unit == "year" else 1)
        index = tick.year * 12 + tick.month - 1 + months
        if index // 12 > 9999:
            return dt.datetime.max
        return dt.datetime(index // 12, index % 12 + 1, 1)
    after = tick + dt.timedelta(seconds=_SECONDS[chosen.unit] * chosen.step)
    if chosen.unit == "day" and chosen.step > 1 and after.month != tick.month:
        return after.replace(day=1)
    return after
