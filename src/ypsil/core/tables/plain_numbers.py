"""Columns of nothing but plain numbers, found all at once: most cells of most files need no closer look."""

from __future__ import annotations

import polars as pl

from ypsil.core.tables.dates_in_text import says_date_or_year
from ypsil.core.tables.kinds import Judged, says_identifier
from ypsil.core.tables.model import Column
from ypsil.core.tables.numbers_in_text import marks_may_part_thousands
from ypsil.core.tables.reading import Reading
from ypsil.core.tables.shown_names import unit_in_name

_SAMPLE = 200


def plain_numbers(cells: pl.DataFrame, text_cells: pl.DataFrame | None, reading: Reading) -> dict[str, Judged]:
    """Return the columns whose every cell is empty or a number as a program writes it, understood.

    Left out are columns that need a closer look: with leading zeros, with points that may part thousands, with a name
    that says identifier, year or date, with numbers that a workbook kept as text, or of which a repair was undone.
    """
    chosen = [name for name in cells.columns if not _needs_a_look(name, reading)]
    if text_cells is not None and chosen:
        as_text = text_cells.select(pl.col(chosen).any()).row(0)
        chosen = [name for name, some in zip(chosen, as_text, strict=True) if not some]
    chosen = _likely(cells, chosen)
    if not chosen:
        return {}
    numbers = cells.select(pl.col(chosen).cast(pl.Float64, strict=False))
    empty, unread = cells.select(chosen).null_count().row(0), numbers.null_count().row(0)
    pairs = zip(chosen, empty, unread, strict=True)
    chosen = [name for name, before, after in pairs if before == after < cells.height]
    if not chosen:
        return {}
    finite = numbers.select(pl.col(chosen).is_finite().all()).row(0, named=True)
    chosen = [name for name in chosen if finite[name] and not _has_leading_zeros(cells[name])]
    if not chosen:
        return {}
    understood = _understood(numbers.select(chosen))
    # Whole numbers have no decimals that could be thousands.
    doubtful = [name for name, found in understood.items() if found.values.dtype.is_float()]
    for name in (name for name in doubtful if marks_may_part_thousands(cells[name])):
        del understood[name]
    return understood


def _has_leading_zeros(cells: pl.Series) -> bool:
    with_zero = cells.filter(cells.str.starts_with("0"))
    return bool(with_zero.str.contains(r"^0\d").any())


def _likely(cells: pl.DataFrame, names: list[str]) -> list[str]:
    """Return the columns whose first cells are numbers, so that no others are read for nothing."""
    if not names:
        return []
    some = cells.head(_SAMPLE).select(names)
    unread = some.select(pl.all().cast(pl.Float64, strict=False)).null_count().row(0)
    empty = some.null_count().row(0)
    return [name for name, before, after in zip(names, empty, unread, strict=True) if before == after]


def _understood(numbers: pl.DataFrame) -> dict[str, Judged]:
    column = pl.all()
    whole = numbers.select((column == column.round()).all() & (column.abs().max() < 2**53)).row(0, named=True)
    numbers = numbers.cast({name: pl.Int64 for name in numbers.columns if whole[name]})
    distinct = numbers.select(column.drop_nulls().n_unique()).row(0, named=True)
    found = {}
    for name in numbers.columns:
        empty = numbers[name].null_count()
        described = Column(name, "number", unit_in_name(name), empty, distinct[name])
        found[name] = Judged(described, numbers[name], ())
    return found


def _needs_a_look(name: str, reading: Reading) -> bool:
    undone = any(key.endswith(f"/{name}") for key in reading.left)
    return undone or says_identifier(name) or says_date_or_year(name)
