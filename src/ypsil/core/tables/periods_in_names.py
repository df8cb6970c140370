"""Columns whose names are months, quarters or years: a table laid on its side."""

from __future__ import annotations

import re

import polars as pl

from ypsil.core.tables.dates_in_text import parse_dates
from ypsil.core.tables.model import Column, Offer, Remark

_FEWEST = 3
_MOST = 400
# A year or an hour stands in it; what looks so is then read closely.
_LIKELY = re.compile(r"(?<!\d)(1[5-9]|20)\d\d(?!\d)|[ '’/.-]\d\d$")
_MONTH_ALONE = re.compile(
    r"(?i)^(jan(uary)?|feb(ruary)?|mar(ch)?|apr(il)?|may|june?|july?|aug(ust)?|sept?(ember)?|oct(ober)?|nov(ember)?"
    r"|dec(ember)?)\.?$"
)
_YEAR_ALONE = re.compile(r"^(19|20)\d\d$")
_QUARTER_ALONE = re.compile(r"(?i)^q[1-4]$")


def period_columns(names: list[str]) -> tuple[str, list[str]]:
    """Return what the period columns among some names stand for, and those columns; none is an empty list.

    >>> period_columns(["Branch", "Jan 2026", "Feb 2026", "Mar 2026"])
    ('Month', ['Jan 2026', 'Feb 2026', 'Mar 2026'])
    >>> period_columns(["Branch", "2024", "2025"])
    ('Year', [])
    """
    for what, shape in (("Month", _MONTH_ALONE), ("Quarter", _QUARTER_ALONE), ("Year", _YEAR_ALONE)):
        alone = [name for name in names if shape.match(name)]
        if len(alone) >= _FEWEST:
            return what, alone
    likely = [name for name in names if _LIKELY.search(name)][:_MOST]
    read = [(name, parse_dates(pl.Series([name]))) for name in likely]
    dated = [(name, found.form) for name, found in read if found is not None and found.form != "time"]
    form = max({form for _, form in dated}, key=[form for _, form in dated].count, default="year")
    chosen = [name for name, one in dated if one == form]
    return form.replace("moment", "time").capitalize(), chosen if len(chosen) >= _FEWEST else []


def note_periods(columns: tuple[Column, ...]) -> list[Remark]:
    """Propose to turn columns named after periods into rows, where they hold numbers."""
    numbers = [column.name for column in columns if column.kind == "number" or column.distinct == 0]
    what, found = period_columns(numbers)
    if not found:
        return []
    taken = {column.name for column in columns}
    name = what if what not in taken else f"{what} (2)"
    value = "Value" if "Value" not in taken else "Value (2)"
    step = {"type": "columns_into_rows", "columns": found, "name": name, "value": value}
    message = (
        f"{len(found)} columns are {what.lower()}s (“{found[0]}” to “{found[-1]}”). With one row for each, they can be "
        "drawn over time."
    )
    offer = Offer("Turn them into rows", {"step": step})
    return [Remark("months-as-columns", "warning", message, found[0], None, len(found), "proposed", (offer,))]
