"""Columns asked with the same answers, put below each other for one question."""

from __future__ import annotations

from dataclasses import dataclass

import polars as pl

from ypsil.core.answers.where import keep_rows
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Question, Stack
from ypsil.core.questions.stacking import stacked_columns
from ypsil.core.tables.model import Column
from ypsil.core.tables.name_parts import own_parts

ROW = "\x00respondent"
_SHORT_SCALE = 5


@dataclass(frozen=True, slots=True)
class Stacked:
    """The rows below each other with their columns, and how many people gave them; ``ROW`` tells whose each is.

    ``scale`` holds all that stands in the stacked columns, whatever is filtered.
    """

    frame: pl.DataFrame
    scale: pl.DataFrame
    columns: dict[str, Column]
    people: int


def stacked_rows(frame: pl.DataFrame, known: dict[str, Column], question: Question) -> Stacked:
    """Return the rows of a question with its columns below each other; filters of the table's columns come first."""
    stack = question.stack
    assert stack is not None
    _check_scales(frame, known, stack)
    columns = stacked_columns(known, stack)
    virtual = (stack.name, stack.value)
    rows = keep_rows(frame, known, tuple(rule for rule in question.row_rules if rule.column not in virtual))
    rows = rows.with_row_index(ROW)
    others = [name for name in rows.columns if name not in stack.columns]
    rows = rows.unpivot(stack.columns, index=others, variable_name=stack.name, value_name=stack.value)
    parts = dict(zip(stack.columns, own_parts(stack.columns), strict=True))
    rows = rows.with_columns(pl.col(stack.name).replace_strict(parts, return_dtype=pl.String))
    rows = keep_rows(rows, columns, tuple(rule for rule in question.row_rules if rule.column in virtual))
    people = rows.filter(pl.col(stack.value).is_not_null())[ROW].n_unique()
    scale = frame.select(stack.columns).unpivot(value_name=stack.value).select(stack.value)
    return Stacked(rows, scale, columns, people)


def _check_scales(frame: pl.DataFrame, known: dict[str, Column], stack: Stack) -> None:
    """Refuse to mix ratings from 1 to 5 with ratings from 0 to 10: their means and parts would say nothing."""
    if known[stack.columns[0]].kind != "number":
        return
    highest = {name: float(frame[name].max() or 0) for name in stack.columns}  # type: ignore[arg-type]
    short = [name for name, high in highest.items() if 1 < high <= _SHORT_SCALE]
    long = [name for name, high in highest.items() if _SHORT_SCALE < high <= 2 * _SHORT_SCALE]
    if short and long:
        raise QuestionRefused(
            f"“{short[0]}” is rated up to {highest[short[0]]:g} and “{long[0]}” up to {highest[long[0]]:g}; "
            "scales of different length do not go together",
            remedy="stack those of one scale, or bring them to one by a calculation",
        )
