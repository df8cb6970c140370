"""Numbers as people write them: ``1,204``, ``1.204,5``, ``£1,200``, ``(300)``, ``45%``, ``−3``."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
import polars as pl

PLAIN = r"^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$"
_POINT = r"^[+-]?(\d{1,3}(,\d{2})*,\d{3}(\.\d+)?|\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$"
_COMMA = r"^[+-]?(\d{1,3}(\.\d{3})+(,\d+)?|\d+(,\d+)?)$"
# Signs and the codes of ISO 4217 that people write before or after an amount.
_CURRENCY = r"[£$€¥₹]|\b(?:GBP|EUR|USD|CHF|JPY|INR|SEK|NOK|DKK|PLN|CZK|AUD|CAD|NZD)\b"


@dataclass(frozen=True, slots=True)
class ParsedNumbers:
    """The numbers of a column's different texts, null where a text holds none.

    ``dressed`` marks the texts that were more than digits; ``decimal`` is the mark they use; ``units`` are
    the signs that numbers carry, ``bare`` marks numbers without one.
    """

    values: pl.Series
    units: tuple[str, ...]
    dressed: pl.Series
    bare: pl.Series
    decimal: Literal[".", ","]


def bare(texts: pl.Series) -> pl.Series:
    """Return the texts without currency, percent, spaces and accountant's brackets or trailing minus.

    >>> bare(pl.Series(["£1,200", "(300)", " 1 204 ", "−3", "15-", "EUR 9"])).to_list()
    ['1,200', '-300', '1204', '-3', '-15', '9']
    """
    text = texts.str.replace_all(_CURRENCY, "").str.replace_all(r"[\s\u00a0\u202f'’%]", "")
    text = text.str.replace_all("[−–]", "-").str.replace(r"^-?\((.+)\)$", "-${1}")
    return text.str.replace(r"^([\d.,]+)-$", "-${1}")


def parse_numbers(
    texts: pl.Series, counts: np.ndarray | None = None, *, decimal: Literal[".", ","] | None = None
) -> ParsedNumbers:
    """Read different texts as numbers; the decimal mark is decided from all of them, unless it is given.

    >>> parse_numbers(pl.Series(["1.234,5", "300", None, "n/a"])).values.to_list()
    [1234.5, 300.0, None, None]
    >>> parse_numbers(pl.Series(["45%", "7 %"])).units, parse_numbers(pl.Series(["£1,200", "(£300)"])).values.to_list()
    (('%',), [1200.0, -300.0])
    """
    plain = texts.cast(pl.Float64, strict=False)
    plain = plain.set(~plain.is_finite(), None)
    nothing = pl.Series([False]).new_from_index(0, len(texts))
    if plain.null_count() == texts.null_count():
        return ParsedNumbers(plain, (), nothing, ~nothing, ".")
    weights = counts if counts is not None else np.ones(len(texts), dtype=np.int64)
    text = bare(texts)
    point = text.str.contains(_POINT).fill_null(False)
    comma = text.str.contains(_COMMA).fill_null(False)
    by_weight = weights[comma.to_numpy()].sum() > weights[point.to_numpy()].sum()
    uses_comma = decimal == "," or (decimal is None and bool(by_weight))
    readable = comma if uses_comma else point
    if uses_comma:
        digits = text.str.replace_all(".", "", literal=True).str.replace(",", ".", literal=True)
    else:
        digits = text.str.replace_all(",", "", literal=True)
    values = digits.set(~readable, None).cast(pl.Float64, strict=False)
    dressed = readable & ~texts.str.contains(PLAIN).fill_null(False)
    signed = texts.str.contains(f"%|{_CURRENCY}").fill_null(False)
    return ParsedNumbers(
        values, _units(texts.filter(readable)), dressed, readable & ~signed, "," if uses_comma else "."
    )


def whole_if_whole(values: pl.Series) -> pl.Series:
    """Return numbers as integers where all are whole and exact.

    >>> whole_if_whole(pl.Series([1.0, None])).dtype, whole_if_whole(pl.Series([1.5])).dtype
    (Int64, Float64)
    """
    if not values.dtype.is_float():
        return values
    whole = bool((values == values.round()).all()) and float(values.abs().max() or 0) < 2**53  # type: ignore[arg-type]
    return values.cast(pl.Int64) if whole else values


def _units(numbers: pl.Series) -> tuple[str, ...]:
    """Return the different signs that the numbers carry."""
    percent = ("%",) if bool(numbers.str.contains("%", literal=True).any()) else ()
    signs = numbers.str.extract(f"({_CURRENCY})").drop_nulls().unique(maintain_order=True).to_list()
    return (*percent, *signs)
