"""Steps about whole columns: their names, their kinds, which to keep, taking apart and joining."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import polars as pl
from pydantic import Field

from ypsil.core.tables.convert import as_text, convert
from ypsil.core.tables.model import Field as ColumnField
from ypsil.core.tables.model import Kind, Way
from ypsil.core.tables.natural_order import is_beside
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.steps.base import (
    Applied,
    Context,
    Input,
    Step,
    StepRefused,
    need,
    need_free,
    need_kind,
    pattern,
    quoted,
)
from ypsil.core.tables.units import unit_called

KIND_NAMES: dict[Kind, str] = {
    "number": "numbers",
    "category": "categories",
    "text": "written text",
    "date": "dates",
    "place": "places",
    "yesno": "yes or no",
    "list": "lists of answers",
}
_TEXT_KINDS = ("category", "text", "place")


class Rename(Step):
    offered_at = 10
    title = "Rename a column"
    purpose = "a clearer name, the same values"
    inputs = (Input("column", "Column", "column"), Input("to", "New name", "new_name"))
    type: Literal["rename"] = "rename"
    column: str
    to: str = Field(max_length=200)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [self.column])
        to = need_free(rows, self.to, but=[self.column])
        fields = {to if name == self.column else name: field for name, field in rows.fields.items()}
        return Applied(Rows(rows.frame.rename({self.column: to}), fields))

    def sentence(self) -> str:
        return f"Rename “{self.column}” to “{self.to}”"


class OrderValues(Step):
    offered_at = 30
    title = "Put answers in order"
    purpose = "ratings and other scales whose order is not known"
    inputs = (
        Input("column", "Column", "column", kinds=("category", "list")),
        Input("values", "From the lowest to the highest", "values", hint="one a line", proposes="order"),
    )
    type: Literal["order_values"] = "order_values"
    column: str
    values: tuple[str, ...] = Field(min_length=2, max_length=200)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need_kind(rows, self.column, "category", "list")
        twice = [value for value in dict.fromkeys(self.values) if self.values.count(value) > 1]
        if twice:
            raise StepRefused(f"{quoted(twice)} stands twice in the order", remedy="name each answer once")
        field = replace(rows.fields[self.column], order=self.values)
        cells = rows.frame[self.column]
        there = (cells.explode() if rows.fields[self.column].kind == "list" else cells).drop_nulls().unique().to_list()
        new = sorted(value for value in there if value not in self.values and not is_beside(value))
        notes = (f"{quoted(new)} has no place in the order yet",) if new else ()
        return Applied(Rows(rows.frame, {**rows.fields, self.column: field}), notes)

    def sentence(self) -> str:
        return f"Put the answers of “{self.column}” in order: {', '.join(self.values)}"


class SayWhichWayIsGood(Step):
    offered_at = 40
    title = "Say which way is good"
    purpose = "changes wear the colours of good and bad in every drawing, once it is known"
    inputs = (
        Input("column", "Column", "column", kinds=("number",)),
        Input("good", "It is good when it", "choice", choices=(("up", "rises"), ("down", "falls"))),
    )
    type: Literal["good_way"] = "good_way"
    column: str
    good: Way

    def apply(self, rows: Rows, context: Context) -> Applied:
        need_kind(rows, self.column, "number")
        field = replace(rows.fields[self.column], good=self.good)
        return Applied(Rows(rows.frame, {**rows.fields, self.column: field}))

    def sentence(self) -> str:
        return f"It is good when “{self.column}” {'rises' if self.good == 'up' else 'falls'}"


class ShowAs(Step):
    offered_at = 45
    title = "Name a column for readers"
    purpose = "drawings call it so, everywhere; the table and its questions keep its own name"
    inputs = (Input("column", "Column", "column"), Input("shown", "Readers see it as", "text"))
    type: Literal["show_as"] = "show_as"
    column: str
    shown: str = Field(min_length=1, max_length=100)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [self.column])
        field = replace(rows.fields[self.column], shown=" ".join(self.shown.split()))
        return Applied(Rows(rows.frame, {**rows.fields, self.column: field}))

    def sentence(self) -> str:
        return f"Readers see “{self.column}” as “{self.shown}”"


class SetUnit(Step):
    offered_at = 46
    title = "Say what a number is measured in"
    purpose = "cm, £, minutes …: it stands beside the numbers wherever they are shown"
    inputs = (Input("column", "Number column", "column"), Input("unit", "It is measured in", "text"))
    type: Literal["set_unit"] = "set_unit"
    column: str
    unit: str = Field(min_length=1, max_length=12)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need_kind(rows, self.column, "number")
        field = replace(rows.fields[self.column], unit=unit_called(self.unit))
        return Applied(Rows(rows.frame, {**rows.fields, self.column: field}))

    def sentence(self) -> str:
        return f"“{self.column}” is measured in {unit_called(self.unit)}"


class ChangeKind(Step):
    offered_at = 20
    title = "Change a column's kind"
    purpose = "read the values as numbers, dates, categories …"
    inputs = (
        Input("column", "Column", "column"),
        Input("kind", "It holds", "choice", choices=tuple(KIND_NAMES.items())),
        Input("day_first", "In dates, the day comes first", "yesno", optional=True),
    )
    type: Literal["change_kind"] = "change_kind"
    column: str
    kind: Kind
    day_first: bool | None = None

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [self.column])
        made = convert(rows.frame[self.column], rows.fields[self.column], self.kind, day_first=self.day_first)
        notes: tuple[str, ...] = ()
        if made.unfit:
            count = sum(times for _, times in made.unfit)
            notes = (f"{count:,} did not fit and are missing now: {quoted(value for value, _ in made.unfit)}",)
        return Applied(rows.with_column(made.values.alias(self.column), made.field), notes)

    def sentence(self) -> str:
        return f"Read “{self.column}” as {KIND_NAMES[self.kind]}"


class KeepColumns(Step):
    offered_at = 50
    title = "Keep only some columns"
    purpose = "in the order you choose them"
    inputs = (Input("columns", "Columns to keep", "columns"),)
    type: Literal["keep_columns"] = "keep_columns"
    columns: tuple[str, ...] = Field(min_length=1)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, self.columns)
        return Applied(rows.with_frame(rows.frame.select(list(dict.fromkeys(self.columns)))))

    def sentence(self) -> str:
        return f"Keep only {quoted(self.columns)}"


class DropColumns(Step):
    offered_at = 60
    title = "Drop columns"
    purpose = "leave out what no one needs"
    inputs = (Input("columns", "Columns to drop", "columns"),)
    type: Literal["drop_columns"] = "drop_columns"
    columns: tuple[str, ...] = Field(min_length=1)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, self.columns)
        kept = [name for name in rows.names if name not in self.columns]
        if not kept:
            raise StepRefused("no column would be left", remedy="keep at least one")
        return Applied(rows.with_frame(rows.frame.select(kept)))

    def sentence(self) -> str:
        return f"Drop {quoted(self.columns)}"


class SplitColumn(Step):
    """Take a column apart at a separator, or by a pattern with groups (regular expression)."""

    offered_at = 110
    title = "Split a column"
    purpose = "“Lane, Alder” into two columns, by a separator or a pattern"
    inputs = (
        Input("column", "Column", "column", kinds=_TEXT_KINDS),
        Input("separator", "At every", "text", optional=True, hint="such as , or / or a space"),
        Input(
            "pattern", "Or by a pattern", "text", optional=True,
            hint="a regular expression with a group in brackets for each new column",
        ),
        Input("into", "Into the columns", "values", hint="their names, one a line"),
    )  # fmt: skip
    type: Literal["split_column"] = "split_column"
    column: str
    separator: str | None = Field(None, max_length=40)
    pattern: str | None = Field(None, max_length=300)
    into: tuple[str, ...] = Field(min_length=1, max_length=20)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [self.column])
        names = [need_free(rows, name, but=[self.column]) for name in self.into]
        if len(set(names)) < len(names):
            raise StepRefused("two of the new columns have the same name", remedy="give each its own")
        cells = as_text(rows.frame[self.column], rows.fields[self.column])
        parts, lost = self._by_pattern(cells) if self.pattern else self._by_separator(cells)
        if len(parts) != len(names):
            raise StepRefused(
                f"the pattern has {len(parts)} groups, and {len(names)} columns are named", remedy="make them agree"
            )
        result = rows
        for name, part in zip(names, parts, strict=True):
            part = part.str.strip_chars().replace("", None).alias(name)
            result = result.with_column(part, ColumnField("category"))
        said = (
            "do not fit the pattern and are missing"
            if self.pattern
            else "have more parts; the last column holds the rest"
        )
        return Applied(result, (f"{lost:,} {said}",) if lost else ())

    def _by_separator(self, cells: pl.Series) -> tuple[list[pl.Series], int]:
        if not self.separator:
            raise StepRefused("nothing says where to split", remedy="give a separator or a pattern")
        count = len(self.into)
        parts = cells.str.splitn(self.separator, count).struct.unnest()
        more = int((cells.str.count_matches(self.separator, literal=True) >= count).sum())
        return [parts.to_series(index) for index in range(count)], more

    def _by_pattern(self, cells: pl.Series) -> tuple[list[pl.Series], int]:
        shape = pattern(self.pattern or "")
        try:
            groups = cells.str.extract_groups(shape).struct.unnest()
        except pl.exceptions.PolarsError:
            raise StepRefused("the pattern has no groups", remedy="put brackets around each part to take out") from None
        lost = int((cells.is_not_null() & ~cells.str.contains(shape)).sum())
        return [groups.to_series(index) for index in range(groups.width)], lost

    def sentence(self) -> str:
        how = f"by the pattern {self.pattern}" if self.pattern else f"at “{self.separator}”"
        return f"Split “{self.column}” {how} into {quoted(self.into)}"


class CombineColumns(Step):
    offered_at = 120
    title = "Join columns into one"
    purpose = "first and last name into a name"
    inputs = (
        Input("columns", "Columns, in this order", "columns"),
        Input("separator", "With this between them", "text", optional=True),
        Input("into", "Name of the new column", "new_name"),
    )
    type: Literal["combine_columns"] = "combine_columns"
    columns: tuple[str, ...] = Field(min_length=2)
    separator: str = Field(" ", max_length=40)
    into: str = Field(max_length=200)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, self.columns)
        into = need_free(rows, self.into, but=self.columns)
        texts = pl.DataFrame([as_text(rows.frame[name], rows.fields[name]) for name in dict.fromkeys(self.columns)])
        joined = texts.select(pl.concat_str(pl.all(), separator=self.separator, ignore_nulls=True)).to_series()
        return Applied(rows.with_column(joined.replace("", None).alias(into), ColumnField("category")))

    def sentence(self) -> str:
        between = f" with “{self.separator}” between them" if self.separator else ""
        return f"Join {quoted(self.columns)}{between} into “{self.into}”"


__all__ = ["ChangeKind", "CombineColumns", "DropColumns", "KeepColumns", "Rename", "SplitColumn"]
