"""Steps that bring in another table: looking columns up by a key, and stacking rows."""

from __future__ import annotations

from typing import Literal

import polars as pl
from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.figures import format_number
from ypsil.core.tables.convert import as_text
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
    quoted,
    rows_said,
)


class KeyPair(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)

    here: str
    there: str


class LookUp(Step):
    """Bring columns of another table to each row with the same key. Rows never become more.

    Where a key stands several times in the other table, its first row is taken, and that is said.
    """

    offered_at = 230
    title = "Look up columns from another table"
    purpose = "opening hours or populations, found by the branch's name"
    inputs = (
        Input("table", "The other table", "table"),
        Input("key", "Found by", "key", hint="a column here, and the one it matches there"),
        Input("columns", "Columns to bring", "other_columns", proposes="other columns"),
    )
    type: Literal["look_up"] = "look_up"
    table: str
    key: tuple[KeyPair, ...] = Field(min_length=1, max_length=10)
    columns: tuple[str, ...] = Field(min_length=1)
    table_name: str = ""

    def apply(self, rows: Rows, context: Context) -> Applied:
        name, other = context.table(self.table)
        need(rows, [pair.here for pair in self.key])
        _need_there(name, other, [*(pair.there for pair in self.key), *self.columns])
        here, there = _keys(rows, [pair.here for pair in self.key]), _keys(other, [pair.there for pair in self.key])
        keys = there.columns
        brought = {column: _free_name(column, rows, name) for column in dict.fromkeys(self.columns)}
        lookup = there.with_columns(other.frame[old].alias(new) for old, new in brought.items())
        repeated = set(there.filter(there.is_duplicated()).rows())
        lookup = lookup.unique(keys, keep="first", maintain_order=True).with_columns(pl.lit(True).alias("\x00found"))
        joined = here.join(lookup, on=keys, how="left", maintain_order="left")
        found = joined["\x00found"].fill_null(False)
        many = sum(row in repeated for row in here.filter(found).unique().rows()) if repeated else 0
        none = here.filter(~found)
        result = rows
        for old, new in brought.items():
            result = result.with_column(joined[new], other.fields[old])
        return Applied(result, tuple(_notes(found, none, many, name)))

    def sentence(self) -> str:
        by = " and ".join(
            f"“{pair.here}”" if pair.here == pair.there else f"“{pair.here}” = “{pair.there}”" for pair in self.key
        )
        return f"Look up {quoted(self.columns)} from the table “{self.table_name or self.table}” by {by}"


def _notes(found: pl.Series, none: pl.DataFrame, many: int, name: str) -> list[str]:
    notes = [f"{rows_said(int(found.sum()))} found their key"]
    if none.height:
        examples = quoted((" / ".join(str(part) for part in row) for row in none.unique(maintain_order=True).rows()), 3)
        notes.append(f"{rows_said(none.height)} did not: {examples}")
    if many:
        notes.append(f"{format_number(many)} keys stand more than once in “{name}”; the first row was taken")
    return notes


def _keys(rows: Rows, names: list[str]) -> pl.DataFrame:
    """Return the key columns as text, trimmed, so that 7 and “7” are one key."""
    return pl.DataFrame(
        [
            as_text(rows.frame[name], rows.fields[name]).str.strip_chars().alias(f"\x00{i}")
            for i, name in enumerate(names)
        ]
    )


def _free_name(column: str, rows: Rows, table: str) -> str:
    return column if column not in rows.fields else f"{column} ({table})"


def _need_there(table: str, rows: Rows, names: list[str]) -> None:
    try:
        need(rows, names)
    except StepRefused as problem:
        raise StepRefused(problem.what.replace(" here", f" in “{table}”"), remedy=problem.remedy) from None


class StackTable(Step):
    offered_at = 240
    title = "Stack another table under this one"
    purpose = "last year's rows below this year's"
    inputs = (Input("table", "The other table", "table"),)
    type: Literal["stack_table"] = "stack_table"
    table: str
    table_name: str = ""

    def apply(self, rows: Rows, context: Context) -> Applied:
        name, other = context.table(self.table)
        if not set(rows.names) & set(other.names):
            raise StepRefused(f"“{name}” has no column in common with this table", remedy="rename its columns first")
        if rows.frame.height + other.frame.height > ROW_LIMIT:
            raise StepRefused(
                f"together they have more than {format_number(ROW_LIMIT)} rows", remedy="keep fewer first"
            )
        stacked, notes = stack([rows, other])
        return Applied(stacked, (f"{rows_said(other.frame.height)} added", *notes))

    def sentence(self) -> str:
        return f"Stack the rows of “{self.table_name or self.table}” under these"
