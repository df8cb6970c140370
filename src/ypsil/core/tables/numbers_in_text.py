"""Numbers as people write them: ``1,204``, ``1.204,5``, ``£1,200``, ``(300)``, ``45%``, ``−3``."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import polars as pl

_PLAIN = r"^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$"
_POINT = r"^[+-]?(\d{1,3}(,\d{3})+(\.\d+)?|\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$"
_COMMA = r"^[+-]?(\d{1,3}(\.\d{3})+(,\d+)?|\d+(,\d+)?)$"
_CURRENCY = r"[£$€¥]"


@dataclass(frozen=True, slots=True)
class ParsedNumbers:
    """The numbers of a column, null where a cell holds none.

    ``dressed`` counts the numbers that were more than digits; ``decimal`` is the mark they use.
    """

    values: pl.Series
    unit: str | None
    dressed: int
    decimal: Literal[".", ","]


def bare(cells: pl.Series) -> pl.Series:
    """Return the cells without currency, percent, spaces and accountant's brackets.

    >>> bare(pl.Series(["£1,200", "(300)", " 1 204 ", "−3"])).to_list()
    ['1,200', '-300', '1204', '-3']
    """
    text = cells.str.replace_all(r"[\s\u00a0\u202f'’%£$€¥]", "").str.replace_all("[−–]", "-")
    return text.str.replace(r"^-?\((.+)\)$", "-${1}")


def parse_numbers(cells: pl.Series) -> ParsedNumbers:
    """Read a column of text as numbers; the decimal mark is decided from the whole column.

    >>> parse_numbers(pl.Series(["1.234,5", "300", None, "n/a"])).values.to_list()
    [1234.5, 300.0, None, None]
    >>> parse_numbers(pl.Series(["45%", "7 %"])).unit, parse_numbers(pl.Series(["£1,200", "(£300)"])).values.to_list()
    ('%', [1200.0, -300.0])
    """
    plain = cells.cast(pl.Float64, strict=False)
    plain = plain.set(~plain.is_finite(), None)
    if plain.null_count() == cells.null_count():
        return ParsedNumbers(plain, None, 0, ".")
    text = bare(cells)
    point = text.str.contains(_POINT).fill_null(False)
    comma = text.str.contains(_COMMA).fill_null(False)
    uses_comma = int(comma.sum()) > int(point.sum())
    readable = comma if uses_comma else point
    if uses_comma:
        digits = text.str.replace_all(".", "", literal=True).str.replace(",", ".", literal=True)
    else:
        digits = text.str.replace_all(",", "", literal=True)
    values = digits.set(~readable, None).cast(pl.Float64, strict=False)
    dressed = int((readable & ~cells.str.contains(_PLAIN).fill_null(False)).sum())
    return ParsedNumbers(values, _unit(cells, values), dressed, "," if uses_comma else ".")


def _unit(cells: pl.Series, values: pl.Series) -> str | None:
    """Return the sign that the numbers carry, if it is one and the same."""
    numbers = cells.filter(values.is_not_null())
    if bool(numbers.str.contains("%", literal=True).any()):
        return "%"
    signs = numbers.str.extract(f"({_CURRENCY})").drop_nulls().unique()
    return str(signs[0]) if len(signs) == 1 else None
