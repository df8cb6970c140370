"""Which visuals suit numbers that belong together."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ypsil.core.numbers.model import SHARE, GroupKind

VISUALS: dict[GroupKind, tuple[str, ...]] = {
    "comparison": ("bar", "column", "lollipop", "pictogram", "table"),
    "parts": ("donut", "share_strip", "pie", "bar", "table"),
    "series": ("line", "column", "area", "table"),
    "change": ("column", "slope", "kpi", "bar", "table"),
    "steps": ("table",),
    "dates": ("timeline", "table"),
    "single": ("kpi", "bar"),
}
# A share alone.
OF_A_SHARE = ("ring", "percent_grid", "icon_row", "filled_numerals", "gauge")
# From so many rows on they are first of all a table.
LONG_TABLE = 40
_NEARLY_ONE = (0.97, 1.03)


def is_whole(values: Sequence[float], unit: str | None) -> bool:
    """Tell whether shares, or percentages, are the parts of one whole, but for rounding."""
    whole = sum(values) if unit == SHARE else sum(values) / 100
    return _NEARLY_ONE[0] <= whole <= _NEARLY_ONE[1]


def told_apart(rows: Sequence[tuple[str, float]]) -> Iterator[tuple[str, float]]:
    """Yield rows whose names differ: the second of a name says so.

    >>> list(told_apart([("loans", 1), ("loans", 2)]))
    [('loans', 1), ('loans (2)', 2)]
    """
    counted: dict[str, int] = {}
    for name, value in rows:
        counted[name] = counted.get(name, 0) + 1
        yield (name if counted[name] == 1 else f"{name} ({counted[name]})", value)
