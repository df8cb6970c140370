"""Numbers as people write them: ``1,234,567``, ``1.204,5``, ``£1,200``, ``(300)``, ``45%``, ``−3``, ``20 km``.

The grammar is written down in ``docs/formats/numbers.md``, from which its tests are made.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields
from typing import Literal

import numpy as np
import polars as pl

from ypsil.core.tables.units import PERCENT, Around, before_digits, behind_digits, factor_between, same_word

Mark = Literal[".", ","]
PLAIN = r"^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$"
# Head, digits with their marks, power of ten, tail.
_PIECES = (
    r"^(?P<head>[^\d.,]{0,8}(?:\. ?)?)"
    r"(?P<digits>\d(?:[\d.,' ]*\d)?[.,]?|[.,]\d+)"
    r"(?:[eE](?P<power>[+-]?\d{1,3})| ?[×x*·] ?10(?:\^? ?(?P<power_of_ten>[+-]?\d{1,3})))?"
    r"(?P<tail>[^\d][^\d]{0,23}[23]?\D{0,3}|)$"
)
# Groups of three between equal marks, or the last three and then pairs (India); no group begins a number with zero.
_GROUPS_BESIDE_POINT = r"[1-9]\d{0,2}(?:,\d{3})+|[1-9]\d?(?:,\d{2})+,\d{3}"
_GROUPS_BESIDE_COMMA = r"[1-9]\d{0,2}(?:\.\d{3})+"
_GROUPS_BESIDE_EITHER = r"[1-9]\d{0,2}(?: \d{3})+|[1-9]\d{0,2}(?:'\d{3})+|\d+"
_WITH_POINT = rf"^(?:(?:{_GROUPS_BESIDE_POINT}|{_GROUPS_BESIDE_EITHER})(?:\.\d*)?|\.\d+)$"
_WITH_COMMA = rf"^(?:(?:{_GROUPS_BESIDE_COMMA}|{_GROUPS_BESIDE_EITHER})(?:,\d*)?|,\d+)$"
# One point before exactly three digits may part thousands or begin decimals.
_POINT_AND_THREE = r"^[+-]?[1-9]\d{0,2}\.\d{3}$"
_TIDIED = ((r"[\s\u00a0\u202f\u2009\u2007\u2008\u2006\u200a]+", " "), ("[−–‒﹣]", "-"), ("[’ʼ´`]", "'"))
_RAISED = dict(zip("⁺⁻⁰¹⁴⁵⁶⁷⁸⁹", "+-01456789", strict=True)) | {"10²": "10^2", "10³": "10^3"}
# Texts that begin or end in so many ways are words.
_MOST_WAYS = 3_000


@dataclass(frozen=True, slots=True)
class ParsedNumbers:
    """The numbers of a column's different texts, null where a text holds none; percentages are shares of one.

    ``dressed`` marks the texts that were more than digits; ``decimal`` is the mark they use, and ``is_either`` tells
    that points may part thousands as well. ``units`` are the signs that numbers carry, ``bare`` marks numbers without
    one; ``turned`` are the units that were turned into the first of ``units``.
    """

    values: pl.Series
    units: tuple[str, ...]
    dressed: pl.Series
    bare: pl.Series
    decimal: Mark
    is_either: bool = False
    turned: tuple[str, ...] = ()


def parse_numbers(texts: pl.Series, counts: np.ndarray | None = None, *, decimal: Mark | None = None) -> ParsedNumbers:
    """Read different texts as numbers; the decimal mark is decided from all of them, unless it is given.

    >>> parse_numbers(pl.Series(["1.234,5", "300", None, "n/a"])).values.to_list()
    [1234.5, 300.0, None, None]
    >>> parse_numbers(pl.Series(["1,234,567", "12,34,567", "1'234"])).values.to_list()
    [1234567.0, 1234567.0, 1234.0]
    >>> parse_numbers(pl.Series(["45%", "7 ‰"])).values.to_list(), parse_numbers(pl.Series(["£1.2m"])).values.to_list()
    ([0.45, 0.007], [1200000.0])
    >>> parse_numbers(pl.Series(["20 km", "500 m", "3 km"])).values.to_list()
    [20.0, 0.5, 3.0]
    """
    plain = texts.cast(pl.Float64, strict=False)
    plain = plain.set(~plain.is_finite(), None)
    nothing = pl.Series([False]).new_from_index(0, len(texts))
    is_either = decimal is None and marks_may_part_thousands(texts)
    if decimal is None and is_either and _points_part_thousands(texts):
        decimal, is_either = ",", False
    if plain.null_count() == texts.null_count() and decimal != ",":
        return ParsedNumbers(plain, (), nothing, ~nothing, ".", is_either)
    weights = counts if counts is not None else np.ones(len(texts), dtype=np.int64)
    pieces = _pieces(texts)
    if pieces is None:
        return ParsedNumbers(plain.clear(len(texts)), (), nothing, nothing, ".")
    point, comma = (pieces["digits"].str.contains(shape).fill_null(False) for shape in (_WITH_POINT, _WITH_COMMA))
    if decimal is None:
        decimal = "," if weights[comma.to_numpy()].sum() > weights[point.to_numpy()].sum() else "."
    readable = (comma if decimal == "," else point) & _is_sane(pieces)
    readable &= _with_known_words(pieces, readable)
    values = _values(pieces, decimal).set(~readable, None)
    unit = pieces["unit"].set(~readable, None)
    values, units, turned = _in_one_unit(values, unit, weights)
    dressed = readable & ~texts.str.contains(PLAIN).fill_null(False)
    is_bare = readable & (unit.fill_null("") == "")
    if units == (PERCENT,):
        # Among percentages a number without the sign is one as well.
        values = values.zip_with(~is_bare, values / 100)
    return ParsedNumbers(values, units, dressed, is_bare, decimal, is_either and decimal == ".", turned)


def marks_may_part_thousands(texts: pl.Series, mark: Mark = ".") -> bool:
    """Tell whether every text with the mark in it has one before exactly three digits, and there are at least two.

    >>> marks_may_part_thousands(pl.Series(["1.204", "37", "12.500"])), marks_may_part_thousands(pl.Series(["0.204"]))
    (True, False)
    """
    shape = rf"^[+-]?[1-9]\d{{0,2}}\{mark}\d{{3}}$"
    some = texts.head(100)
    for sample in (some, texts) if len(texts) > len(some) else (some,):
        marked = sample.drop_nulls().filter(sample.drop_nulls().str.contains(mark, literal=True))
        if len(marked) and not bool(marked.str.contains(shape).all()):
            return False
    return len(marked) >= 2


def looks_like_number(text: str) -> bool:
    """Tell whether a cell is a number by itself: an amount of money or a percentage too, but none with another unit.

    >>> looks_like_number("12,34,567.5"), looks_like_number("(£3)"), looks_like_number("12 months")
    (True, True, False)
    """
    found = re.match(_PIECES, _tidy(text))
    if found is None or not (re.match(_WITH_POINT, found["digits"]) or re.match(_WITH_COMMA, found["digits"])):
        return False
    before, behind = before_digits(found["head"]), behind_digits(found["tail"])
    return before is not None and behind is not None and behind.unit in ("", PERCENT)


def _tidy(text: str) -> str:
    for shape, plain in _TIDIED:
        text = re.sub(shape, plain, text)
    return text.strip()


def whole_if_whole(values: pl.Series) -> pl.Series:
    """Return numbers as integers where all are whole and exact.

    >>> whole_if_whole(pl.Series([1.0, None])).dtype, whole_if_whole(pl.Series([1.5])).dtype
    (Int64, Float64)
    """
    if not values.dtype.is_float():
        return values
    whole = bool((values == values.round()).all()) and float(values.abs().max() or 0) < 2**53  # type: ignore[arg-type]
    return values.cast(pl.Int64) if whole else values


def _points_part_thousands(texts: pl.Series) -> bool:
    """Tell whether 950 stands among numbers such as 1.200: with three decimals written out it would be 950.000, and
    without closing zeros 1.200 would be 1.2 (common practice, no source)."""
    pointed = texts.str.contains(_POINT_AND_THREE)
    below = texts.str.contains(r"^[+-]?\d{1,3}$")
    every = bool((pointed | below).drop_nulls().all())
    return every and bool(below.any()) and bool(texts.str.contains(r"\.\d*0$").any())


def _pieces(texts: pl.Series) -> pl.DataFrame | None:
    """Return head, digits, power and tail of each text with what they mean, or None where the texts are words."""
    text = texts
    for shape, plain in _TIDIED:
        text = text.str.replace_all(shape, plain)
    found = text.str.strip_chars().str.replace_many(_RAISED).str.extract_groups(_PIECES).struct.unnest()
    heads = found["head"].drop_nulls().unique().to_list()
    if len(heads) > _MOST_WAYS:
        return None
    found = _joined(found, {(head,): before_digits(head) for head in heads}, ("head",), "before-")
    found = found.with_columns((pl.col("before-currency").fill_null("") != "").alias("is_money"))
    tails = found.select("tail", "is_money").drop_nulls().unique().rows()
    if len(tails) > _MOST_WAYS:
        return None
    behind = {pair: behind_digits(pair[0], is_money=pair[1]) for pair in tails}
    found = _joined(found, behind, ("tail", "is_money"), "behind-")
    one_of = (pl.col(f"{place}-{name}").replace("", None) for name in ("unit", "currency") for place in _PLACES)
    return found.with_columns(unit=pl.coalesce(*one_of).fill_null(""))


_PLACES = ("behind", "before")


def _joined(
    found: pl.DataFrame, meanings: Mapping[tuple[object, ...], Around | None], keys: tuple[str, ...], prefix: str
) -> pl.DataFrame:
    """Add what the texts of some columns mean; null where they mean nothing that stands around a number."""
    names = [field.name for field in fields(Around)]
    types = {"minus": pl.Boolean, "is_word": pl.Boolean, "currency": pl.String, "unit": pl.String}
    rows = [(*key, *asdict(around).values()) for key, around in meanings.items() if around is not None]
    schema = {key: found.schema[key] for key in keys} | {prefix + name: types.get(name, pl.Int64) for name in names}
    return found.join(pl.DataFrame(rows, schema, orient="row"), on=list(keys), how="left", maintain_order="left")


def _is_sane(pieces: pl.DataFrame) -> pl.Series:
    """Tell where head and tail have a meaning, brackets close, and there is one sign and one unit at most."""
    signs, opened, closed = pl.col("before-signs") + pl.col("behind-signs"), "before-brackets", "behind-brackets"
    units = [pl.col(f"{place}-{name}") != "" for place in _PLACES for name in ("currency", "unit")]
    is_money = (pl.col("before-currency") != "") | (pl.col("behind-currency") != "")
    per_cent_of_money = is_money & (pl.col("behind-unit") != "")
    fits = (signs <= 1) & (pl.col(opened) == pl.col(closed)) & (pl.col(opened) <= 1) & ~per_cent_of_money
    return pieces.select(fits & (pl.sum_horizontal(units) <= 1)).to_series().fill_null(False)


def _with_known_words(pieces: pl.DataFrame, readable: pl.Series) -> pl.Series:
    """Tell which texts carry no unknown word as their unit; all do not where they all carry the same ("12 pages")."""
    is_word = pieces["behind-is_word"].fill_null(False)
    words = pieces.filter(readable & is_word)["unit"].unique().to_list()
    alone = len({same_word(word) for word in words}) == 1 and bool((is_word | ~readable).all())
    return ~is_word | alone


def _values(pieces: pl.DataFrame, decimal: Mark) -> pl.Series:
    digits = pieces["digits"].str.replace_all("[' ]", "")
    digits = digits.str.replace_all(".", "", literal=True) if decimal == "," else digits.str.replace_all(",", "")
    power = pl.coalesce(pl.col("power", "power_of_ten").cast(pl.Int64, strict=False), pl.lit(0)) + pl.col(
        "behind-power"
    )
    minus = pl.col("before-minus") | pl.col("behind-minus") | (pl.col("before-brackets") > 0)
    parts = pieces.select(power.fill_null(0).alias("power"), minus.fill_null(False).alias("minus"))
    whole = pl.DataFrame({"digits": digits.str.replace(",", ".", literal=True), **parts.to_dict()})
    text = pl.format("{}e{}", pl.col("digits"), pl.col("power"))
    values = whole.select(text.cast(pl.Float64, strict=False) * pl.when("minus").then(-1).otherwise(1)).to_series()
    return values.set(~values.is_finite(), None)


def _in_one_unit(
    values: pl.Series, unit: pl.Series, weights: np.ndarray
) -> tuple[pl.Series, tuple[str, ...], tuple[str, ...]]:
    """Turn amounts of one dimension into the commonest unit (metres into cm); units of several dimensions stay."""
    there = unit.drop_nulls().unique(maintain_order=True).to_list()
    units = {name: int(weights[(unit == name).fill_null(False).to_numpy()].sum()) for name in there if name}
    units = _same_words_together(units)
    ordered = tuple(sorted(units, key=lambda name: -units[name]))
    factors = {name: factor_between(name, ordered[0]) for name in ordered[1:]}
    known = {name: factor for name, factor in factors.items() if factor is not None}
    if not known or len(known) < len(factors):
        return values, ordered, ()
    factor = unit.replace_strict(known, default=1.0, return_dtype=pl.Float64)
    return (values * factor).round(12), ordered[:1], tuple(known)


def _same_words_together(units: dict[str, int]) -> dict[str, int]:
    found: dict[str, int] = {}
    for name in sorted(units, key=len, reverse=True):
        kept = next((other for other in found if same_word(other) == same_word(name)), name)
        found[kept] = found.get(kept, 0) + units[name]
    return found
