"""Steps about the values in cells: filling, replacing, correcting, calculating, classing."""

from __future__ import annotations

from itertools import pairwise
from typing import Literal

import numpy as np
import polars as pl
from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.figures import format_number
from ypsil.core.tables.calculation import compile_calculation
from ypsil.core.tables.classes import MOST_CLASSES, edges_of_width
from ypsil.core.tables.convert import as_text, convert
from ypsil.core.tables.model import Field as ColumnField
from ypsil.core.tables.numbers_in_text import whole_if_whole
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
    quoted,
    rows_said,
)

_PERIODS = ("year", "quarter", "month", "week", "day")
_TRUNCATE = {"year": "1y", "quarter": "1q", "month": "1mo", "week": "1w", "day": "1d"}


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class FillDown(Step):
    offered_at = 80
    title = "Fill gaps from above"
    purpose = "after merged cells, each row gets its value"
    inputs = (Input("columns", "Columns", "columns"),)
    type: Literal["fill_down"] = "fill_down"
    columns: tuple[str, ...] = Field(min_length=1)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, self.columns)
        before = sum(rows.frame[name].null_count() for name in self.columns)
        frame = rows.frame.with_columns(pl.col(self.columns).forward_fill())
        filled = before - sum(frame[name].null_count() for name in self.columns)
        return Applied(rows.with_frame(frame), (f"{format_number(filled)} gaps filled",))

    def sentence(self) -> str:
        return f"Fill gaps in {quoted(self.columns)} from above"


class Swap(_Part):
    old: str = Field(max_length=2_000)
    new: str = Field("", max_length=2_000)


class ReplaceValues(Step):
    offered_at = 90
    title = "Replace values"
    purpose = "whole values, or a part of each"
    inputs = (
        Input("column", "Column", "column"),
        Input("swaps", "Replace", "pairs", hint="leave the new value empty to make it missing"),
        Input("within", "Also inside longer texts", "yesno", optional=True),
    )
    type: Literal["replace_values"] = "replace_values"
    column: str
    swaps: tuple[Swap, ...] = Field(min_length=1, max_length=500)
    within: bool = False

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [self.column])
        field = rows.fields[self.column]
        text = as_text(rows.frame[self.column], field)
        if self.within:
            after = text
            for swap in self.swaps:
                after = after.str.replace_all(swap.old, swap.new, literal=True)
        else:
            old, new = [swap.old for swap in self.swaps], [swap.new or None for swap in self.swaps]
            after = text.replace_strict(old, new, default=text, return_dtype=pl.String)
        after = after.replace("", None)
        count = int(after.ne_missing(text).sum())
        note = f"{format_number(count)} changed" if count else "nothing to replace was found"
        if field.kind in ("category", "text", "place"):
            return Applied(rows.with_column(after.alias(self.column), field), (note,))
        made = convert(after.alias(self.column), ColumnField("category"), field.kind)
        if made.unfit:
            raise StepRefused(
                f"{quoted(value for value, _ in made.unfit)} does not fit among {field.kind} values",
                remedy="give a value that fits, or change the column's kind first",
            )
        unit = made.field.unit or field.unit
        return Applied(
            rows.with_column(made.values, ColumnField(field.kind, unit, made.field.form or field.form)), (note,)
        )

    def sentence(self) -> str:
        said = [f"“{swap.old}” by {f'“{swap.new}”' if swap.new else 'nothing'}" for swap in self.swaps[:3]]
        more = f" … ({len(self.swaps)})" if len(self.swaps) > 3 else ""
        return f"In “{self.column}”, replace {', '.join(said)}{more}"


class Spellings(_Part):
    to: str = Field(max_length=500)
    spellings: tuple[str, ...] = Field(min_length=1)


class MergeSpellings(Step):
    offered_at = 100
    title = "Merge spellings"
    purpose = "several ways of writing one thing become one"
    inputs = (Input("column", "Column", "column", kinds=("category", "text", "place", "list")),
              Input("groups", "Spellings that are one", "groups", proposes="groups"))  # fmt: skip
    type: Literal["merge_spellings"] = "merge_spellings"
    column: str
    groups: tuple[Spellings, ...] = Field(min_length=1)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need_kind(rows, self.column, "category", "text", "place", "list")
        swaps = {old: group.to for group in self.groups for old in group.spellings}
        cells, field = rows.frame[self.column], rows.fields[self.column]
        if field.kind == "list":
            after = cells.list.eval(pl.element().replace(swaps))
            count = int((after != cells).sum())
        else:
            after = cells.replace(swaps)
            count = int(after.ne_missing(cells).sum())
        return Applied(rows.with_column(after, field), (f"{format_number(count)} cells changed",))

    def sentence(self) -> str:
        said = [f"{quoted(group.spellings, 3)} as “{group.to}”" for group in self.groups[:2]]
        more = f" … ({len(self.groups)})" if len(self.groups) > 2 else ""
        return f"In “{self.column}”, write {', '.join(said)}{more}"


class CorrectCell(Step):
    """One cell set right. It is found again by its key, or by its row where the table has no key.

    ``was`` is what stood there; when the file says something else by now, the correction does not apply.
    """

    offered_at = 250
    title = "Correct a cell"
    purpose = "one value that is wrong in the file"
    inputs = ()
    type: Literal["correct_cell"] = "correct_cell"
    column: str
    value: str | None = Field(None, max_length=20_000)
    was: str | None = Field(None, max_length=20_000)
    key: dict[str, str | None] = {}
    row: int | None = Field(None, ge=1)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need(rows, [self.column, *self.key])
        field = rows.fields[self.column]
        places = self._places(rows)
        if len(places) != 1:
            found = "no row has" if not len(places) else f"{len(places):,} rows have"
            return Applied(rows, (f"No longer applies: {found} {self._place()}",))
        place = int(places[0])
        text = as_text(rows.frame[self.column].slice(place, 1), field)[0]
        if text != self.was:
            now = f"“{text}”" if text is not None else "nothing"
            return Applied(rows, (f"No longer applies: the file now says {now}",))
        made = convert(pl.Series(self.column, [self.value], dtype=pl.String), ColumnField("category"), field.kind)
        if made.unfit:
            raise StepRefused(f"“{self.value}” does not fit a column of {field.kind}", remedy="give a value that fits")
        cells = rows.frame[self.column]
        value = made.values.cast(cells.dtype) if made.values.dtype != pl.Float64 else made.values
        position = pl.int_range(len(cells), eager=True) == place
        after = value.new_from_index(0, len(cells)).zip_with(position, cells.cast(value.dtype))
        return Applied(rows.with_column(after.alias(self.column), field))

    def _places(self, rows: Rows) -> pl.Series:
        if not self.key:
            inside = self.row is not None and self.row <= rows.frame.height
            return pl.Series([self.row - 1] if inside and self.row else [], dtype=pl.Int64)
        same = pl.repeat(True, rows.frame.height, eager=True)
        for name, value in self.key.items():
            same &= _equal(as_text(rows.frame[name], rows.fields[name]), value)
        return same.arg_true()

    def _place(self) -> str:
        if self.key:
            return ", ".join(f"{name} “{value}”" for name, value in self.key.items())
        return f"row {format_number(self.row or 0)}"

    def sentence(self) -> str:
        was, now = (f"“{value}”" if value is not None else "nothing" for value in (self.was, self.value))
        return f"Correct “{self.column}” from {was} to {now} where {self._place()}"


def _equal(cells: pl.Series, value: str | None) -> pl.Series:
    return cells.is_null() if value is None else (cells == value).fill_null(False)


class Calculate(Step):
    offered_at = 160
    title = "Calculate a new column"
    purpose = "cost per visit, a share, days between two dates …"
    inputs = (
        Input("name", "Name of the new column", "new_name"),
        Input("calculation", "It is", "calculation", hint="such as Cost / Visits"),
        Input("unit", "Unit", "text", optional=True, hint="such as £ or %; found by itself where it can be"),
    )
    type: Literal["calculate"] = "calculate"
    name: str = Field(max_length=200)
    calculation: str = Field(max_length=2_000)
    unit: str | None = Field(None, max_length=12)

    def apply(self, rows: Rows, context: Context) -> Applied:
        name = need_free(rows, self.name, but=rows.names)
        made = compile_calculation(self.calculation, rows.fields, context.today)
        try:
            values = made.values(rows.frame).alias(name)
        except pl.exceptions.PolarsError:
            raise StepRefused("the calculation cannot be carried out on these values", remedy="change it") from None
        field = made.field()
        if field.kind == "number":
            values = values.set(~values.is_finite(), None) if values.dtype.is_float() else values
            values = whole_if_whole(values)
            field = ColumnField("number", self.unit or field.unit)
        elif values.dtype == pl.Null:
            values = values.cast(pl.String)
        empty = values.null_count()
        notes = (f"{rows_said(empty)} without a result: something it needs is missing",) if empty else ()
        return Applied(rows.with_column(values, field), notes)

    def sentence(self) -> str:
        return f"“{self.name}” is {self.calculation}"


class Classes(Step):
    """Numbers in classes from ``from`` up to but not including ``to``; dates in periods."""

    offered_at = 170
    title = "Group into classes"
    purpose = "ages into age bands, days into months"
    inputs = (
        Input("column", "Column", "column", kinds=("number", "date")),
        Input("width", "Classes of this width", "number", optional=True, hint="for numbers"),
        Input("borders", "Or with these borders", "values", optional=True, hint="numbers, one a line"),
        Input(
            "period",
            "Periods",
            "choice",
            optional=True,
            choices=tuple((one, one) for one in _PERIODS),
            hint="for dates",
        ),
        Input("into", "Name of the new column", "new_name"),
    )
    type: Literal["classes"] = "classes"
    column: str
    width: float | None = Field(None, gt=0)
    borders: tuple[float, ...] = Field((), max_length=MOST_CLASSES)
    period: Literal["year", "quarter", "month", "week", "day"] | None = None
    into: str = Field(max_length=200)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need_kind(rows, self.column, "number", "date")
        into = need_free(rows, self.into, but=[self.column])
        cells, field = rows.frame[self.column], rows.fields[self.column]
        if field.kind == "date":
            return Applied(rows.with_column(*self._periods(cells.alias(into), field)))
        borders = sorted(self.borders) or self._even_borders(cells)
        labels = _class_names(borders, percent=field.unit == "%")
        position = pl.Series(np.searchsorted(borders, cells.cast(pl.Float64).fill_null(0).to_numpy(), side="right"))
        values = pl.Series(labels).gather(position).set(cells.is_null(), None).alias(into)
        return Applied(rows.with_column(values, ColumnField("category")))

    def _periods(self, cells: pl.Series, field: ColumnField) -> tuple[pl.Series, ColumnField]:
        if self.period is None or field.form == "time":
            raise StepRefused("nothing says which periods to make", remedy="choose year, quarter, month, week or day")
        form = None if self.period == "day" else self.period
        return cells.dt.truncate(_TRUNCATE[self.period]).cast(pl.Date), ColumnField("date", form=form)

    def _even_borders(self, cells: pl.Series) -> list[float]:
        if self.width is None:
            raise StepRefused("nothing says how wide the classes are", remedy="give a width or borders")
        low, high = cells.min(), cells.max()
        if low is None or high is None:
            return [0.0]
        if (float(high) - float(low)) / self.width > MOST_CLASSES:  # type: ignore[arg-type]
            raise StepRefused(f"that would make more than {MOST_CLASSES} classes", remedy="make them wider")
        return edges_of_width(float(low), float(high), self.width)  # type: ignore[arg-type]

    def sentence(self) -> str:
        if self.period:
            how = f"by {self.period}"
        elif self.borders:
            how = "at " + ", ".join(format_number(border) for border in sorted(self.borders))
        else:
            how = f"of {format_number(self.width or 0)}"
        return f"Group “{self.column}” into classes {how} as “{self.into}”"


def _class_names(borders: list[float], *, percent: bool) -> list[str]:
    """Return the names of the classes below, between and above the borders.

    >>> _class_names([0, 10, 20], percent=False)
    ['below 0', '0 to under 10', '10 to under 20', '20 and over']
    """
    shown = [format_number(border, unit="%" if percent else None) for border in borders]
    between = [f"{low} to under {high}" for low, high in pairwise(shown)]
    return [f"below {shown[0]}", *between, f"{shown[-1]} and over"]
