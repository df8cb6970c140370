"""What an answer rests on: one rule for every statistic.

The base of an answer is the number of rows (of columns below each other: people) that pass the filters, belong to a
group that is shown, and have a value in every column that the measure needs. A count of rows and a share "of all asked"
need none. A part of a total rests on the whole total, whatever is shown of it. Several measures rest on the rows that
any of them uses. The rule is told to readers in ``docs/guide/how-ypsil-counts.md``.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import polars as pl

from ypsil.core.answers.aggregate import Aggregation
from ypsil.core.answers.groups import Group
from ypsil.core.answers.measures import Basis, as_numbers
from ypsil.core.answers.stacked import ROW
from ypsil.core.questions.model import Measure, Question
from ypsil.core.tables.model import Column


def needed_columns(measure: Measure) -> list[str]:
    """Return the columns in which a row must have a value to be part of a measure."""
    parts = [part for part in measure.parts() if part.column is not None and part.of == "answered"]
    return list(dict.fromkeys(part.column or "" for part in parts))


@dataclass(frozen=True, slots=True)
class Shown:
    """The groups of one key that are shown, where others are not."""

    key: str
    members: pl.Series


def shown_groups(groups: list[Group], result: pl.DataFrame) -> Shown | None:
    """Return which of the first groups are shown; None where rows give several answers."""
    if not groups or any(group.explode for group in groups):
        return None
    return Shown(groups[0].key, result[groups[0].key].unique())


def base_of(rows: pl.DataFrame, question: Question, whole: Aggregation, shown: Shown | None) -> int:
    """Return how many rows, or people, an answer rests on.

    ``rows`` have their keys, cells of several answers not yet taken apart; ``shown`` tells which groups are shown, None
    that all are.
    """
    used = _used(rows, question, whole.basis)
    if shown is not None and not any(measure.is_part for measure in question.measures):
        counted = whole.rows_in(shown.key, shown.members) if used is None else None
        if counted is not None:
            return counted
        is_shown = pl.col(shown.key).is_in(shown.members.implode())
        used = is_shown if used is None else used & is_shown
    if ROW in rows.columns:
        return (rows if used is None else rows.filter(used))[ROW].n_unique()
    return rows.height if used is None else int(rows.select(used.sum()).item() or 0)


def _used(rows: pl.DataFrame, question: Question, basis: Basis) -> pl.Expr | None:
    """Return which rows any of the measures uses; None where all are used."""
    uses = [_has_values(rows, measure, basis) for measure in question.measures]
    known = [use for use in uses if use is not None]
    return pl.any_horizontal(known) if len(known) == len(uses) else None


def _has_values(rows: pl.DataFrame, measure: Measure, basis: Basis) -> pl.Expr | None:
    gaps = [name for name in needed_columns(measure) if name in basis.places or rows[name].null_count()]
    return pl.all_horizontal(as_numbers(name, basis).is_not_null() for name in gaps) if gaps else None


def base_words(rows: pl.DataFrame, question: Question, lost: Mapping[str, int]) -> str:
    """Return the words that say what is left out of the base, to stand behind the sentence; none where nothing is.

    A mean or a share says something about those who answered; of a sum or a count nobody would ask. ``lost`` counts the
    rows without a group: no part of what is whole for parts of a total.
    """
    if question.stack or any(measure.is_of_respondents for measure in question.measures):
        return ""
    speaking = [needed_columns(one) for one in question.measures if one.stat in _OF_THOSE_WHO_ANSWERED]
    named = [name for name in speaking[0] if all(name in other for other in speaking)] if speaking else []
    missing = [name for name in named if rows[name].null_count()]
    if any(measure.is_part for measure in question.measures):
        missing += [name for name, count in lost.items() if count]
    return f", of those with {_joined(list(dict.fromkeys(missing)))}" if missing else ""


_OF_THOSE_WHO_ANSWERED = frozenset({"mean", "median", "std", "percentile", "share", "score", "recommendation"})


def _joined(names: list[str]) -> str:
    return names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]


def pairs_only(
    rows: pl.DataFrame, question: Question, known: dict[str, Column]
) -> tuple[pl.DataFrame, tuple[Measure, ...], dict[str, Column]]:
    """Return rows and measures in which a ratio divides the amounts of rows that have both: what is missing below
    would else be counted above."""
    made: dict[str, pl.Expr] = {}
    measures = []
    for measure in question.measures:
        if measure.ratio:
            parts = measure.ratio
            both = tuple(_beside(part, other, rows, made) for part, other in (parts, parts[::-1]))
            measure = measure.model_copy(update={"ratio": both})
        measures.append(measure)
    if not made:
        return rows, question.measures, known
    columns = {name: replace(known[name.partition(_WITH)[0]], name=name) for name in made}
    return rows.with_columns(**made), tuple(measures), {**known, **columns}


_WITH = "\x00with\x00"


def _beside(part: Measure, other: Measure, rows: pl.DataFrame, made: dict[str, Any]) -> Measure:
    """Return one side of a ratio, of the rows alone in which the other side has a value."""
    partner = other.column
    if partner is None or partner == part.column or not rows[partner].null_count():
        return part
    if part.column is None:
        return part.model_copy(update={"column": partner})
    name = f"{part.column}{_WITH}{partner}"
    made[name] = pl.when(pl.col(partner).is_not_null()).then(pl.col(part.column))
    return part.model_copy(update={"column": name})
