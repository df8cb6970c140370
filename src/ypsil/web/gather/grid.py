"""Pages of a table's rows for the grid: sorted, filtered, searched, and written as people read them."""

from __future__ import annotations

import datetime as dt
import re
from functools import lru_cache
from typing import Any

import polars as pl

from ypsil.core.cache import Cache
from ypsil.core.figures import decimals_kept, format_number, format_period
from ypsil.core.tables.convert import as_text
from ypsil.core.tables.model import Column
from ypsil.core.tables.rows import Rows, sort_key

SIGNS = {"number": "#", "category": "◇", "text": "¶", "date": "◔", "place": "⚲", "yesno": "±", "list": "≡"}
_MOST_CELLS = 20_000
_PAGE = 200
COLUMNS_AT_ONCE = 100
_COMPARED = re.compile(r"^(<=|>=|<>|<|>|=)\s*(.+)$")
_LONGEST_SHOWN = 300
_SAMPLE = 500


def page_size(columns: int) -> int:
    """Return how many rows are sent at once: fewer of wide tables."""
    return max(20, min(_PAGE, _MOST_CELLS // max(1, columns)))


def order(
    key: str,
    rows: Rows,
    *,
    sort: str = "",
    descending: bool = False,
    find: str = "",
    filters: tuple[tuple[str, str], ...] = (),
) -> pl.Series:
    """Return the positions of the rows to show, in order; remembered under ``key`` and what was asked."""  # fmt: skip
    asked = (key, sort, descending, find, filters)
    return _orders.get_or_make(asked, lambda: _order(rows, sort, descending, find, filters))


_orders: Cache[tuple[object, ...], pl.Series] = Cache(
    "orders of rows", 1 << 27, lambda rows: int(rows.estimated_size())
)


def _order(rows: Rows, sort: str, descending: bool, find: str, filters: tuple[tuple[str, str], ...]) -> pl.Series:
    keep = pl.repeat(True, rows.frame.height, eager=True)
    for name, wanted in filters:
        if name in rows.fields and wanted.strip():
            keep &= _passes(rows, name, wanted.strip())
    if find.strip():
        keep &= _holds(rows, find.strip())
    positions = keep.arg_true()
    if sort in rows.fields and rows.fields[sort].kind != "list":
        keys = rows.frame.select(sort_key(pl.col(sort), rows.fields[sort])).to_series()
        cells = keys.gather(positions)
        positions = positions.gather(cells.arg_sort(descending=descending, nulls_last=True))
    return positions


def _holds(rows: Rows, find: str) -> pl.Series:
    found = pl.repeat(False, rows.frame.height, eager=True)
    for name in rows.names:
        found |= _contains(as_text(rows.frame[name], rows.fields[name]), find)
    return found


def _contains(cells: pl.Series, wanted: str) -> pl.Series:
    return cells.str.contains(f"(?i){re.escape(wanted)}").fill_null(False)


def _passes(rows: Rows, name: str, wanted: str) -> pl.Series:
    """A filter is a comparison (``> 100``, ``<= 2026-03-01``), the word “missing”, or text that a cell contains."""
    cells, field = rows.frame[name], rows.fields[name]
    if wanted.lower() == "missing":
        return cells.is_null()
    compared = _COMPARED.match(wanted)
    bound = _bound(compared.group(2), field.kind, field.unit) if compared else None
    if compared is None or bound is None:
        return _contains(as_text(cells, field), wanted)
    sign = compared.group(1)
    made = {"<": cells < bound, ">": cells > bound, "<=": cells <= bound, ">=": cells >= bound,
            "=": cells == bound, "<>": cells != bound}[sign]  # fmt: skip
    return pl.Series(made).fill_null(False)


def _bound(text: str, kind: str, unit: str | None) -> Any:
    try:
        if kind == "number":
            number = float(re.sub(r"[,\s£$€¥%]", "", text))
            return number / 100 if unit == "%" else number
        if kind == "date":
            return dt.date.fromisoformat(text.strip())
    except ValueError:
        return None
    return text.strip() if kind in ("category", "place", "text") else None


def page(rows: Rows, positions: pl.Series, start: int, count: int, first_column: int = 0) -> list[dict[str, Any]]:
    """Return some rows as records: ``n`` is the row's number in the table, ``c0``, ``c1`` … its cells as shown.

    Of a wide table only the columns from ``first_column`` on are told, as many as are shown at once.
    """
    chosen = positions.slice(start, count)
    shown = rows.frame[chosen.cast(pl.Int64).to_list()] if len(chosen) else rows.frame.clear()
    columns = rows_columns(rows)[first_column : first_column + COLUMNS_AT_ONCE]
    texts = [cell_texts(shown[column.name], column, _decimals(rows.frame[column.name], column)) for column in columns]
    numbers = [int(position) + 1 for position in chosen.to_list()]
    return [
        {"n": number, **{f"c{index}": cells[row] for index, cells in enumerate(texts, first_column)}}
        for row, number in enumerate(numbers)
    ]


def rows_columns(rows: Rows) -> tuple[Column, ...]:
    return tuple(
        Column(name, field.kind, field.unit, form=field.form, order=field.order, good=field.good, shown=field.shown)
        for name, field in rows.fields.items()
    )


def _decimals(cells: pl.Series, column: Column) -> int:
    """Return how many decimals a column of numbers is shown with on all its pages, from values all along it."""
    if column.kind != "number":
        return 0
    some = cells.gather_every(max(1, len(cells) // _SAMPLE)).drop_nulls().to_list()
    return max(0, decimals_kept(some) - 2 * (column.unit == "%"))


def cell_texts(cells: pl.Series, column: Column, decimals: int) -> list[str | None]:
    """Return a column's values as they are shown; a missing one is None."""
    values = cells.to_list()
    if column.kind == "number":
        unit = "%" if column.unit == "%" else None
        return [None if value is None else format_number(value, decimals=decimals, unit=unit) for value in values]
    return [None if value is None else _text(value, column) for value in values]


def _text(value: Any, column: Column) -> str:
    if column.kind == "yesno":
        return "Yes" if value else "No"
    if column.kind == "list":
        return "; ".join(value)
    if isinstance(value, dt.time):
        return f"{value:%H:%M}"
    if isinstance(value, dt.datetime):
        return f"{format_period(value.date(), 'day')}, {value:%H:%M}"
    if isinstance(value, dt.date):
        return format_period(value, column.form if column.form in ("year", "quarter", "month", "week") else "day")
    text = str(value)
    return text if len(text) <= _LONGEST_SHOWN else text[: _LONGEST_SHOWN - 1] + "…"


def unit_to_show(column: Column) -> str:
    """Return a column's unit, unless its name says it already or it stands with each number."""
    named = column.unit is not None and f"({column.unit})" in column.name
    return "" if column.unit is None or named or column.unit == "%" else column.unit


@lru_cache(maxsize=512)
def spread_svg(bars: tuple[int, ...], missing_part: float) -> str:
    """Return the tiny picture of a column's spread and its gaps, 64 by 20 px."""
    parts = []
    width, highest = 64 / max(1, len(bars)), max(bars, default=0)
    for index, count in enumerate(bars):
        if count:
            height = max(1.0, 16 * count / highest)
            box = (index * width, 16 - height, max(0.8, width - 0.6), height)
            parts.append('<rect x="{:.1f}" y="{:.1f}" width="{:.1f}" height="{:.1f}"/>'.format(*box))
    gap = f'<rect class="gap" x="0" y="18" width="{64 * missing_part:.1f}" height="2"/>' if missing_part else ""
    return (
        f'<svg class="spread" viewBox="0 0 64 20" width="64" height="20" aria-hidden="true">{"".join(parts)}{gap}</svg>'
    )
