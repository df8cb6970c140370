"""Rows on their way through the steps: a frame and what each of its columns holds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import polars as pl

from ypsil.core.tables.model import Column, Field, Kind, ReadTable


@dataclass(frozen=True, slots=True)
class Rows:
    """A frame with a field for each column, in the frame's order."""

    frame: pl.DataFrame
    fields: Mapping[str, Field]

    @classmethod
    def of(cls, frame: pl.DataFrame, columns: tuple[Column, ...]) -> Rows:
        return cls(frame, {column.name: column.field for column in columns})

    @classmethod
    def of_table(cls, table: ReadTable) -> Rows:
        return cls.of(table.frame, table.columns)

    @property
    def names(self) -> list[str]:
        return self.frame.columns

    def of_kind(self, *kinds: Kind) -> list[str]:
        return [name for name, field in self.fields.items() if field.kind in kinds]

    def with_frame(self, frame: pl.DataFrame) -> Rows:
        """Return other rows of the same columns; fields of columns that are gone go too."""
        return Rows(frame, {name: self.fields[name] for name in frame.columns})

    def with_column(self, values: pl.Series, field: Field) -> Rows:
        """Return the rows with a column replaced, or added at the end."""
        return Rows(self.frame.with_columns(values), {**self.fields, values.name: field})

    def columns(self) -> tuple[Column, ...]:
        """Return the columns with their counts of missing and different values."""
        return tuple(
            Column(
                name,
                field.kind,
                field.unit,
                cells.null_count(),
                different(cells),
                field.form,
                field.order,
                field.good,
                field.shown,
            )
            for name, field in self.fields.items()
            for cells in (self.frame[name],)
        )


def empty_type(field: Field) -> pl.DataType:
    """Return the polars type of a column that has no value to tell it by."""
    types: dict[str, pl.DataType] = {
        "number": pl.Int64(),
        "date": pl.Time() if field.form == "time" else pl.Date(),
        "yesno": pl.Boolean(),
        "list": pl.List(pl.String),
    }
    return types.get(field.kind, pl.String())


def sort_key(cell: pl.Expr, field: Field) -> pl.Expr:
    """Return what a column is sorted by: of texts their letters without regard to capitals."""
    return cell.str.to_lowercase() if field.kind in ("category", "text", "place") else cell


def different(cells: pl.Series) -> int:
    """Return how many different values stand in a column; those of a list count one by one."""
    present = cells.drop_nulls()
    return (present.explode() if isinstance(cells.dtype, pl.List) else present).n_unique() if len(present) else 0
