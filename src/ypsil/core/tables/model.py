"""What a table is: named columns of one kind each, and the remarks made when it was read."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from typing import Any, Literal, get_args

import polars as pl

Kind = Literal["number", "category", "text", "date", "place", "yesno", "list"]
KINDS: tuple[Kind, ...] = get_args(Kind)
Severity = Literal["info", "warning", "problem"]
# How the values of a date column were written, and are shown: a year, a quarter, ... or a time of the day.
Form = Literal["year", "quarter", "month", "week", "day", "moment", "time"]
State = Literal["noted", "done", "proposed"]
Way = Literal["up", "down"]
WEIGHT = {"problem": 0, "warning": 1, "info": 2}


@dataclass(frozen=True, slots=True)
class Field:
    """What a column holds, without counts; ``order`` is one that somebody gave its values, ``good`` the way of its
    amounts that somebody called good, ``shown`` what readers see it called where somebody said so."""

    kind: Kind
    unit: str | None = None
    form: Form | None = None
    order: tuple[str, ...] = ()
    good: Way | None = None
    shown: str = ""


@dataclass(frozen=True, slots=True)
class Column:
    """A column's name, kind, unit (``%`` means the values are fractions), counts, a date column's form, the order that
    somebody gave its values, which way of its amounts somebody called good, and what readers see it called."""

    name: str
    kind: Kind
    unit: str | None = None
    missing: int = 0
    distinct: int = 0
    form: Form | None = None
    order: tuple[str, ...] = ()
    good: Way | None = None
    shown: str = ""

    @property
    def field(self) -> Field:
        return Field(self.kind, self.unit, self.form, self.order, self.good, self.shown)


@dataclass(frozen=True, slots=True)
class Offer:
    """Something that can be done about a remark: its words, and the change of the recipe that does it.

    ``change`` holds ``{"step": {...}}`` or ``{"reading": {...}}``.
    """

    label: str
    change: dict[str, Any]


@dataclass(frozen=True, slots=True)
class Remark:
    """Something noticed: ``row`` counts from 1 as in the file, ``count`` is how many cells or rows.

    What is certain is ``done`` at once and can be undone; a guess is ``proposed`` with its offers; the rest
    is ``noted``.
    """

    code: str
    severity: Severity
    message: str
    column: str | None = None
    row: int | None = None
    count: int = 1
    state: State = "noted"
    offers: tuple[Offer, ...] = ()

    @property
    def key(self) -> str:
        """The name under which the remark is accepted, left or undone."""
        return remark_key(self.code, self.column)

    def as_json(self) -> dict[str, Any]:
        return asdict(self)

    def as_said(self) -> dict[str, Any]:
        """Return what was noticed, without what can be done about it: the shape of the command line."""
        return {name: getattr(self, name) for name in ("code", "severity", "message", "column", "row", "count")}


def remark_key(code: str, column: str | None = None) -> str:
    """Return a remark's name: its code and, where it speaks of one, its column.

    >>> remark_key("total-row"), remark_key("currency", "Cost")
    ('total-row', 'currency/Cost')
    """
    return f"{code}/{column}" if column else code


@dataclass(frozen=True, slots=True)
class ReadTable:
    """Prepared rows with their columns, and what was noticed on the way."""

    name: str
    frame: pl.DataFrame
    columns: tuple[Column, ...]
    remarks: tuple[Remark, ...] = ()
    sheets: tuple[str, ...] = ()

    @property
    def rows(self) -> int:
        return self.frame.height

    def renamed(self, name: str) -> ReadTable:
        return replace(self, name=name)

    def column(self, name: str) -> Column | None:
        return next((column for column in self.columns if column.name == name), None)

    def columns_of(self, *kinds: Kind) -> list[Column]:
        return [column for column in self.columns if column.kind in kinds]


@dataclass(frozen=True, slots=True)
class RawGrid:
    """Cells as text, before anything is understood.

    ``cells`` has one String column a file column, null where a cell is empty. ``first_row`` is the file's
    number of the first row. ``typed`` tells that the file knows numbers from text (a workbook does, a
    delimited file does not); ``text_cells`` then marks the cells kept as text. ``merged`` are the merged
    ranges of a workbook as (first row, first column, last row, last column), from 0. ``named`` tells that
    the columns carry their names already, ``lists`` which of them hold several values a cell, parted by
    the unit separator, ``is_text`` that every cell is something written.
    """

    cells: pl.DataFrame
    remarks: tuple[Remark, ...] = ()
    sheets: tuple[str, ...] = ()
    text_cells: pl.DataFrame | None = None
    merged: tuple[tuple[int, int, int, int], ...] = ()
    named: bool = False
    lists: frozenset[str] = frozenset()
    is_text: bool = False
    encoding: str = ""
    separator: str = ""
