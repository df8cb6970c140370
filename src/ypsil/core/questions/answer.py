"""Answering a question with polars."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import polars as pl

from ypsil.core.errors import MissingColumns, QuestionRefused
from ypsil.core.figures import Grain
from ypsil.core.questions.measures import amount, check_measure, measure_unit
from ypsil.core.questions.model import Answer, AnswerColumn, Measure, Order, Per, Question
from ypsil.core.questions.sentence import sentence
from ypsil.core.questions.where import keep_rows
from ypsil.core.questions.wording import measure_name
from ypsil.core.questions.words import answer_words
from ypsil.core.tables.model import Column, Kind

_TRUNCATE = {"year": "1y", "quarter": "1q", "month": "1mo", "week": "1w", "day": "1d"}


@dataclass(frozen=True, slots=True)
class _Group:
    """A column of the answer that rows are grouped by."""

    key: str
    column: AnswerColumn
    expression: pl.Expr
    explode: bool = False

    @property
    def in_time_order(self) -> bool:
        return self.column.grain is not None or self.column.kind in ("date", "number")


def answer(frame: pl.DataFrame, columns: tuple[Column, ...], question: Question) -> Answer:
    """Answer a question about a frame whose columns are described by ``columns``.

    Rows come long: one for each group and split. The base is the number of rows that the filters
    left, for a share those of them with a value.
    Raises MissingColumns or QuestionRefused.
    """
    check(columns, question)
    known = {column.name: column for column in columns}
    rows = keep_rows(frame, known, question.where)
    if question.words:
        return answer_words(rows, known, question)
    groups = [_group(per, known, "per", f"per{index}") for index, per in enumerate(question.per)]
    if question.split:
        groups.append(_group(question.split, known, "split", "split"))
    base = _base(rows, question)
    rows, notes = _grouped_rows(rows, groups)
    notes += _missing_notes(rows, question)
    result, more = _aggregate_in_order(rows, groups, question, known)
    return Answer(
        sentence(question),
        (*(group.column for group in groups), *_measure_columns(question, known)),
        tuple(result.rows()),
        base,
        tuple(notes + more),
    )


def check(columns: tuple[Column, ...], question: Question) -> None:
    """Raise MissingColumns or QuestionRefused when a table with these columns cannot answer the question."""
    known = {column.name: column for column in columns}
    missing = [name for name in question.columns() if name not in known]
    if missing:
        raise MissingColumns(missing, list(known))
    _refuse_what_is_not_there_yet(question)
    for measure in question.measures:
        check_measure(measure, known)
    grouped = (*question.per, *([question.split] if question.split else []))
    for per in grouped:
        if per.by != "word":
            _group(per, known, "per", "check")


def _refuse_what_is_not_there_yet(question: Question) -> None:
    asked = [f"then: {measure.then}" for measure in question.measures if measure.then]
    for per in (*question.per, *([question.split] if question.split else [])):
        if per.by is not None and not isinstance(per.by, str):
            asked.append("by: bins" if hasattr(per.by, "bins") else "by: width")
    if question.order and question.order.by == "natural":
        asked.append("order by: natural")
    if question.split and question.split.by == "word":
        asked.append("split by: word")
    if asked:
        raise QuestionRefused(f"“{asked[0]}” is not there yet", remedy="leave it out of the question")


def _measure_columns(question: Question, known: dict[str, Column]) -> list[AnswerColumn]:
    return [
        AnswerColumn(measure_name(measure), "number", "measure", measure_unit(measure, known))
        for measure in question.measures
    ]


def _group(per: Per, known: dict[str, Column], role: Any, key: str) -> _Group:
    column = known[per.column]
    cell = pl.col(column.name)
    kind: Kind = column.kind
    grain: Grain | None = None
    if per.by is not None and column.kind != "date":
        raise QuestionRefused(
            f"“{column.name}” holds {column.kind}, so it cannot be grouped by {per.by}",
            remedy="choose a date column or leave “by” out",
        )
    if column.kind == "date":
        usual: Grain = "hour" if column.form == "time" else "day"
        grain = per.by if isinstance(per.by, str) and per.by != "word" else usual
        if column.form == "time" and grain != "hour":
            raise QuestionRefused(
                f"“{column.name}” holds times of the day, so it cannot be grouped by {grain}",
                remedy="group it by hour",
            )
        cell, kind = _by_grain(cell, grain, column.form == "time")
    elif column.kind == "yesno":
        cell, kind = (
            pl.when(cell.is_not_null()).then(pl.when(cell).then(pl.lit("Yes")).otherwise(pl.lit("No"))),
            "category",
        )
    elif column.kind == "list":
        kind = "category"
    return _Group(key, AnswerColumn(column.name, kind, role, None, grain), cell, column.kind == "list")


def _by_grain(cell: pl.Expr, grain: Grain, is_time: bool) -> tuple[pl.Expr, Kind]:
    if grain == "weekday":
        return cell.dt.weekday().cast(pl.Int64), "category"
    if grain == "hour":
        return (cell if is_time else cell.cast(pl.Datetime)).dt.hour().cast(pl.Int64), "category"
    return cell.dt.truncate(_TRUNCATE[grain]).cast(pl.Date), "date"


def _grouped_rows(rows: pl.DataFrame, groups: list[_Group]) -> tuple[pl.DataFrame, list[str]]:
    """Add the group keys to the rows; rows without one are left out and said."""
    notes = []
    rows = rows.with_columns(**{group.key: group.expression for group in groups})
    for group in groups:
        if group.explode:
            rows = rows.explode(group.key)
        lost = rows[group.key].null_count()
        if lost:
            notes.append(f"{_rows(lost)} no {group.column.name}")
            rows = rows.filter(pl.col(group.key).is_not_null())
    return rows, notes


def _base(rows: pl.DataFrame, question: Question) -> int:
    """Return the rows that an answer rests on: for a share, those that have a value to be counted."""
    first = question.measures[0]
    if first.stat == "share" and first.values and first.column and len(question.measures) == 1:
        return rows.height - rows[first.column].null_count()
    return rows.height


def _rows(count: int) -> str:
    return f"{count:,} rows have" if count != 1 else "1 row has"


def _missing_notes(rows: pl.DataFrame, question: Question) -> list[str]:
    needed = [
        part.column
        for measure in question.measures
        for part in measure.parts()
        if part.column is not None and part.stat not in ("count", "distinct")
    ]
    lost = {name: rows[name].null_count() for name in dict.fromkeys(needed)}
    return [f"{_rows(count)} no {name}" for name, count in lost.items() if count]


def _aggregate_in_order(
    rows: pl.DataFrame, groups: list[_Group], question: Question, known: dict[str, Column]
) -> tuple[pl.DataFrame, list[str]]:
    """Return the answer's rows, ordered, cut to ``keep`` groups, and notes on what was cut."""
    names = [f"measure{index}" for index in range(len(question.measures))]
    if not groups:
        return _aggregate(rows, [], question.measures, known).select(names), []
    notes: list[str] = []
    ranks: dict[str, list[Any]] = {}
    for position, group in enumerate(groups):
        is_first = position == 0 and group.column.role == "per"
        order = question.order if is_first else None
        members = _members_in_order(rows, group, question.measures, known, order)
        if is_first and question.keep is not None and len(members) > question.keep:
            cut = len(members) - question.keep
            members = members[: question.keep]
            rows, members, note = _cut(rows, group, members, question.rest, cut)
            notes.append(note)
        ranks[group.key] = members
    keys = [group.key for group in groups]
    result = _aggregate(rows, keys, question.measures, known)
    for key, members in ranks.items():
        ranking = pl.DataFrame({key: members}, schema={key: result.schema[key]}).with_row_index(f"rank-{key}")
        result = result.join(ranking, on=key, how="left")
    return result.sort([f"rank-{key}" for key in keys]).select(keys + names), notes


def _cut(
    rows: pl.DataFrame, group: _Group, members: list[Any], rest: str | None, cut: int
) -> tuple[pl.DataFrame, list[Any], str]:
    inside = pl.col(group.key).is_in(members)
    if rest is None:
        return rows.filter(inside), members, f"{cut:,} more of {group.column.name} are not shown"
    if rows.schema[group.key] != pl.String:
        raise QuestionRefused(
            f"“rest” needs named groups, and {group.column.name} holds {group.column.kind}",
            remedy="leave “rest” out",
        )
    named = pl.when(inside).then(pl.col(group.key)).otherwise(pl.lit(rest)).alias(group.key)
    ordered = [member for member in members if member != rest] + [rest]
    return rows.with_columns(named), ordered, f"{cut:,} of {group.column.name} stand together as {rest}"


def _members_in_order(
    rows: pl.DataFrame,
    group: _Group,
    measures: tuple[Measure, ...],
    known: dict[str, Column],
    order: Order | None,
) -> list[Any]:
    """Return a group column's values in the order they are shown in."""
    key = group.key
    if order is None:
        order = Order(by="name") if group.in_time_order else Order(by="value", descending=True)
    if order.by == "name":
        return rows[key].unique().sort(descending=order.descending).to_list()
    if order.by == "given":
        found = rows[key].unique().sort().to_list()
        given = [value for value in order.values if value in found]
        return given + [value for value in found if value not in given]
    totals = _aggregate(rows, [key], measures[:1], known)
    totals = totals.sort(["measure0", key], descending=[order.descending, False], nulls_last=True)
    return totals[key].to_list()


def _aggregate(
    rows: pl.DataFrame, keys: list[str], measures: tuple[Measure, ...], known: dict[str, Column]
) -> pl.DataFrame:
    amounts = [amount(measure, known).alias(f"measure{index}") for index, measure in enumerate(measures)]
    result = rows.group_by(keys).agg(amounts) if keys else rows.select(amounts)
    parts = [
        (pl.col(name) / pl.col(name).sum()).fill_nan(None)
        for name, measure in zip([f"measure{index}" for index in range(len(measures))], measures, strict=True)
        if measure.stat == "share" and not measure.values
    ]
    return result.with_columns(parts)
