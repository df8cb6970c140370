"""Dates as people write them; the order of day and month is decided from the whole column."""

from __future__ import annotations

from dataclasses import dataclass

import polars as pl

# Order matters only where two patterns read the same cells; day first is then the assumption.
_PATTERNS = (
    ("%Y-%m-%d", r"^\d{4}-\d{1,2}-\d{1,2}$"),
    ("%Y/%m/%d", r"^\d{4}/\d{1,2}/\d{1,2}$"),
    ("%d.%m.%Y", r"^\d{1,2}\.\d{1,2}\.\d{4}$"),
    ("%d %B %Y", r"^\d{1,2} [A-Za-z]{4,} \d{4}$"),
    ("%d %b %Y", r"^\d{1,2} [A-Za-z]{3} \d{4}$"),
    ("%d-%b-%Y", r"^\d{1,2}-[A-Za-z]{3}-\d{4}$"),
    ("%b %d %Y", r"^[A-Za-z]{3} \d{1,2} \d{4}$"),
    ("%b %d, %Y", r"^[A-Za-z]{3} \d{1,2}, \d{4}$"),
    ("%B %d, %Y", r"^[A-Za-z]{4,} \d{1,2}, \d{4}$"),
)
_MONTHS = (
    ("%Y-%m-%d", r"^\d{4}-\d{2}$", "{}-01"),
    ("%B %Y-%d", r"^[A-Za-z]{4,} \d{4}$", "{}-01"),
    ("%b %Y-%d", r"^[A-Za-z]{3} \d{4}$", "{}-01"),
    ("%b-%Y-%d", r"^[A-Za-z]{3}-\d{4}$", "{}-01"),
)
_SLASHED = r"^\d{1,2}([/.-])\d{1,2}([/.-])\d{4}$"
_TIMED = r"^\d{4}[-/]\d{2}[-/]\d{2}[T ]\d{2}:\d{2}"


@dataclass(frozen=True, slots=True)
class ParsedDates:
    """Dates (or moments) of a column, null where a cell holds none.

    ``order`` tells how day and month were told apart: ``None`` when there was nothing to tell.
    """

    values: pl.Series
    order: str | None = None  # "day-first", "month-first" or "ambiguous"


def parse_dates(cells: pl.Series) -> ParsedDates | None:
    """Read a column of text as dates, or return None when no pattern reads most of its cells.

    >>> parse_dates(pl.Series(["13/02/2026", "01/03/2026"])).values.to_list()[1].isoformat()
    '2026-03-01'
    >>> parse_dates(pl.Series(["01/02/2026"])).order, parse_dates(pl.Series(["Branch"]))
    ('ambiguous', None)
    """
    present = cells.drop_nulls()
    if not len(present) or not bool(present.head(1000).str.contains(r"\d").any()):
        return None
    needed = 0.9 * len(present)
    if (present.str.contains(_TIMED)).sum() >= needed:
        text = cells.str.replace("T", " ", literal=True).str.replace_all("/", "-", literal=True).str.head(19)
        filled = pl.select(pl.when(text.str.len_chars() == 16).then(text + ":00").otherwise(text)).to_series()
        return ParsedDates(filled.str.to_datetime("%Y-%m-%d %H:%M:%S", strict=False))
    if (present.str.contains(_SLASHED)).sum() >= needed:
        return _parse_slashed(cells, needed)
    for pattern, shape in _PATTERNS:
        if (present.str.contains(shape)).sum() >= needed:
            return ParsedDates(cells.str.to_date(pattern, strict=False))
    for pattern, shape, template in _MONTHS:
        if (present.str.contains(shape)).sum() >= needed:
            whole = pl.select(pl.format(template, cells)).to_series()
            return ParsedDates(whole.str.to_date(pattern, strict=False))
    return None


def _parse_slashed(cells: pl.Series, needed: float) -> ParsedDates | None:
    text = cells.str.replace_all(r"[.-]", "/")
    day_first = text.str.to_date("%d/%m/%Y", strict=False)
    month_first = text.str.to_date("%m/%d/%Y", strict=False)
    by_day, by_month = day_first.count(), month_first.count()
    if max(by_day, by_month) < needed:
        return None
    if by_day == by_month:
        return ParsedDates(day_first, "ambiguous")
    return ParsedDates(day_first, "day-first") if by_day > by_month else ParsedDates(month_first, "month-first")
