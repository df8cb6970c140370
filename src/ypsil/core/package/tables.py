"""A table in a package: its rows as CSV, and beside them what its columns hold."""

from __future__ import annotations

import io

import polars as pl
from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.convert import LIST_MARK, convert
from ypsil.core.tables.model import Column, Form, Kind, Way
from ypsil.core.tables.model import Field as Holds
from ypsil.core.tables.numbers_in_text import whole_if_whole
from ypsil.core.tables.rows import Rows

_DEFUSED = r"^'([=+\-@\t\r])"


class ColumnSchema(BaseModel):
    """What a column holds: as ``ypsil inspect`` says it, with the order of its values where somebody gave one."""

    model_config = ConfigDict(extra="ignore", frozen=True)

    name: str
    kind: Kind
    unit: str | None = None
    form: Form | None = None
    order: tuple[str, ...] = ()
    good: Way | None = None
    shown: str = ""


class TableSchema(BaseModel):
    """A table of a package: its name, the line that sources give it, its columns in order."""

    model_config = ConfigDict(extra="ignore", frozen=True)

    name: str = Field(min_length=1, max_length=200)
    source: str = ""
    columns: tuple[ColumnSchema, ...] = Field(min_length=1)

    @classmethod
    def of(cls, name: str, source: str, columns: tuple[Column, ...]) -> TableSchema:
        made = tuple(
            ColumnSchema.model_validate({key: getattr(column, key) for key in ColumnSchema.model_fields})
            for column in columns
        )
        return cls(name=name, source=source, columns=made)

    def fields(self) -> dict[str, Holds]:
        return {one.name: Holds(one.kind, one.unit, one.form, one.order, one.good, one.shown) for one in self.columns}


def rows_of(data: bytes, schema: TableSchema, where: str) -> Rows:
    """Return the rows of a table as they were when it was packed; raises UnreadableFile where they do not fit."""
    try:
        texts = pl.read_csv(io.BytesIO(data), infer_schema=False)
    except pl.exceptions.PolarsError:
        raise UnreadableFile("this is no table", where=where, remedy="pack the report again") from None
    fields = schema.fields()
    names = dict(zip(texts.columns, (column.name for column in schema.columns), strict=False))
    if len(texts.columns) != len(fields):
        raise UnreadableFile(
            f"the table has {len(texts.columns)} columns, and {len(fields)} are described",
            where=where,
            remedy="describe each of its columns, in their order",
        )
    texts = texts.rename(names)
    return Rows(pl.DataFrame([_typed(texts[name], field) for name, field in fields.items()]), fields)


def _typed(texts: pl.Series, field: Holds) -> pl.Series:
    plain = texts.str.replace(_DEFUSED, "$1")
    if field.kind == "list":
        return plain.str.split(LIST_MARK)
    if field.kind in ("category", "text", "place"):
        return plain
    values = _as_packed(texts, field)
    # Written by hand they may stand otherwise: then they are read as people write them.
    if values.null_count() > texts.null_count():
        return convert(texts, Holds("text"), field.kind).values
    return values


def _as_packed(texts: pl.Series, field: Holds) -> pl.Series:
    if field.kind == "number":
        return whole_if_whole(texts.cast(pl.Float64, strict=False))
    if field.kind == "yesno":
        low = texts.str.to_lowercase()
        return low.is_in(["yes", "true"]).set(~low.is_in(["yes", "true", "no", "false"]), None)
    if field.form == "time":
        return texts.str.to_time("%H:%M:%S%.f", strict=False)
    if field.form == "moment":
        return texts.str.to_datetime("%Y-%m-%d %H:%M:%S", strict=False)
    return texts.str.slice(0, 10).str.to_date("%Y-%m-%d", strict=False)
