"""Answering a question with polars."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Any

import polars as pl

from ypsil.core.answers.aggregate import Aggregation, CellsOf, not_numbered
from ypsil.core.answers.arranging import Arranged, arrange
from ypsil.core.answers.bases import base_of, base_words, needed_columns, pairs_only, shown_groups
from ypsil.core.answers.bounds import bounded
from ypsil.core.answers.derived import check_then
from ypsil.core.answers.each_row import answer_each_row, check_each_row
from ypsil.core.answers.given_away import given_away, tells_too_few
from ypsil.core.answers.groups import Group, Role, check_group, group_of, usual_grain
from ypsil.core.answers.hiding import Away, hide_small
from ypsil.core.answers.measures import basis_of, check_measure, good_way, measure_unit, scale_doubts
from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.answers.respondents import MORE_THAN_ALL, Respondents, respondents_of
from ypsil.core.answers.shared import Grouped, SharedRows
from ypsil.core.answers.stacked import ROW, stacked_rows
from ypsil.core.answers.where import keep_rows, left_out_unsaid, passes
from ypsil.core.errors import MissingColumns, QuestionRefused
from ypsil.core.figures import Grain
from ypsil.core.questions.model import Bins, Measure, Question, Stack
from ypsil.core.questions.sentence import sentence
from ypsil.core.questions.stacking import stacked_columns
from ypsil.core.questions.wording import measure_name
from ypsil.core.tables.model import Column
from ypsil.core.tables.shown_names import said_in_words, shown_names

_BESIDE = ("-base", "-deviation", "-effective", "-rows", "-people", "-people_weight", "-people_effective")


def answer(
    frame: pl.DataFrame, columns: tuple[Column, ...], question: Question, *, shared: SharedRows | None = None
) -> Answer:
    """Answer a question about a frame whose columns are described by ``columns``.

    ``shared`` are the rows that pass the question's filters of rows, where other questions are about the same.

    Rows come long: one for each group and split. What the base is stands in ``bases``.
    Raises MissingColumns or QuestionRefused.
    """
    check(columns, question)
    found = bounded(_answered(frame, {column.name: column for column in columns}, question, shared))
    return replace(found, columns=tuple(_called(found.columns, columns)))


def _called(found: Iterable[AnswerColumn], columns: tuple[Column, ...]) -> Iterator[AnswerColumn]:
    """Yield an answer's columns with what readers see them called."""
    names = shown_names(columns)
    for column in found:
        shown = said_in_words(column.name, names)
        yield column if shown == column.name else replace(column, shown=shown)


def _answered(frame: pl.DataFrame, known: dict[str, Column], question: Question, shared: SharedRows | None) -> Answer:
    away: Away | None = None
    if question.chosen and question.least_base:
        away = _away(frame, known, question)
        if away is None:
            return _kept_back(known, question)
    scale = frame
    if question.stack:
        made = stacked_rows(frame, known, question)
        known, rows, scale = made.columns, made.frame, made.scale
    else:
        rows = keep_rows(frame, known, question.row_rules) if shared is None else shared.frame
    if question.words:
        # Who counts no words waits for none of what that takes.
        from ypsil.core.answers.words import answer_words

        return answer_words(rows, known, question)
    if question.each_row:
        return answer_each_row(rows, known, question)
    notes = [] if question.stack else left_out_unsaid(frame, known, question.rules)
    rows, unweighted = _weighted_rows(rows, question)
    if shared is None or rows is not shared.frame:
        shared = SharedRows(rows)
    groups = [shared.group(grouped, role, known[grouped[0].column]) for grouped, role in _pers(question)]
    if question.stack:
        groups = [_of_one_person(group, question.stack) for group in groups]

    def cells(name: str) -> pl.Series:
        return scale[name] if name in scale.columns else frame[name]

    basis = basis_of(cells, known, question)
    grouped = _grouped_rows(rows, groups, question)
    notes += unweighted + grouped.notes + _missing_notes(grouped.people, question) + scale_doubts(cells, question)
    numbered = _numbered(question, groups, None if grouped.lost else shared)
    rows, measures, paired = pairs_only(grouped.rows, question, known)
    whole = Aggregation(
        rows, measures, replace(basis, known=paired), numbered, with_people=question.least_base is not None
    )
    shown = passes(frame, known, question.shown_rules) if question.shown_rules else None
    arranged = arrange(whole, groups, question, grouped.respondents, shown)
    exceeds = tuple(note for note in arranged.notes if note == MORE_THAN_ALL)
    in_order = bool(arranged.columns) and arranged.columns[0].ordered
    hidden = hide_small(arranged.rows, groups, question, in_order=in_order, also=away)
    if away is not None:
        # How many rows lack what would tell how many there are.
        notes = []
    return Answer(
        sentence(question) + base_words(grouped.people, question, grouped.lost),
        (*arranged.columns, *measure_columns(question, known)),
        _only(hidden.rows, {name: name for name in (*(group.key for group in groups), *_names(question))}),
        _base(grouped, groups, question, whole, arranged),
        (*notes, *arranged.notes, *hidden.notes),
        is_cut=arranged.is_cut,
        bases=_beside(hidden.rows, _BESIDE[:1]),
        exactness=_beside(hidden.rows, _BESIDE[1:], whole_names=True),
        footnotes=(*exceeds, *hidden.notes),
        hides=" ".join(hidden.notes),
    )


def _away(frame: pl.DataFrame, known: dict[str, Column], question: Question) -> Away | None:
    """Return what no choice by the same columns may show; None where that is everything."""
    unchosen = question.model_copy(update={"chosen": ()})
    if question.stack:
        made = stacked_rows(frame, known, unchosen)
        rows, of_rows = made.frame, made.columns
    else:
        rows, of_rows = keep_rows(frame, known, unchosen.row_rules), known
    if tells_too_few(rows, of_rows, question):
        return None
    pers = _pers(question)
    if question.words or question.each_row or not pers:
        return Away(frozenset(), frozenset())
    if any(isinstance(per.by, Bins) for (per, _), _ in pers):
        # Their bounds would be others with each choice.
        return None
    groups = [group_of(per, of_rows[per.column], rows, role, key) for (per, key), role in pers]
    before = _answered(frame, known, unchosen, None)
    measured = [before.series(column) for column in before.of("measure")]
    hidden = [
        cell
        for cell, values in zip(
            before.frame.select(before.frame.columns[: len(groups)]).rows(), zip(*measured, strict=True), strict=True
        )
        if all(value is None for value in values)
    ]
    return given_away(_grouped_rows(rows, groups, question).rows, of_rows, groups, question, hidden)


def _kept_back(known: dict[str, Column], question: Question) -> Answer:
    """Return an answer that says only that it cannot be given."""
    if question.stack:
        known = stacked_columns(known, question.stack)
    said = f"Hidden, since with such choices groups of fewer than {question.least_base} people could be worked out."
    grouped = tuple(AnswerColumn(grouped[0].column, "category", role) for grouped, role in _pers(question))
    columns = (*grouped, *measure_columns(question, known))
    frame = pl.DataFrame({f"c{place}": [] for place in range(len(columns))})
    return Answer(sentence(question), columns, frame, 0, (said,), footnotes=(said,), hides=said)


def _of_one_person(group: Group, stack: Stack) -> Group:
    """Mark a group that one person may stand in several times: which of the columns it was, and what was said."""
    is_stacked = group.column.name in (stack.name, stack.value)
    return replace(group, column=replace(group.column, several="statements")) if is_stacked else group


def _base(
    grouped: _GroupedRows, groups: list[Group], question: Question, whole: Aggregation, arranged: Arranged
) -> int:
    respondents = grouped.respondents
    if respondents is not None and all(measure.is_of_respondents for measure in question.measures):
        return respondents.people
    shown = shown_groups(groups, arranged.rows) if arranged.is_part_shown else None
    people = grouped.people if arranged.only is None else grouped.people.filter(arranged.only)
    return base_of(people, question, whole, shown)


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
    kept = [name for name in result.columns if name.startswith("measure") and name.endswith(ends)]
    names = {name: name.removeprefix("measure") for name in kept}
    if not whole_names:
        names = {name: short.partition("-")[0] for name, short in names.items()}
    return _only(result, names) if names else None


def _only(rows: pl.DataFrame, names: dict[str, str]) -> pl.DataFrame:
    """Return some columns under new names, without a query."""
    return pl.DataFrame([rows[name].alias(new) for name, new in names.items()])


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
    return question.per[0].grain or usual_grain(known[question.per[0].column])


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
            grain=_grain_of_value(measure, known),
            good=good_way(measure, known),
        )
        for measure in question.measures
    ]


@dataclass(frozen=True, slots=True)
class _GroupedRows:
    """The rows with their keys; ``people`` are the same with cells of several answers not yet taken apart.

    ``lost`` counts the rows without a group, by the column that they lack.
    """

    rows: pl.DataFrame
    people: pl.DataFrame
    respondents: Respondents | None
    lost: dict[str, int]

    @property
    def notes(self) -> list[str]:
        return [f"{_rows(count)} no {name}" for name, count in self.lost.items()]


def _grain_of_value(measure: Measure, known: dict[str, Column]) -> Grain | None:
    """Return how a measured date is written: the first of some years is a year."""
    column = known.get(measure.column or "")
    is_date = column is not None and column.kind == "date" and measure.stat in ("min", "max", "first", "last")
    return usual_grain(column) if is_date and column is not None and column.form != "time" else None


def _grouped_rows(rows: pl.DataFrame, groups: list[Group], question: Question) -> _GroupedRows:
    """Add the group keys to the rows; rows without one are left out. Tell also who answered, where asked."""
    ready = [group.cells.alias(group.key) for group in groups if isinstance(group.cells, pl.Series)]
    worked_out = {group.key: group.cells for group in groups if isinstance(group.cells, pl.Expr)}
    rows = rows.hstack(ready)
    if worked_out:
        rows = rows.with_columns(**worked_out)
    respondents = respondents_of(rows, groups, question)
    lost: dict[str, int] = {}
    for group in groups:
        key = pl.col(group.key)
        without = key.is_null() | (key.list.len() == 0) if group.explode else key.is_null()
        count = int(rows.select(without.sum()).item()) if group.explode or rows[group.key].null_count() else 0
        if count:
            lost[group.column.name] = lost.get(group.column.name, 0) + count
            rows = rows.filter(~without)
    people = rows
    if question.rest and ROW not in rows.columns and any(group.explode for group in groups):
        rows = rows.with_row_index(ROW)
    for group in groups:
        if group.explode:
            rows = rows.explode(group.key)
    return _GroupedRows(rows, people, respondents, lost)


def _rows(count: int) -> str:
    return f"{count:,} rows have" if count != 1 else "1 row has"


def _missing_notes(rows: pl.DataFrame, question: Question) -> list[str]:
    needed = [name for measure in question.measures for name in needed_columns(measure)]
    lost = {name: rows[name].null_count() for name in dict.fromkeys(needed)}
    return [f"{_rows(count)} no {name}" for name, count in lost.items() if count]
