"""Values of one kind as values of another, and which of them do not fit."""

from __future__ import annotations

from dataclasses import dataclass

import polars as pl

from ypsil.core.tables.dates_in_text import parse_dates
from ypsil.core.tables.encoded import encode
from ypsil.core.tables.model import Field, Kind
from ypsil.core.tables.numbers_in_text import parse_numbers, whole_if_whole

YES_WORDS = ("yes", "y", "true", "1")
NO_WORDS = ("no", "n", "false", "0")
LIST_MARK = "; "


@dataclass(frozen=True, slots=True)
class Converted:
    """A column in its new kind; ``unfit`` are the values that became missing, with how often each stood."""

    values: pl.Series
    field: Field
    unfit: tuple[tuple[str, int], ...] = ()


def as_text(cells: pl.Series, field: Field) -> pl.Series:
    """Return values as the text that people would write for them; dates in ISO 8601, shares with %.

    >>> as_text(pl.Series([0.45, None]), Field("number", "%")).to_list()
    ['45%', None]
    >>> as_text(pl.Series([True, False]), Field("yesno")).to_list()
    ['Yes', 'No']
    """
    if field.kind == "number":
        return _number_text(cells, field)
    if field.kind == "yesno":
        words = pl.when(cells).then(pl.lit("Yes")).when(~cells).then(pl.lit("No"))
        return pl.select(words).to_series().alias(cells.name)
    if field.kind == "list":
        return cells.list.join(LIST_MARK, ignore_nulls=True)
    if field.kind == "date":
        return _date_text(cells, field)
    return cells


def _number_text(cells: pl.Series, field: Field) -> pl.Series:
    if field.unit == "%":
        return _plain_number(cells * 100) + "%"
    return _plain_number(cells)


def _plain_number(cells: pl.Series) -> pl.Series:
    """Return numbers without a trailing ``.0``, and without the last figures' noise."""
    if cells.dtype.is_integer():
        return cells.cast(pl.String)
    return cells.round(10).cast(pl.String).str.replace(r"\.0$", "")


def _date_text(cells: pl.Series, field: Field) -> pl.Series:
    if cells.dtype == pl.Time:
        return cells.dt.strftime("%H:%M")
    if field.form == "quarter":
        return pl.select(pl.format("{}-Q{}", cells.dt.year(), cells.dt.quarter())).to_series().alias(cells.name)
    patterns = {"year": "%Y", "month": "%Y-%m", "week": "%G-W%V", "moment": "%Y-%m-%d %H:%M"}
    return cells.dt.strftime(patterns.get(field.form or "", "%Y-%m-%d"))


def convert(cells: pl.Series, field: Field, kind: Kind, *, day_first: bool | None = None) -> Converted:
    """Return a column as another kind. A value that does not fit is missing there, and listed.

    >>> found = convert(pl.Series("a", ["3", "4", "shut"]), Field("category"), "number")
    >>> found.values.to_list(), found.unfit
    ([3, 4, None], (('shut', 1),))
    """
    if kind == field.kind:
        return Converted(cells, field)
    words = {"category", "text", "place"}
    if kind in words and field.kind in words:
        return Converted(cells, Field(kind))
    text = as_text(cells, field)
    if kind in words:
        return Converted(text, Field(kind))
    if kind == "list":
        return Converted(_as_list(text), Field("list"))
    if kind == "number" and field.kind == "date" and field.form == "year":
        return Converted(cells.dt.year().cast(pl.Int64), Field("number"))
    return _from_text(text, kind, day_first)


def _as_list(text: pl.Series) -> pl.Series:
    for separator in (";", "|", "\n", ","):
        if bool(text.str.contains(separator, literal=True).any()):
            break
    parts = text.str.split(separator).list.eval(pl.element().str.strip_chars())
    return parts.list.eval(pl.element().filter(pl.element() != ""))


def _from_text(text: pl.Series, kind: Kind, day_first: bool | None) -> Converted:
    encoded = encode(text)
    texts = encoded.texts
    field = Field(kind)
    if kind == "number":
        parsed = parse_numbers(texts, encoded.counts)
        values = whole_if_whole(parsed.values)
        field = Field(kind, parsed.units[0] if parsed.units else None)
    elif kind == "yesno":
        low = texts.str.to_lowercase()
        values = low.is_in(list(YES_WORDS)).set(~low.is_in([*YES_WORDS, *NO_WORDS]), None)
    else:
        values, field = _dates(texts, day_first)
    lost = texts.filter(values.is_null()).to_list()
    counts = encoded.counts[values.is_null().to_numpy()].tolist()
    unfit = tuple(sorted(zip(lost, counts, strict=True), key=lambda one: (-one[1], one[0])))
    return Converted(encoded.spread(values).alias(text.name), field, unfit)


def _dates(texts: pl.Series, day_first: bool | None) -> tuple[pl.Series, Field]:
    """Read what can be read as dates, however few they are."""
    readable = texts
    for _ in range(2):
        found = parse_dates(readable.drop_nulls(), name="date", day_first=day_first)
        if found is not None:
            break
        readable = texts.set(~texts.str.contains(r"\d"), None)
    if found is None:
        return pl.Series([None] * len(texts), dtype=pl.Date), Field("date")
    position = readable.is_not_null().cum_sum() - 1
    values = found.values.gather(position.set(readable.is_null(), None))
    return values, Field("date", form=None if found.form == "day" else found.form)
