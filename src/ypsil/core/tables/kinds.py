"""Telling what a column holds, from its cells and its name."""

from __future__ import annotations

import re
from dataclasses import dataclass

import polars as pl

from ypsil.core.tables.dates_in_text import ParsedDates, parse_bare_numbers, parse_dates
from ypsil.core.tables.encoded import Encoded, encode
from ypsil.core.tables.model import Column, Form, Kind, Offer, Remark, State
from ypsil.core.tables.natural_order import words_off_the_scale
from ypsil.core.tables.numbers_in_text import ParsedNumbers, parse_numbers, whole_if_whole
from ypsil.core.tables.reading import Reading
from ypsil.core.tables.shown_names import unit_in_name
from ypsil.core.tables.spellings import alike
from ypsil.core.tables.units import AMOUNTS_OF_MONEY, PERCENT

# Signs that stand for "no value" in any column (common practice, no source).
_MISSING_ANYWHERE = ["n/a", "#n/a", "#value!", "#div/0!", "#ref!", "#name?", "null", "nan", "n.a."]
# Signs that do so only among numbers and dates: as text they may be answers.
_MISSING_AMONG_VALUES = [".", "-", "–", "—", "na", "none", "nil", "?", "..", "...", "x", "missing", "no data", "tbc"]
_YES = ["yes", "y", "true"]
_NO = ["no", "n", "false"]
_IDENTIFIER_NAME = re.compile(r"(?i)(^|[\s_-])(id|code|postcode|postal code|zip|phone|tel|isbn|number no|nr|ref)\.?$")
# Digits only, or grouped as telephone and account numbers are.
_DIGITS = r"^(\d+|\+?\(?\d[\d ()]*)$"
_MOSTLY = 0.9
_LIST_SEPARATORS = (";", "|", "\n", ",")
_UNIT_SEPARATOR = "\x1f"
_MOST_PARTS = 60
_SHORTEST_PART_REPEATED = 3
_LONGEST_PART = 60
_FORM_NAMES: dict[Form, str] = {"year": "years", "quarter": "quarters", "month": "months", "week": "weeks (ISO 8601)"}


def says_identifier(name: str) -> bool:
    """Tell whether a column's name says that numbers in it name things.

    >>> says_identifier("Branch code"), says_identifier("Visits")
    (True, False)
    """
    return bool(_IDENTIFIER_NAME.search(name))


@dataclass(frozen=True, slots=True)
class Judged:
    """One column, understood."""

    column: Column
    values: pl.Series
    remarks: tuple[Remark, ...]


class _Notebook:
    """One column on its way to being understood: its cells, what was chosen for it, its remarks."""

    def __init__(self, name: str, cells: Encoded, rows: pl.Series, reading: Reading, text_cells: pl.Series | None):
        self.name = name
        self.cells = cells
        self.row_numbers = rows
        self.reading = reading
        self.text_cells = text_cells
        self.remarks: list[Remark] = []

    def leaves(self, *codes: str) -> bool:
        return any(self.reading.leaves(code, self.name) for code in codes)

    def note(
        self,
        code: str,
        severity: str,
        message: str,
        cells: pl.Series | None = None,
        *,
        state: State = "done",
        offers: tuple[Offer, ...] = (),
    ) -> None:
        """Add a remark about the marked rows (a Boolean series), or about the whole column."""
        count = int(cells.sum()) if cells is not None else 1
        first = int(self.row_numbers.filter(cells)[0]) if cells is not None and count else None
        self.remarks.append(Remark(code, severity, message, self.name, first, count, state, offers))  # type: ignore[arg-type]

    def judged(
        self,
        kind: Kind,
        values: pl.Series,
        unit: str | None = None,
        form: Form | None = None,
        distinct: int | None = None,
    ) -> Judged:
        values = values.alias(self.name)
        if distinct is None:
            distinct = values.drop_nulls().explode().n_unique() if kind == "list" else values.drop_nulls().n_unique()
        column = Column(self.name, kind, unit, values.null_count(), distinct, form)
        return Judged(column, values, tuple(self.remarks))


def judge(
    name: str,
    cells: pl.Series,
    rows: pl.Series,
    text_cells: pl.Series | None = None,
    reading: Reading | None = None,
    *,
    is_list: bool = False,
) -> Judged:
    """Decide a column's kind and turn its text into values of that kind.

    ``cells`` is a String series, ``rows`` the file's row numbers; ``text_cells`` marks the cells that a
    workbook kept as text; ``reading`` holds what people chose or undid. ``is_list`` tells that the file
    itself keeps several values a cell, parted by the unit separator.
    """
    book = _Notebook(name, encode(cells), rows, reading or Reading(), text_cells)
    if is_list:
        return book.judged("list", _split_cells(book.cells, _UNIT_SEPARATOR))
    low = book.cells.texts.str.to_lowercase()
    coded = low.is_in(_MISSING_ANYWHERE)
    coded_value = coded | low.is_in(_MISSING_AMONG_VALUES)
    if book.leaves("missing-codes"):
        coded = coded_value = low.is_null()
    everything = book.cells
    book.cells = everything.without(coded_value) if coded_value.any() else everything
    if not book.cells.present:
        _note_missing(book, everything, coded)
        return book.judged("category", everything.spread(everything.texts.set(coded, None)))
    for reader in (_read_identifier, _read_period_or_number, _read_yesno, _read_date):
        found = reader(book)
        if found is not None:
            _note_missing(book, everything, coded_value)
            return found.judged(book)
    book.cells = everything.without(coded) if coded.any() else everything
    _note_missing(book, everything, coded)
    return _read_words(book)


@dataclass(frozen=True, slots=True)
class _Found:
    """A decision that becomes a Judged once the missing codes are noted, so that remarks keep their order."""

    kind: Kind
    values: pl.Series  # one for each different text
    unit: str | None = None
    form: Form | None = None

    def judged(self, book: _Notebook) -> Judged:
        distinct = self.values.drop_nulls().n_unique()
        return book.judged(self.kind, book.cells.spread(self.values), self.unit, self.form, distinct)


def _note_missing(book: _Notebook, cells: Encoded, coded: pl.Series) -> None:
    if not coded.any():
        return
    codes = ", ".join(f"“{code}”" for code in cells.texts.filter(coded).unique().sort().to_list()[:5])
    book.note("missing-codes", "info", f"{codes} was read as missing.", cells.rows(coded))


def _read_identifier(book: _Notebook) -> _Found | None:
    """Numbers that name things are never added up: leading zeros, or a name that says so."""
    texts = book.cells.texts
    if book.leaves("identifier-column") or not texts.str.contains(_DIGITS).all():
        return None
    zeros = texts.str.contains(r"^\+|^\(?0\d")
    if zeros.any():
        book.note(
            "identifier-column",
            "info",
            "Numbers with leading zeros are kept as they are written.",
            book.cells.rows(zeros),
        )
        return _Found("category", texts)
    if says_identifier(book.name):
        book.note("identifier-column", "info", "These numbers name things, so they are kept as labels.")
        return _Found("category", texts)
    return None


def _read_period_or_number(book: _Notebook) -> _Found | None:
    """Bare numbers may be years or a spreadsheet's day numbers, where the column's name says so."""
    cells = book.cells
    if bool(cells.texts.head(50).str.contains(r"^\d+(\.\d+)?$").all()) and not book.leaves(
        "periods-read", "serial-dates", "epoch-times"
    ):
        dates = parse_bare_numbers(cells.texts, cells.counts, book.name)
        if dates is not None:
            return _dates(book, dates)
    return _read_number(book)


def _read_number(book: _Notebook) -> _Found | None:
    cells = book.cells
    decimal = "." if book.leaves("decimal-comma") else book.reading.decimals.get(book.name)
    parsed = parse_numbers(cells.texts, cells.counts, decimal=decimal)
    lost = parsed.values.is_null()
    if cells.weight(~lost) < (_MOSTLY if not book.leaves("mixed-kinds") else 1) * cells.present:
        return None
    if _keeps_dress(book, parsed):
        return None
    if len(parsed.units) > 1:
        code = "currency" if any(unit in AMOUNTS_OF_MONEY for unit in parsed.units) else "mixed-units"
        message = f"Amounts carry {' and '.join(parsed.units)}; they cannot be added up, so they stay as text."
        book.note(code, "problem", message, state="noted")
        return None
    _note_dress(book, parsed)
    _note_unfit(book, lost, "numbers")
    unit = parsed.units[0] if parsed.units else unit_in_name(book.name)
    return _Found("number", whole_if_whole(parsed.values), unit)


def _keeps_dress(book: _Notebook, parsed: ParsedNumbers) -> bool:
    """Tell whether people chose to keep these numbers as the text they were."""
    dressed = bool(parsed.dressed.any())
    codes = ("numbers-as-text", "percent-text", "currency", "units-read", "mixed-units")
    return (dressed and book.leaves(*codes)) or (book.text_cells is not None and book.leaves("numbers-as-text"))


def _note_dress(book: _Notebook, parsed: ParsedNumbers) -> None:
    cells = book.cells
    if book.text_cells is not None:
        stored = cells.rows(parsed.values.is_not_null()) & book.text_cells
        if stored.any():
            book.note("numbers-as-text", "info", "Numbers stored as text were read as numbers.", stored)
    elif parsed.dressed.any():
        message = "Numbers written with separators or signs were read as numbers."
        book.note("numbers-as-text", "info", message, cells.rows(parsed.dressed))
    if parsed.decimal == ",":
        book.note("decimal-comma", "info", "A comma is the decimal mark here, and a point parts thousands.")
    if parsed.is_either:
        _note_either_mark(book)
    if parsed.units:
        _note_unit(book, parsed, parsed.units[0])


def _note_either_mark(book: _Notebook) -> None:
    offers = tuple(
        Offer(f"The point {does}", {"reading": {"decimals": {book.name: mark}}})
        for mark, does in ((".", "begins decimals"), (",", "parts thousands"))
    )
    example = book.cells.texts.filter(book.cells.texts.str.contains(".", literal=True))[0]
    message = f"Nothing shows whether the point in “{example}” begins decimals or parts thousands; decimals were read."
    book.note("decimal-mark-ambiguous", "warning", message, state="proposed", offers=offers)


def _note_unit(book: _Notebook, parsed: ParsedNumbers, unit: str) -> None:
    unsigned = book.cells.weight(parsed.bare)
    too = f" {unsigned:,} without the sign were read alike." if unsigned else ""
    if unit == PERCENT:
        message = f"Percentages were read as shares of one; they are shown with %.{too}"
        book.note("percent-text", "warning" if unsigned else "info", message)
        return
    code = "currency" if unit in AMOUNTS_OF_MONEY else "units-read"
    if parsed.turned:
        message = f"Amounts in {' and '.join(parsed.turned)} were turned into {unit}."
        book.note("mixed-units", "warning", message)
    book.note(code, "info", f"Amounts carry {unit}; it is kept as the unit.{too}")


def _note_unfit(book: _Notebook, lost: pl.Series, what: str) -> None:
    if lost.any():
        shown = ", ".join(f"“{cell[:40]}”" for cell in book.cells.texts.filter(lost).to_list()[:3])
        message = f"Among {what} stand {shown}; they were read as missing."
        book.note("mixed-kinds", "problem", message, book.cells.rows(lost))


def _read_yesno(book: _Notebook) -> _Found | None:
    low = book.cells.texts.str.to_lowercase()
    if not low.is_in(_YES + _NO).all():
        return None
    # A letter alone says yes or no only beside the other one.
    letters = set(low.to_list()) <= {"y", "n"} and low.n_unique() == 1
    return None if letters else _Found("yesno", low.is_in(_YES))


def _read_date(book: _Notebook) -> _Found | None:
    cells = book.cells
    chosen = book.reading.day_first.get(book.name)
    parsed = parse_dates(cells.texts, cells.counts, name=book.name, day_first=chosen)
    if parsed is None or (book.leaves("mixed-kinds") and parsed.values.null_count()):
        return None
    if book.leaves("date-order-inferred", "periods-read"):
        return None
    return _dates(book, parsed)


def _dates(book: _Notebook, parsed: ParsedDates) -> _Found:
    lost = parsed.values.is_null()
    if parsed.order == "ambiguous":
        message = "Nothing in the column shows whether the day or the month comes first; day first was assumed."
        offers = tuple(
            Offer(f"The {first} comes first", {"reading": {"day_first": {book.name: first == "day"}}})
            for first in ("day", "month")
        )
        book.note("date-order-ambiguous", "warning", message, state="proposed", offers=offers)
    elif parsed.order:
        first = "day" if parsed.order == "day-first" else "month"
        book.note("date-order-inferred", "info", f"Dates were read with the {first} first, as the column shows.")
    if parsed.epoch:
        book.note("epoch-times", "info", "Seconds counted from 1970 were read as times (UTC).")
    elif parsed.serial:
        book.note("serial-dates", "info", "A spreadsheet's day numbers were read as dates.")
    elif parsed.form in _FORM_NAMES:
        message = f"Read as {_FORM_NAMES[parsed.form]}: each stands for the day it starts on."
        book.note("periods-read", "info", message)
    _note_unfit(book, lost, "times" if parsed.form == "time" else "dates")
    form = None if parsed.form == "day" else parsed.form
    return _Found("date", parsed.values, form=form)


def _read_words(book: _Notebook) -> Judged:
    cells = book.cells
    parts = None if book.leaves("several-answers") else _split_answers(cells)
    if parts is not None:
        separator, distinct = parts
        named = {"\n": "a new line"}.get(separator, f"“{separator}”")
        message = f"Cells hold several answers, parted by {named}; {distinct} different ones were found."
        offer = Offer("Make a row for each answer", {"step": {"type": "row_per_answer", "column": book.name}})
        book.note("several-answers", "info", message, offers=(offer,))
        return book.judged("list", _split_cells(cells, separator))
    texts = cells.texts
    if _is_prose(cells):
        return book.judged("text", cells.spread(texts))
    _note_spellings(book)
    _note_scale(book)
    return book.judged("category", cells.spread(texts))


def _split_cells(cells: Encoded, separator: str) -> pl.Series:
    parts = cells.texts.str.split(separator).list.eval(pl.element().str.strip_chars())
    return cells.spread(parts.list.eval(pl.element().filter(pl.element() != "")))


def _split_answers(cells: Encoded) -> tuple[str, int] | None:
    """Return the separator and the number of different answers, when cells hold several from a short list."""
    for separator in _LIST_SEPARATORS:
        holding = cells.texts.str.contains(separator, literal=True)
        if cells.weight(holding) < 0.2 * cells.present:
            continue
        parts = cells.texts.str.split(separator).list.eval(pl.element().str.strip_chars())
        counted: dict[str, int] = {}
        for found, count in zip(parts.to_list(), cells.counts.tolist(), strict=True):
            for part in found:
                counted[part] = counted.get(part, 0) + count
                if len(counted) > _MOST_PARTS:
                    break
        counted.pop("", None)
        if _is_short_list(counted, separator):
            return separator, len(counted)
    return None


def _is_short_list(counted: dict[str, int], separator: str) -> bool:
    if not counted or len(counted) > _MOST_PARTS or max(map(len, counted)) > _LONGEST_PART:
        return False
    if sum(counted.values()) < _SHORTEST_PART_REPEATED * len(counted):
        return False
    # A comma also stands inside names ("Lane, Alder"): then hardly any part would stand alone and in company.
    return separator != "," or min(counted.values()) > 1


def _is_prose(cells: Encoded) -> bool:
    """Tell writing from labels: it is long and hardly repeats (thresholds: common practice, no source)."""
    sample = cells.texts.head(5000)
    counts = cells.counts[: len(sample)]
    words = (sample.str.count_matches(r"\s+") + 1).to_numpy()
    mean = float((words * counts).sum() / counts.sum())
    different = len(sample) / counts.sum()
    return mean >= 4 and (different > 0.5 or (mean >= 5 and len(sample) > 30))


def _note_scale(book: _Notebook) -> None:
    """Ask where a word belongs that stands among those of a rating scale."""
    found = words_off_the_scale(book.cells.texts.unique().to_list()) if len(book.cells.texts) <= _MOST_PARTS else None
    if found is None:
        return
    known, unknown = found
    order = [*known, *unknown]
    offer = Offer(
        "Put them in this order: " + ", ".join(order),
        {"step": {"type": "order_values", "column": book.name, "values": order}},
    )
    words = ", ".join(f"“{word}”" for word in unknown)
    message = f"These look like a rating, but the place of {words} is not known. The order can be changed in the step."
    marked = book.cells.rows(book.cells.texts.is_in(unknown))
    book.note("scale-order-unknown", "info", message, marked, state="proposed", offers=(offer,))


def _note_spellings(book: _Notebook) -> None:
    """Propose values that look like one thing spelled in several ways."""
    cells = book.cells
    groups = alike(dict(zip(cells.texts.to_list(), cells.counts.tolist(), strict=True)))
    if not groups:
        return
    shown = "; ".join(" / ".join(f"“{value}”" for value in group[:4]) for group in groups[:3])
    rare = [value for group in groups for value in group[1:]]
    merges = [{"to": group[0], "spellings": group[1:]} for group in groups]
    offer = Offer("Merge the spellings", {"step": {"type": "merge_spellings", "column": book.name, "groups": merges}})
    message = f"Some values look like one thing spelled twice: {shown}."
    book.note(
        "near-duplicate-values",
        "warning",
        message,
        cells.rows(cells.texts.is_in(rare)),
        state="proposed",
        offers=(offer,),
    )
