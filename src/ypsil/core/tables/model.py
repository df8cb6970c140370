"""What a table is: named columns of one kind each, and the remarks made when it was read."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, Literal, get_args

import polars as pl

Kind = Literal["number", "category", "text", "date", "place", "yesno", "list"]
KINDS: tuple[Kind, ...] = get_args(Kind)
Severity = Literal["info", "warning", "problem"]
WEIGHT = {"problem": 0, "warning": 1, "info": 2}


@dataclass(frozen=True, slots=True)
class Column:
    """A column's name, kind, unit (``%`` means the values are fractions), and counts."""

    name: str
    kind: Kind
    unit: str | None = None
    missing: int = 0
    distinct: int = 0


@dataclass(frozen=True, slots=True)
class Remark:
    """Something noticed: ``row`` counts from 1 as in the file, ``count`` is how many cells or rows."""

    code: str
    severity: Severity
    message: str
    column: str | None = None
    row: int | None = None
    count: int = 1

    def as_json(self) -> dict[str, Any]:
        return asdict(self)


@dataclass(frozen=True, slots=True)
class Table:
    """Prepared rows with their columns, and what was noticed on the way."""

    name: str
    frame: pl.DataFrame
    columns: tuple[Column, ...]
    remarks: tuple[Remark, ...] = ()
    sheets: tuple[str, ...] = ()

    @property
    def rows(self) -> int:
        return self.frame.height

    def column(self, name: str) -> Column | None:
        return next((column for column in self.columns if column.name == name), None)

    def columns_of(self, *kinds: Kind) -> list[Column]:
        return [column for column in self.columns if column.kind in kinds]


@dataclass(frozen=True, slots=True)
class RawGrid:
    """Cells as text, before anything is understood.

    ``cells`` has one String column a file column, null where a cell is empty. ``first_row`` is the file's
    number of the first row. ``typed`` tells that the file knows numbers from text (a workbook does, a
    delimited file does not); ``text_cells`` then marks the cells kept as text.
    """

    cells: pl.DataFrame
    remarks: tuple[Remark, ...] = ()
    sheets: tuple[str, ...] = ()
    typed: bool = False
    text_cells: pl.DataFrame | None = None
