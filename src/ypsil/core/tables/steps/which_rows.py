"""Steps about rows: which to keep, in which order, and how often."""

from __future__ import annotations

from typing import Literal

import polars as pl
from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.errors import QuestionRefused
from ypsil.core.figures import format_number
from ypsil.core.tables.calculation import compile_calculation
from ypsil.core.tables.conditions import Filter, condition, test_words
from ypsil.core.tables.model import Field as ColumnField
from ypsil.core.tables.rows import Rows, sort_key
from ypsil.core.tables.steps.base import (
    ROW_LIMIT,
    Applied,
    Context,
    Input,
    Step,
    StepRefused,
    need,
    need_kind,
    quoted,
    rows_said,
)


class KeepRows(Step):
    offered_at = 70
    title = "Keep rows where …"
    purpose = "only some branches, only this year, only what is complete"
    inputs = (
        Input("where", "Keep rows where", "conditions", optional=True),
        Input(
            "any_of", "One of these is enough", "yesno", optional=True,
            hint="otherwise all of them must hold",
        ),
        Input("calculation", "Or where this is so", "calculation", optional=True, hint="such as Visits > 2 * Loans"),
    )  # fmt: skip
    type: Literal["keep_rows"] = "keep_rows"
    where: tuple[Filter, ...] = Field((), max_length=50)
    any_of: bool = False
    calculation: str | None = Field(None, max_length=2_000)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [rule.column for rule in self.where])
        try:
            tests = [condition(rows.frame, rows.fields[rule.column], rule) for rule in self.where]
        except QuestionRefused as problem:
            raise StepRefused(problem.what, where=problem.where, remedy=problem.remedy) from None
        if self.calculation:
            made = compile_calculation(self.calculation, rows.fields, context.today)
            if made.type != "yesno":
                raise StepRefused("what rows are kept by must be yes or no", remedy="compare it, such as Visits > 100")
            try:
                tests.append(pl.lit(made.values(rows.frame)))
            except pl.exceptions.PolarsError:
                raise StepRefused("the calculation cannot be carried out on these values", remedy="change it") from None
        if not tests:
            raise StepRefused("nothing says which rows to keep", remedy="give a condition")
        join = pl.any_horizontal if self.any_of else pl.all_horizontal
        frame = rows.frame.filter(join([test.fill_null(False) for test in tests]))
        gone = rows.frame.height - frame.height
        return Applied(rows.with_frame(frame), (f"{rows_said(gone)} left out, {rows_said(frame.height)} kept",))

    def sentence(self) -> str:
        parts = [" ".join(filter(None, (f"“{rule.column}”", *test_words(rule)))) for rule in self.where]
        parts += [self.calculation] if self.calculation else []
        return "Keep rows where " + (" or " if self.any_of else " and ").join(parts)


class RemoveDuplicates(Step):
    offered_at = 200
    title = "Remove duplicates"
    purpose = "of rows that are alike, the first stays"
    inputs = (Input("columns", "Alike in these columns", "columns", optional=True, hint="none chosen: in all of them"),)
    type: Literal["remove_duplicates"] = "remove_duplicates"
    columns: tuple[str, ...] = ()

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, self.columns)
        compared = rows.frame.select(self.columns or rows.names)
        frame = rows.frame.filter(compared.hash_rows().is_first_distinct())
        return Applied(rows.with_frame(frame), (f"{rows_said(rows.frame.height - frame.height)} removed",))

    def sentence(self) -> str:
        alike = f" that are alike in {quoted(self.columns)}" if self.columns else " that are alike"
        return f"Of rows{alike}, keep the first"


class Sorting(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)

    column: str
    descending: bool = False


class Sort(Step):
    offered_at = 210
    title = "Sort the rows"
    purpose = "by one column or several"
    inputs = (Input("by", "By", "order"),)
    type: Literal["sort"] = "sort"
    by: tuple[Sorting, ...] = Field(min_length=1, max_length=20)

    def apply(self, rows: Rows, context: Context) -> Applied:
        names = [one.column for one in self.by]
        need(rows, names)
        lists = [name for name in names if rows.fields[name].kind == "list"]
        if lists:
            raise StepRefused(f"{quoted(lists)} holds lists, which have no order", remedy="sort by another column")
        down = [one.descending for one in self.by]
        keys = [sort_key(pl.col(name), rows.fields[name]) for name in names]
        return Applied(rows.with_frame(rows.frame.sort(keys, descending=down, nulls_last=True, maintain_order=True)))

    def sentence(self) -> str:
        return "Sort by " + ", then ".join(
            f"“{one.column}” {'from the highest down' if one.descending else 'from the lowest up'}" for one in self.by
        )


class Take(Step):
    offered_at = 220
    title = "Take the first or last rows"
    purpose = "the top ten, the latest hundred"
    inputs = (
        Input("count", "How many", "number"),
        Input("end", "From the", "choice", choices=(("first", "beginning"), ("last", "end"))),
    )
    type: Literal["take"] = "take"
    count: int = Field(ge=1)
    end: Literal["first", "last"] = "first"

    def apply(self, rows: Rows, context: Context) -> Applied:
        frame = rows.frame.head(self.count) if self.end == "first" else rows.frame.tail(self.count)
        return Applied(rows.with_frame(frame), (f"{rows_said(rows.frame.height - frame.height)} left out",))

    def sentence(self) -> str:
        return f"Take the {self.end} {format_number(self.count)} rows"


class RowPerAnswer(Step):
    offered_at = 190
    title = "Make a row for each answer"
    purpose = "where a cell holds several answers"
    inputs = (
        Input("column", "Column", "column", kinds=("list", "category", "text")),
        Input("separator", "Answers are parted by", "text", optional=True, hint="where they are not a list yet"),
    )
    type: Literal["row_per_answer"] = "row_per_answer"
    column: str
    separator: str | None = Field(None, max_length=10)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need_kind(rows, self.column, "list", "category", "text")
        frame = rows.frame
        if rows.fields[self.column].kind != "list":
            if not self.separator:
                raise StepRefused(f"“{self.column}” holds no lists", remedy="say what parts the answers, such as ;")
            frame = frame.with_columns(pl.col(self.column).str.split(self.separator))
        height = int(frame[self.column].list.len().fill_null(1).clip(1).sum())
        if height > ROW_LIMIT:
            raise StepRefused(f"that would make {height:,} rows", remedy="keep fewer rows first")
        frame = frame.explode(self.column, keep_nulls=True, empty_as_null=True)
        frame = frame.with_columns(pl.col(self.column).str.strip_chars().replace("", None))
        made = Rows(frame, {**rows.fields, self.column: ColumnField("category")})
        return Applied(made, (f"{rows_said(rows.frame.height)} became {format_number(frame.height)}",))

    def sentence(self) -> str:
        return f"Make a row for each answer in “{self.column}”"
