"""Questions about each row of a table: nothing is summed up, so that single values can be seen."""

from __future__ import annotations

from dataclasses import replace

import polars as pl

from ypsil.core.answers.groups import Group, group_of
from ypsil.core.answers.measures import measure_unit
from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.answers.ordering import members_in_order
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Measure, Question
from ypsil.core.questions.sentence import sentence
from ypsil.core.questions.wording import measure_name
from ypsil.core.tables.model import Column

# What stands between several answers of one row.
_BETWEEN = ", "
_SINGLE = ("sum", "mean", "median", "min", "max", "first", "last")


def check_each_row(question: Question) -> None:
    """Raise QuestionRefused for measures that a single row does not have."""
    if len(question.per) > 1:
        raise QuestionRefused("each row can be shown per one column only", remedy="leave the others out")
    for measure in question.measures:
        for part in measure.parts():
            if part.stat not in _SINGLE or measure.then:
                raise QuestionRefused(
                    f"“{measure.then or part.stat}” has no meaning for a single row", remedy="choose a number column"
                )
    if question.rest is not None:
        raise QuestionRefused("rows that are not shown have no sum here", remedy="leave “rest” out")


def answer_each_row(rows: pl.DataFrame, known: dict[str, Column], question: Question) -> Answer:
    """Return a row of the answer for each row of the table; rows without a value for any measure are left out."""
    groups = [group_of(question.per[0], known[question.per[0].column], rows, "per", "per0")]
    if question.split:
        groups.append(group_of(question.split, known[question.split.column], rows, "split", "split"))
    groups = [_whole(group) for group in groups]
    names = [f"measure{index}" for index in range(len(question.measures))]
    cells = {name: _value(measure) for name, measure in zip(names, question.measures, strict=True)}
    result = rows.select(*(_as(group.cells).alias(group.key) for group in groups), **cells)
    notes = []
    for group in groups:
        if lost := result[group.key].null_count():
            notes.append(f"{_have(lost)} no {group.column.name}")
    if notes:
        result = result.drop_nulls([group.key for group in groups])
    # Rows can only be without any value where each measure misses some.
    if all(result[name].null_count() for name in names):
        present = result.filter(~pl.all_horizontal(pl.col(names).is_null()))
        if empty := result.height - present.height:
            notes.append(f"{_have(empty)} no value")
        result = present
    result = _sorted(result, question, in_time=groups[0].column.ordered)
    if question.keep is not None and result.height > question.keep:
        notes.append(f"{result.height - question.keep:,} more rows are not shown")
        result = result.head(question.keep)
    measures = [
        AnswerColumn(measure_name(measure, question), "number", "measure", measure_unit(measure, known))
        for measure in question.measures
    ]
    columns = (groups[0].column, *(_with_members(group, result) for group in groups[1:]), *measures)
    return Answer(sentence(question), columns, result, result.height, tuple(notes), each_row=True)


def _whole(group: Group) -> Group:
    """Return a group in which several answers of one row are one value: a row is shown once."""
    if not group.explode:
        return group
    return replace(group, cells=group.cells.list.join(_BETWEEN), explode=False, members=())


def _with_members(group: Group, result: pl.DataFrame) -> AnswerColumn:
    """Return the split's column with its values in their order, else from the commonest down."""
    sizes = result[group.key].value_counts().rename({"count": "measure0"})
    members, is_own = members_in_order(sizes[group.key], group, None, False, lambda _: sizes)
    return replace(group.column, ordered=group.column.ordered or is_own, members=tuple(members))


def _have(count: int) -> str:
    return f"{count:,} rows have" if count != 1 else "1 row has"


def _as(cells: pl.Expr | pl.Series) -> pl.Expr:
    return pl.lit(cells) if isinstance(cells, pl.Series) else cells


def _value(measure: Measure) -> pl.Expr:
    if measure.ratio:
        above, below = (_value(part) for part in measure.ratio)
        return pl.when(below != 0).then(above / below)
    return pl.col(measure.column or "")


def _sorted(result: pl.DataFrame, question: Question, *, in_time: bool) -> pl.DataFrame:
    order = question.order
    if order is None:
        return result.sort("per0", maintain_order=True) if in_time else result
    if order.by == "given":
        return result
    by = "measure0" if order.by == "value" else "per0"
    return result.sort(by, descending=order.descending, nulls_last=True, maintain_order=True)
