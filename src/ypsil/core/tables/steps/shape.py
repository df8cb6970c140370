"""Steps that turn a table: columns into rows, rows into columns, all of it on its side.

What a tidy table is: each variable a column, each observation a row (H. Wickham, "Tidy data", Journal of
Statistical Software 59(10), 2014).
"""

from __future__ import annotations

from typing import Literal

import polars as pl
from pydantic import Field

from ypsil.core.figures import format_number
from ypsil.core.tables.convert import as_text
from ypsil.core.tables.dates_in_text import parse_dates
from ypsil.core.tables.encoded import encode
from ypsil.core.tables.kinds import judge
from ypsil.core.tables.limits import MAX_COLUMNS
from ypsil.core.tables.model import Field as ColumnField
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.stack import stack
from ypsil.core.tables.steps.base import (
    ROW_LIMIT,
    Applied,
    Context,
    Input,
    Step,
    StepRefused,
    need,
    need_free,
    need_kind,
    quoted,
    rows_said,
)

_TRANSPOSED_MOST = 1_000
_STATS = (
    ("sum", "total"),
    ("mean", "mean"),
    ("min", "lowest"),
    ("max", "highest"),
    ("count", "number"),
    ("first", "first"),
)


class ColumnsIntoRows(Step):
    offered_at = 130
    title = "Turn columns into rows"
    purpose = "twelve month columns become one column of months"
    inputs = (
        Input("columns", "Columns to turn", "columns"),
        Input("name", "Column for their names", "new_name"),
        Input("value", "Column for their values", "new_name"),
        Input("drop_missing", "Leave out missing values", "yesno", optional=True),
    )
    type: Literal["columns_into_rows"] = "columns_into_rows"
    columns: tuple[str, ...] = Field(min_length=1)
    name: str = Field("Name", max_length=200)
    value: str = Field("Value", max_length=200)
    drop_missing: bool = False

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, self.columns)
        chosen = list(dict.fromkeys(self.columns))
        kept = [name for name in rows.names if name not in chosen]
        name = need_free(rows, self.name, but=chosen)
        value = need_free(rows, self.value, but=chosen)
        if name == value:
            raise StepRefused("both new columns have the same name", remedy="give each its own")
        if rows.frame.height * len(chosen) > ROW_LIMIT:
            raise StepRefused(
                f"that would make more than {format_number(ROW_LIMIT)} rows", remedy="keep fewer rows first"
            )
        parts = [_one_column(rows, kept, column, name, value) for column in chosen]
        stacked, notes = stack(parts)
        order = pl.Series([index for _ in chosen for index in range(rows.frame.height)])
        frame = stacked.frame.with_columns(order.alias("\x00")).sort("\x00", maintain_order=True).drop("\x00")
        made = _names_as_dates(stacked.with_frame(frame), name)
        if self.drop_missing:
            made = made.with_frame(made.frame.filter(pl.col(value).is_not_null()))
        said = f"{rows_said(rows.frame.height)} became {format_number(made.frame.height)}"
        return Applied(made, (said, *notes))

    def sentence(self) -> str:
        return f"Turn {quoted(self.columns, 3)} into rows, as “{self.name}” and “{self.value}”"


def _one_column(rows: Rows, kept: list[str], column: str, name: str, value: str) -> Rows:
    frame = rows.frame.select(*kept, pl.lit(column).alias(name), pl.col(column).alias(value))
    fields = {one: rows.fields[one] for one in kept}
    return Rows(frame, {**fields, name: ColumnField("category"), value: rows.fields[column]})


def _names_as_dates(rows: Rows, name: str) -> Rows:
    """Column names that are months, quarters or years become dates, so that they stand in order."""
    cells = encode(rows.frame[name])
    found = parse_dates(cells.texts, cells.counts, name=name)
    if found is None or found.values.null_count() or found.order == "ambiguous":
        return rows
    form = None if found.form == "day" else found.form
    return rows.with_column(cells.spread(found.values).alias(name), ColumnField("date", form=form))


class RowsIntoColumns(Step):
    offered_at = 140
    title = "Turn rows into columns"
    purpose = "a column for each value of a column"
    inputs = (
        Input("names", "A column for each value of", "column"),
        Input("values", "Filled with", "column"),
        Input("stat", "Where several meet, their", "choice", choices=_STATS),
    )
    type: Literal["rows_into_columns"] = "rows_into_columns"
    names: str
    values: str
    stat: Literal["sum", "mean", "min", "max", "count", "first"] = "sum"

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [self.names, self.values])
        if self.names == self.values:
            raise StepRefused("names and values cannot come from one column", remedy="choose two")
        field = rows.fields[self.values]
        if self.stat in ("sum", "mean"):
            need_kind(rows, self.values, "number")
        kept = [name for name in rows.names if name not in (self.names, self.values)]
        if any(rows.fields[name].kind == "list" for name in (*kept, self.names)):
            raise StepRefused("columns with lists cannot be kept here", remedy="drop them first")
        labels = as_text(rows.frame[self.names], rows.fields[self.names]).fill_null("(missing)").alias("\x00names")
        count = labels.n_unique()
        if count + len(kept) > MAX_COLUMNS:
            raise StepRefused(f"that would make {count:,} columns", remedy="choose a column with fewer values")
        frame = rows.frame.select(kept).with_columns(labels, rows.frame[self.values].alias("\x00values"))
        wide = self._pivoted(frame, kept)
        taken = [name for name in wide.columns[len(kept) :] if name in kept]
        if taken:
            raise StepRefused(f"{quoted(taken)} would stand twice", remedy="rename that column first")
        of_values = ColumnField("number") if self.stat == "count" else field
        fields = {name: rows.fields[name] for name in kept}
        fields |= {name: of_values for name in wide.columns if name not in fields}
        return Applied(Rows(wide, fields), (f"{rows_said(rows.frame.height)} became {format_number(wide.height)}",))

    def _pivoted(self, frame: pl.DataFrame, kept: list[str]) -> pl.DataFrame:
        cell = pl.col("\x00values")
        # Nothing but missing values stays missing: a sum of none is not zero.
        amount = {
            "sum": pl.when(cell.count() > 0).then(cell.sum()),
            "mean": cell.mean(),
            "min": cell.min(),
            "max": cell.max(),
            "count": cell.count().cast(pl.Int64),
            "first": cell.drop_nulls().first(),
        }[self.stat]
        index = kept or ["\x00all"]
        frame = frame if kept else frame.with_columns(pl.lit(0).alias("\x00all"))
        grouped = frame.group_by([*index, "\x00names"], maintain_order=True).agg(amount.alias("\x00values"))
        names = frame["\x00names"].unique(maintain_order=True).to_list()
        wide = grouped.pivot(on="\x00names", on_columns=names, index=index, values="\x00values")
        return wide.select([*kept, *names])

    def sentence(self) -> str:
        word = dict(_STATS)[self.stat]
        return f"Turn the values of “{self.names}” into columns, with the {word} of “{self.values}”"


class Transpose(Step):
    offered_at = 150
    title = "Swap rows and columns"
    purpose = "for a table that lies on its side"
    inputs = (Input("names", "New column names come from", "column"),)
    type: Literal["transpose"] = "transpose"
    names: str

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [self.names])
        if rows.frame.height > _TRANSPOSED_MOST:
            what = (
                f"{rows_said(rows.frame.height)} would become as many columns; at most {_TRANSPOSED_MOST:,} are swapped"
            )
            raise StepRefused(what, remedy="keep fewer rows first")
        labels = as_text(rows.frame[self.names], rows.fields[self.names]).fill_null("(missing)").to_list()
        if len(set(labels)) < len(labels):
            twice = next(label for label in labels if labels.count(label) > 1)
            raise StepRefused(f"“{twice}” stands more than once in “{self.names}”", remedy="choose another column")
        others = [name for name in rows.names if name != self.names]
        if not others:
            raise StepRefused("there is nothing to swap", remedy="choose a table with two columns or more")
        texts = {name: as_text(rows.frame[name], rows.fields[name]).to_list() for name in others}
        numbers = pl.Series(range(1, len(others) + 1), dtype=pl.UInt32)
        first = self.names if self.names not in labels else f"{self.names} (2)"
        made = Rows(pl.DataFrame({first: others}), {first: ColumnField("category")})
        for position, label in enumerate(labels):
            cells = pl.Series(label, [texts[name][position] for name in others], dtype=pl.String)
            judged = judge(label, cells, numbers)
            made = made.with_column(judged.values, judged.column.field)
        return Applied(_names_as_dates(made, first))

    def sentence(self) -> str:
        return f"Swap rows and columns, with names from “{self.names}”"
