"""Answering a question with polars."""

from __future__ import annotations

import datetime as dt
from dataclasses import replace
from typing import Any

import numpy as np
import polars as pl

from ypsil.core.errors import MissingColumns, QuestionRefused
from ypsil.core.questions.aggregate import Aggregation, CellsOf, not_numbered
from ypsil.core.questions.derived import check_then, part_of_total, worked_out
from ypsil.core.questions.each_row import answer_each_row, check_each_row
from ypsil.core.questions.groups import TRUNCATE, Group, Role, check_group
from ypsil.core.questions.hiding import hide_small
from ypsil.core.questions.measures import (
    basis_of,
    check_measure,
    measure_unit,
    scale_doubts,
)
from ypsil.core.questions.model import Answer, AnswerColumn, Question
from ypsil.core.questions.ordering import keep_first, members_in_order
from ypsil.core.questions.respondents import MORE_THAN_ALL, Respondents, respondents_of
from ypsil.core.questions.sentence import sentence
from ypsil.core.questions.shared import Grouped, SharedRows
from ypsil.core.questions.stacked import stacked_columns, stacked_rows
from ypsil.core.questions.where import keep_rows
from ypsil.core.questions.wording import measure_name
from ypsil.core.questions.words import answer_words
from ypsil.core.tables.model import Column

_MOST_PERIODS = 100_000
_BESIDE = ("-base", "-deviation", "-effective", "-rows")
_COUNTED = ("count", "distinct", "sum")


def answer(
    frame: pl.DataFrame, columns: tuple[Column, ...], question: Question, *, shared: SharedRows | None = None
) -> Answer:
    """Answer a question about a frame whose columns are described by ``columns``.

    ``shared`` are the rows that pass the question's filters, where other questions are about the same.

    Rows come long: one for each group and split. The base is the number of rows that the filters
    left, for a share those of them with a value, of columns below each other the people who gave any answer.
    Raises MissingColumns or QuestionRefused.
    """
    check(columns, question)
    known = {column.name: column for column in columns}
    people, scale = None, frame
    if question.stack:
        made = stacked_rows(frame, known, question)
        known, rows, people = made.columns, made.frame, made.people
        scale = made.scale
    else:
        rows = keep_rows(frame, known, question.where) if shared is None else shared.frame
    if question.words:
        return answer_words(rows, known, question)
    if question.each_row:
        return answer_each_row(rows, known, question)
    rows, notes = _weighted_rows(rows, question)
    if shared is None or rows is not shared.frame:
        shared = SharedRows(rows)
    groups = [shared.group(grouped, role, known[grouped[0].column]) for grouped, role in _pers(question)]

    def cells(name: str) -> pl.Series:
        return scale[name] if name in scale.columns else frame[name]

    basis = basis_of(cells, known, question)
    base = _base(rows, question) if people is None else people
    rows, respondents, lost = _grouped_rows(rows, groups, question)
    notes += lost + _missing_notes(rows, question) + scale_doubts(cells, question)
    if respondents is not None and all(measure.is_of_respondents for measure in question.measures):
        base = respondents.people
    numbered = _numbered(question, groups, None if lost else shared)
    whole = Aggregation(rows, question.measures, basis, numbered, with_people=question.least_base is not None)
    result, columns_of_groups, more, is_cut = _aggregate_in_order(whole, groups, question, respondents)
    exceeds = tuple(note for note in more if note == MORE_THAN_ALL)
    hidden = hide_small(result, groups, question, in_order=bool(columns_of_groups) and columns_of_groups[0].ordered)
    result, more = hidden.rows, [*more, *hidden.notes]
    return Answer(
        sentence(question),
        (*columns_of_groups, *measure_columns(question, known)),
        result[[*(group.key for group in groups), *_names(question)]],
        base,
        tuple(notes + more),
        is_cut=is_cut,
        bases=_beside(result, _BESIDE[:1]),
        exactness=_beside(result, _BESIDE[1:], whole_names=True),
        footnotes=(*exceeds, *hidden.notes),
    )


def _pers(question: Question) -> list[tuple[Grouped, Role]]:
    """Return what a question groups by, with the names of their keys."""
    found: list[tuple[Grouped, Role]] = [((per, f"per{index}"), "per") for index, per in enumerate(question.per)]
    return [*found, ((question.split, "split"), "split")] if question.split else found


def _numbered(question: Question, groups: list[Group], shared: SharedRows | None) -> CellsOf:
    """Return what gives the rows numbered by the groups of some keys, where they can be."""
    if shared is None:
        return not_numbered
    pairs = {key: (per, group) for ((per, key), _), group in zip(_pers(question), groups, strict=True)}
    return lambda keys: shared.cells([pairs[key] for key in keys])


def _weighted_rows(rows: pl.DataFrame, question: Question) -> tuple[pl.DataFrame, list[str]]:
    """Leave out the rows without a weight, and say so: nobody knows how much they count."""
    if not question.weight:
        return rows, []
    lost = rows[question.weight].null_count()
    if not lost:
        return rows, []
    return rows.filter(pl.col(question.weight).is_not_null()), [f"{_rows(lost)} no {question.weight}"]


def _names(question: Question) -> list[str]:
    return [f"measure{index}" for index in range(len(question.measures))]


def _beside(result: pl.DataFrame, ends: tuple[str, ...], *, whole_names: bool = False) -> pl.DataFrame | None:
    """Return what is kept beside the shares and means, under their places among the measures."""
    names = {name: name.removeprefix("measure") for name in result.columns if name.endswith(ends)}
    if not whole_names:
        names = {name: short.partition("-")[0] for name, short in names.items()}
    return result[list(names)].rename(names) if names else None


def check(columns: tuple[Column, ...], question: Question) -> None:
    """Raise MissingColumns or QuestionRefused when a table with these columns cannot answer the question."""
    known = {column.name: column for column in columns}
    missing = [name for name in question.columns() if name not in known]
    if missing:
        raise MissingColumns(missing, list(known))
    if question.stack:
        known = stacked_columns(known, question.stack)
        unknown = [name for name in _used(question) if name not in known]
        if unknown:
            raise QuestionRefused(
                f"“{unknown[0]}” is stacked, so it is no longer a column of its own",
                remedy=f"ask for “{question.stack.value}” per “{question.stack.name}”",
            )
    if question.order and question.order.by == "keyness" and not question.words:
        raise QuestionRefused("only words mark a group", remedy="ask per word, or order otherwise")
    if question.split and question.split.by in ("word", "row"):
        raise QuestionRefused(
            f"an answer is not split by {question.split.by}", remedy="ask per word or row, or split by a column"
        )
    for measure in question.measures:
        check_measure(measure, known, question)
    for per in (*question.per, *([question.split] if question.split else [])):
        check_group(per, known[per.column])
    grain = _first_grain(question, known)
    for measure in question.measures:
        check_then(measure, len(question.per), grain)
    if question.each_row:
        check_each_row(question)


def _used(question: Question) -> list[str]:
    """Return the columns that a question uses once its columns are stacked."""
    measured = [part.column for measure in question.measures for part in measure.parts()]
    grouped = [per.column for per in (*question.per, *([question.split] if question.split else []))]
    return [name for name in (*measured, *grouped, question.weight) if name is not None]


def _first_grain(question: Question, known: dict[str, Column]) -> Any:
    if not question.per or known[question.per[0].column].kind != "date":
        return None
    return question.per[0].grain or "day"


def measure_columns(question: Question, known: dict[str, Column]) -> list[AnswerColumn]:
    """Describe the measured columns of an answer."""
    return [
        AnswerColumn(
            measure_name(measure, question),
            "number",
            "measure",
            measure_unit(measure, known),
            adds_up=measure.then is None and (measure.stat in ("sum", "count") or measure.is_part),
            counts=measure.stat == "count" and measure.then is None,
            decimals=0 if measure.stat == "recommendation" else None,
        )
        for measure in question.measures
    ]


def _grouped_rows(
    rows: pl.DataFrame, groups: list[Group], question: Question
) -> tuple[pl.DataFrame, Respondents | None, list[str]]:
    """Add the group keys to the rows; rows without one are left out and said. Tell also who answered, where asked."""
    notes = []
    ready = [group.cells.alias(group.key) for group in groups if isinstance(group.cells, pl.Series)]
    worked_out = {group.key: group.cells for group in groups if isinstance(group.cells, pl.Expr)}
    rows = rows.hstack(ready)
    if worked_out:
        rows = rows.with_columns(**worked_out)
    respondents = respondents_of(rows, groups, question)
    for group in groups:
        if group.explode:
            rows = rows.explode(group.key)
        lost = rows[group.key].null_count()
        if lost:
            notes.append(f"{_rows(lost)} no {group.column.name}")
            rows = rows.filter(pl.col(group.key).is_not_null())
    return rows, respondents, notes


def _base(rows: pl.DataFrame, question: Question) -> int:
    """Return the rows that an answer rests on: for a share, those that have a value to be counted."""
    first = question.measures[0]
    if first.rests_on_values and first.of == "answered" and first.column and len(question.measures) == 1:
        return rows.height - rows[first.column].null_count()
    return rows.height


def _rows(count: int) -> str:
    return f"{count:,} rows have" if count != 1 else "1 row has"


def _missing_notes(rows: pl.DataFrame, question: Question) -> list[str]:
    needed = [
        part.column
        for measure in question.measures
        for part in measure.parts()
        if part.column is not None and part.stat not in ("count", "distinct") and part.of == "answered"
    ]
    lost = {name: rows[name].null_count() for name in dict.fromkeys(needed)}
    return [f"{_rows(count)} no {name}" for name, count in lost.items() if count]


def _aggregate_in_order(
    whole: Aggregation, groups: list[Group], question: Question, respondents: Respondents | None
) -> tuple[pl.DataFrame, list[AnswerColumn], list[str], bool]:
    """Return the answer's rows, ordered, cut to ``keep`` groups, their columns, notes, and whether groups are gone."""
    keys = [group.key for group in groups]
    result = whole.by(keys)
    if not groups:
        return result, [], [], False
    notes: list[str] = []
    is_cut = False
    ranks: dict[str, list[Any]] = {}
    columns = []

    def totals(key: str) -> pl.DataFrame:
        return result if len(keys) == 1 else whole.of_first().by([key])

    for position, group in enumerate(groups):
        is_first = position == 0 and group.column.role == "per"
        order, keep = (question.order, question.keep) if is_first else (None, None)
        found = result[group.key] if len(keys) == 1 else result[group.key].unique()
        members, is_own = members_in_order(found, group, order, keep is not None, totals)
        if keep is not None and len(members) > keep:
            cut = keep_first(group, members, keep, question.rest, whole.rows.schema[group.key])
            members = cut.members
            notes.append(cut.note)
            is_cut = cut.named is None
            if cut.named is not None:
                whole = whole.renamed(cut.named)
                result = whole.by(keys)
        ranks[group.key] = members
        columns.append(replace(group.column, ordered=group.column.ordered or is_own))
    if respondents is not None:
        result, several = respondents.shares(result, question)
        notes += several
    result, more = _in_order(result, groups, question, ranks)
    return result, columns, notes + more, is_cut


def _in_order(
    result: pl.DataFrame, groups: list[Group], question: Question, ranks: dict[str, list[Any]]
) -> tuple[pl.DataFrame, list[str]]:
    """Sort the aggregated rows, fill in what has no rows, and work out what depends on the rows before."""
    keys = [group.key for group in groups]
    # A part is a part of everything, also of what is not kept.
    parts = [
        part_of_total(f"measure{index}", measure, keys)
        for index, measure in enumerate(question.measures)
        if measure.is_part
    ]
    if parts:
        result = result.with_columns(parts)
    if question.keep is not None:
        result = result.filter(pl.col(keys[0]).is_in(ranks[keys[0]]))
    goes_along = any(measure.then for measure in question.measures)
    found = result
    first = groups[0]
    fills = (first.has_periods and (goes_along or first.gaps is not None)) or first.gaps is not None
    if fills and first.column.role == "per":
        ranks = {**ranks, first.key: _all_periods(first, ranks[first.key])}
    if fills or any(group.members for group in groups):
        result = _with_every_member(result, groups, ranks, question)
    result = _ranked(result, ranks)
    for index, measure in enumerate(question.measures):
        name = f"measure{index}"
        if measure.then and first.has_periods:
            # Time goes forwards, whatever order the periods are shown in.
            result = worked_out(result.sort(first.key, maintain_order=True), name, measure, first, keys[1:])
            result = _ranked(result, ranks)
        elif measure.then:
            result = worked_out(result, name, measure, first, keys[1:])
    added = result.height - found.height
    if fills and first.gaps is None and added:
        result = result.join(found.select(keys), on=keys, how="semi", maintain_order="left")
    if fills and first.gaps and added:
        said = "count as zero" if first.gaps == "zero" else "are left open"
        return result, [f"{added:,} periods without rows {said}" if added != 1 else f"1 period without rows {said}"]
    return result, []


def _ranked(result: pl.DataFrame, ranks: dict[str, list[Any]]) -> pl.DataFrame:
    """Put the rows in the order of their groups' ranks, the first group's before the second's."""
    places = []
    for key, members in ranks.items():
        rank = {member: place for place, member in enumerate(members)}
        places.append([rank[member] for member in result[key].to_list()])
    return result[pl.Series(np.lexsort(places[::-1]).astype(np.uint32))]


def _all_periods(group: Group, found: list[Any]) -> list[Any]:
    """Return every period from the first to the last of those found, in the order that these stand in."""
    if group.column.grain in ("weekday", "hour"):
        every: list[Any] = list(range(1, 8)) if group.column.grain == "weekday" else list(range(24))
    elif not found or not isinstance(found[0], dt.date):
        return found
    else:
        step = TRUNCATE[group.column.grain or "day"]
        every = pl.date_range(min(found), max(found), step, eager=True).to_list()
        if len(every) > _MOST_PERIODS:
            raise QuestionRefused(
                f"from the first to the last {group.column.grain} there are {len(every):,}",
                remedy="ask for longer periods",
            )
    return every if found == sorted(found) else found + [period for period in every if period not in set(found)]


def _with_every_member(
    result: pl.DataFrame, groups: list[Group], ranks: dict[str, list[Any]], question: Question
) -> pl.DataFrame:
    """Add the classes and periods that no row falls in: counts and sums of them are zero, or missing by choice."""
    keys = [group.key for group in groups]
    grid = pl.DataFrame({"one": [0]})
    for group in groups:
        members = pl.DataFrame({group.key: ranks[group.key]}, schema={group.key: result.schema[group.key]})
        grid = grid.join(members, how="cross")
    full = grid.drop("one").join(result.with_columns(pl.lit(True).alias("there")), on=keys, how="left")
    zero = any(group.members for group in groups) or groups[0].gaps == "zero"
    counted = [
        f"measure{index}"
        for index, measure in enumerate(question.measures)
        if zero and (measure.stat in _COUNTED or measure.is_part)
    ]
    absent = pl.col("there").is_null()
    return full.with_columns(pl.when(absent).then(0).otherwise(pl.col(name)).alias(name) for name in counted).drop(
        "there"
    )
