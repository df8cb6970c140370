"""Telling what a column holds, from its cells and its name."""

from __future__ import annotations

import re
from dataclasses import dataclass

import polars as pl

from ypsil.core.tables.dates_in_text import parse_dates
from ypsil.core.tables.model import Column, Kind, Remark
from ypsil.core.tables.numbers_in_text import parse_numbers

# Signs that stand for "no value" in any column (common practice, no source).
_MISSING_ANYWHERE = ["n/a", "#n/a", "#value!", "#div/0!", "#ref!", "#name?", "null", "nan", "n.a."]
# Signs that do so only among numbers and dates: as text they may be answers.
_MISSING_AMONG_VALUES = [
    "-",
    "–",
    "—",
    "na",
    "none",
    "nil",
    "?",
    "..",
    "...",
    "x",
    "missing",
    "no data",
    "tbc",
]
_YES = ["yes", "y", "true"]
_NO = ["no", "n", "false"]
_IDENTIFIER_NAME = re.compile(r"(?i)(^|[\s_-])(id|code|postcode|zip|phone|year|isbn)$")
_CURRENCY_IN_NAME = re.compile(r"\(([£€$¥])\)\s*$")
_MOSTLY = 0.9
_LIST_SEPARATORS = (";", "|")


@dataclass(frozen=True, slots=True)
class Judged:
    """One column, understood."""

    column: Column
    values: pl.Series
    remarks: tuple[Remark, ...]


class _Notebook:
    """Collects the remarks of one column with their places."""

    def __init__(self, name: str, rows: pl.Series) -> None:
        self.name = name
        self.rows = rows
        self.remarks: list[Remark] = []

    def note(self, code: str, severity: str, message: str, cells: pl.Series | None = None) -> None:
        """Add a remark about the marked cells (a Boolean series), or about the whole column."""
        count = int(cells.sum()) if cells is not None else 1
        first = int(self.rows.filter(cells)[0]) if cells is not None and count else None
        self.remarks.append(Remark(code, severity, message, self.name, first, count))  # type: ignore[arg-type]


def judge(name: str, cells: pl.Series, rows: pl.Series, text_cells: pl.Series | None = None) -> Judged:
    """Decide a column's kind and turn its text into values of that kind.

    ``cells`` is a String series, ``rows`` the file's row numbers; ``text_cells`` marks the cells that a
    workbook kept as text.
    """
    book = _Notebook(name, rows)
    low = cells.str.to_lowercase()
    coded = low.is_in(_MISSING_ANYWHERE)
    coded_value = coded | low.is_in(_MISSING_AMONG_VALUES)
    present = cells.set(coded_value, None)
    if present.null_count() == len(present):
        _note_missing(book, cells, coded)
        return _judged(book, "category", cells.set(coded, None))
    for reader in (_read_identifier, _read_number, _read_yesno, _read_date):
        found = reader(book, present, text_cells)
        if found is not None:
            _note_missing(book, cells, coded_value)
            return found(book)
    _note_missing(book, cells, coded)
    return _read_words(book, cells.set(coded, None))


def _judged(book: _Notebook, kind: Kind, values: pl.Series, unit: str | None = None) -> Judged:
    values = values.alias(book.name)
    present = values.drop_nulls()
    distinct = present.explode().n_unique() if kind == "list" else present.n_unique()
    column = Column(book.name, kind, unit, values.null_count(), distinct)
    return Judged(column, values, tuple(book.remarks))


def _note_missing(book: _Notebook, cells: pl.Series, coded: pl.Series) -> None:
    coded = coded.fill_null(False)
    if not coded.any():
        return
    codes = ", ".join(f"“{code}”" for code in cells.filter(coded).unique().sort().to_list()[:5])
    book.note("missing-codes", "info", f"{codes} was read as missing.", coded)


class _Found:
    """A decision that becomes a Judged once the missing codes are noted, so that remarks keep their order."""

    def __init__(self, kind: Kind, values: pl.Series, unit: str | None = None) -> None:
        self.kind = kind
        self.values = values
        self.unit = unit

    def __call__(self, book: _Notebook) -> Judged:
        return _judged(book, self.kind, self.values, self.unit)


def _read_identifier(book: _Notebook, cells: pl.Series, text_cells: pl.Series | None) -> _Found | None:
    """Numbers that name things are never added up: leading zeros, or a name that says so."""
    present = cells.drop_nulls()
    whole = present.head(2000).str.contains(r"^\d+$").all()
    if not whole or not present.str.contains(r"^\d+$").all():
        return None
    zeros = cells.str.contains(r"^0\d").fill_null(False)
    if zeros.any():
        book.note("identifier-column", "info", "Numbers with leading zeros are kept as they are written.", zeros)
        return _Found("category", cells)
    if _IDENTIFIER_NAME.search(book.name):
        book.note("identifier-column", "info", "These numbers name things, so they are kept as labels.")
        return _Found("category", cells)
    return None


def _read_number(book: _Notebook, cells: pl.Series, text_cells: pl.Series | None) -> _Found | None:
    present = len(cells) - cells.null_count()
    parsed = parse_numbers(cells)
    if parsed.values.count() < _MOSTLY * present:
        return None
    _note_dressed(book, cells, text_cells, parsed.values, parsed.dressed)
    if parsed.decimal == ",":
        book.note("decimal-comma", "info", "A comma was read as the decimal mark, as the whole column shows.")
    values = parsed.values
    if parsed.unit == "%":
        values = values / 100
        book.note("percent-text", "info", "Percentages were read as shares of one; they are shown with %.")
    elif parsed.unit:
        book.note("currency", "info", f"Amounts carry {parsed.unit}; it is kept as the unit.")
    _note_unfit(book, cells, values, "numbers")
    if bool((values == values.round()).all()) and float(values.abs().max() or 0) < 2**53:  # type: ignore[arg-type]
        values = values.cast(pl.Int64)
    named = _CURRENCY_IN_NAME.search(book.name)
    return _Found("number", values, parsed.unit or (named.group(1) if named else None))


def _note_dressed(
    book: _Notebook, cells: pl.Series, text_cells: pl.Series | None, values: pl.Series, dressed: int
) -> None:
    readable = values.is_not_null()
    if text_cells is not None:
        stored = readable & text_cells
        if stored.any():
            book.note("numbers-as-text", "info", "Numbers stored as text were read as numbers.", stored)
    elif dressed:
        marked = readable & ~cells.str.contains(r"^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$").fill_null(False)
        book.note(
            "numbers-as-text",
            "info",
            "Numbers written with separators or signs were read as numbers.",
            marked,
        )


def _note_unfit(book: _Notebook, cells: pl.Series, values: pl.Series, what: str) -> None:
    lost = values.is_null() & cells.is_not_null()
    if lost.any():
        shown = ", ".join(f"“{cell[:40]}”" for cell in cells.filter(lost).unique(maintain_order=True).to_list()[:3])
        book.note("mixed-kinds", "problem", f"Among {what} stand {shown}; they were read as missing.", lost)


def _read_yesno(book: _Notebook, cells: pl.Series, text_cells: pl.Series | None) -> _Found | None:
    low = cells.str.to_lowercase()
    if not low.drop_nulls().head(2000).is_in(_YES + _NO).all() or not low.drop_nulls().is_in(_YES + _NO).all():
        return None
    values = pl.select(pl.when(low.is_not_null()).then(low.is_in(_YES))).to_series()
    return _Found("yesno", values)


def _read_date(book: _Notebook, cells: pl.Series, text_cells: pl.Series | None) -> _Found | None:
    parsed = parse_dates(cells)
    if parsed is None or parsed.values.count() < _MOSTLY * (len(cells) - cells.null_count()):
        return None
    if parsed.order == "ambiguous":
        book.note(
            "date-order-ambiguous",
            "warning",
            "Nothing in the column shows whether the day or the month comes first; day first was assumed.",
        )
    elif parsed.order:
        first = "day" if parsed.order == "day-first" else "month"
        book.note("date-order-inferred", "info", f"Dates were read with the {first} first, as the column shows.")
    _note_unfit(book, cells, parsed.values, "dates")
    return _Found("date", parsed.values)


def _read_words(book: _Notebook, cells: pl.Series) -> Judged:
    present = cells.drop_nulls()
    parts = _split_answers(present)
    if parts is not None:
        separator, distinct = parts
        book.note(
            "several-answers",
            "info",
            f"Cells hold several answers, parted by “{separator}”; {distinct} different ones were found.",
        )
        lists = (
            cells.str.split(separator)
            .list.eval(pl.element().str.strip_chars())
            .list.eval(pl.element().filter(pl.element() != ""))
        )
        return _judged(book, "list", lists)
    if _is_prose(present):
        return _judged(book, "text", cells)
    _note_spellings(book, cells)
    return _judged(book, "category", cells)


def _split_answers(present: pl.Series) -> tuple[str, int] | None:
    """Return the separator and the number of different answers, when cells hold several from a short list."""
    for separator in _LIST_SEPARATORS:
        if present.str.contains(separator, literal=True).mean() < 0.2:  # type: ignore[operator]
            continue
        parts = present.str.split(separator).explode().str.strip_chars()
        distinct = parts.n_unique()
        if distinct <= 60 and len(parts) >= 3 * distinct:
            return separator, distinct
    return None


def _is_prose(present: pl.Series) -> bool:
    """Tell writing from labels: it is long and hardly repeats (thresholds: common practice, no source)."""
    sample = present.head(5000)
    words = float((sample.str.count_matches(r"\s+") + 1).mean() or 0)  # type: ignore[arg-type]
    different = sample.n_unique()
    return words >= 4 and (different > 0.5 * len(sample) or (words >= 5 and different > 30))


def _note_spellings(book: _Notebook, cells: pl.Series) -> None:
    """Propose values that differ only in case, spaces or punctuation."""
    counts = cells.drop_nulls().value_counts()
    if counts.height > 5000:
        return
    groups: dict[str, list[str]] = {}
    for value in counts[cells.name].to_list():
        groups.setdefault(re.sub(r"[\W_]+", "", value).casefold(), []).append(value)
    alike = [sorted(group) for key, group in groups.items() if key and len(group) > 1]
    if alike:
        shown = " / ".join(f"“{value}”" for value in min(alike))
        rare = [value for group in alike for value in group[1:]]
        book.note(
            "near-duplicate-values",
            "warning",
            f"Some values look like one thing spelled twice: {shown}.",
            cells.is_in(rare).fill_null(False),
        )
