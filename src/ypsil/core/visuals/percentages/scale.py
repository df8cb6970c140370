"""The scale of percentages that may lie below 0 or above 100, with a mark on it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ypsil.core.figures import format_share
from ypsil.core.visuals.percentages.shown import PercentOptions, Shown
from ypsil.core.visuals.shared.settings import setting

_STEP = 0.1


class MarkedOptions(PercentOptions):
    """Percentages along a scale, with a target on it."""

    mark: float | None = setting(None, "Mark at", "Notes", "a target, such as 0.5 for 50%", ge=-1e4, le=1e4)
    mark_name: str = setting("", "Name of the mark", "Notes", max_length=60)


@dataclass(frozen=True, slots=True)
class Span:
    """From where to where a scale goes; 0 and 1 are always on it."""

    low: float
    high: float

    def part(self, value: float) -> float:
        """How far along the scale a value lies, from 0 to 1."""
        return (value - self.low) / (self.high - self.low)


def span(found: Sequence[Shown], *more: float | None) -> Span:
    """Return the scale that all percentages and marks are on: 0 to 1, longer only where one lies beyond.

    >>> span([Shown("Budget", 1.12, "112%", None)], 0.5)
    Span(low=0.0, high=1.2)
    """
    values = [one.share for one in found] + [value for value in more if value is not None]
    low, high = min([0.0, *values]), max([1.0, *values])
    return Span(round(math.floor(low / _STEP + 1e-9) * _STEP, 6), round(math.ceil(high / _STEP - 1e-9) * _STEP, 6))


def mark_text(options: MarkedOptions) -> str:
    """Return the mark in words, such as “Target 50%”; nothing without one."""
    if options.mark is None:
        return ""
    return f"{options.mark_name or 'Mark'} {format_share(options.mark, locale=options.in_locale)}"
