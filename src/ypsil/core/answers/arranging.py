"""The rows of an answer: aggregated, compared with each other, put in order, and cut to what is shown.

The order of the work is what makes changes right: what a measure makes of the period before is worked out over all
periods there are; only then are periods left out that are not to be shown, the others ranked, and the first kept.
"""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import polars as pl

from ypsil.core.answers.aggregate import Aggregation
from ypsil.core.answers.derived import part_of_total, worked_out
from ypsil.core.answers.groups import TRUNCATE, Group
from ypsil.core.answers.model import AnswerColumn
from ypsil.core.answers.ordering import Cut, keep_first, members_in_order, order_along
from ypsil.core.answers.respondents import Respondents
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Question

_MOST_PERIODS = 100_000
_COUNTED = ("count", "distinct", "sum")
_Members = Mapping[str, Sequence[Any]]


@dataclass(frozen=True, slots=True)
class Arranged:
    """The answer's rows in order, the columns of its groups, what is said, and what is left out.

    ``is_cut`` tells that groups are left out of what is a whole; ``is_part_shown`` that there are groups that are not
    shown, be it by ``keep`` or since their periods are not to be. ``only`` are the rows that the answer is about, where
    others were left out before anything was put together.
    """

    rows: pl.DataFrame
    columns: tuple[AnswerColumn, ...] = ()
    notes: tuple[str, ...] = ()
    is_cut: bool = False
    is_part_shown: bool = False
    only: pl.Expr | None = None


@dataclass(frozen=True, slots=True)
class _Work:
    """What is asked of which rows, by which groups."""

    whole: Aggregation
    groups: list[Group]
    question: Question
    respondents: Respondents | None

    @property
    def first(self) -> Group:
        return self.groups[0]

    @property
    def keys(self) -> list[str]:
        return [group.key for group in self.groups]

    @property
    def goes_along(self) -> bool:
        return any(measure.then for measure in self.question.measures)


def arrange(
    whole: Aggregation,
    groups: list[Group],
    question: Question,
    respondents: Respondents | None,
    shown: pl.Expr | None,
) -> Arranged:
    """Return the rows of an answer; ``shown`` tells which rows of the table lie in the periods that are shown.

    Raises QuestionRefused where something is to go along groups that have no order.
    """
    if not groups:
        return Arranged(whole.by([]))
    only: pl.Expr | None = None
    if shown is not None and question.rest:
        # What is put together is compared as one, so nothing can be left out of it afterwards.
        whole, only, shown = whole.of_rows(shown), shown, None
    work = _Work(whole, groups, question, respondents)
    result, notes = _compared(work)
    is_part_shown = shown is not None
    if shown is not None:
        result = _in_shown_periods(result, work, shown)
        whole = whole.of_rows(shown)
    ranks, columns, cut = _ranks(result, work, whole)
    if cut is not None:
        notes = [*notes, cut.note]
        is_part_shown = is_part_shown or cut.named is None
        if cut.named is not None:
            result, _ = _compared(replace(work, whole=work.whole.renamed(cut.named, work.keys)))
        kept = pl.Series(ranks[work.first.key], dtype=result.schema[work.first.key])
        result = result.filter(pl.col(work.first.key).is_in(kept.implode()))
    is_cut = cut is not None and cut.named is None
    return Arranged(_ranked(result, ranks), columns, tuple(notes), is_cut, is_part_shown, only)


def _ranks(
    result: pl.DataFrame, work: _Work, whole: Aggregation
) -> tuple[_Members, tuple[AnswerColumn, ...], Cut | None]:
    """Return the members of each group in the order they are shown in, the groups' columns, and what is cut."""

    def totals(key: str) -> pl.DataFrame:
        if len(work.groups) == 1:
            return result
        if key == work.first.key and work.question.measures[0].then:
            alone = work.question.model_copy(update={"measures": work.question.measures[:1], "split": None})
            compared, _ = _compared(_Work(work.whole.of_first(), work.groups[:1], alone, None))
            return compared.join(result.select(key).unique(), on=key, how="semi")
        # Also of those that no row falls in.
        every = result.select(key).unique(maintain_order=True)
        return every.join(whole.of_first().by([key]), on=key, how="left", nulls_equal=True, maintain_order="left")

    ranks: dict[str, Sequence[Any]] = {}
    columns = []
    cut = None
    for group in work.groups:
        is_first = group is work.first
        order, keep = (work.question.order, work.question.keep) if is_first else (None, None)
        found = result[group.key] if len(work.groups) == 1 else result[group.key].unique()
        members, is_own = members_in_order(found, group, order, keep is not None, totals)
        if keep is not None and len(members) > keep:
            cut = keep_first(group, members, keep, work.question.rest, result.schema[group.key])
            members = cut.members
        ranks[group.key] = members
        # The first group's order is that of the rows; those of others are not, where the first lacks some of them.
        ranked = () if is_first else tuple(members)
        columns.append(replace(group.column, ordered=group.column.ordered or is_own, members=ranked))
    return ranks, tuple(columns), cut


def _compared(work: _Work) -> tuple[pl.DataFrame, list[str]]:
    """Return the measures of all groups, with what they make of the groups before, and what is to be said of it."""
    first, question = work.first, work.question
    result = work.whole.by(work.keys)
    notes: list[str] = []
    if work.respondents is not None:
        result, notes = work.respondents.shares(result, question)
    # A part is a part of everything, also of what is not shown.
    named = [(f"measure{index}", measure) for index, measure in enumerate(question.measures)]
    parts = [part_of_total(name, one, work.keys) for name, one in named if one.is_part]
    result = result.with_columns(parts) if parts else result
    before = result
    members = _every_member(result, work)
    if members:
        result = _with_every_member(result, work, members)
    if work.goes_along:
        result = _along(result, work)
    added = result.height - before.height
    if not added or (first.gaps is None and not first.has_periods):
        return result, notes
    if first.gaps is None:
        if not any(group.members for group in work.groups):
            result = result.join(before[work.keys], on=work.keys, how="semi", maintain_order="left")
        return result, notes
    said = "count as zero" if first.gaps == "zero" else "are left open"
    return result, [*notes, f"{added:,} periods without rows {said}" if added != 1 else f"1 period without rows {said}"]


def _along(result: pl.DataFrame, work: _Work) -> pl.DataFrame:
    """Return the rows with what each measure makes of the groups before; groups go along in their own order."""
    order = order_along(result[work.first.key].unique(), work.first, work.question.order)
    if order is None:
        what = next(measure.then for measure in work.question.measures if measure.then)
        raise QuestionRefused(
            f"“{what}” needs an order to go along, and the values of “{work.first.column.name}” have none",
            remedy="ask it per a date or a number, or put the values in order on the table's page",
        )
    others = {key: result[key].unique().to_list() for key in work.keys[1:]}
    result = _ranked(result, {work.first.key: order, **others})
    for index, measure in enumerate(work.question.measures):
        if measure.then:
            result = worked_out(result, f"measure{index}", measure, work.first, work.keys[1:])
    return result


def _in_shown_periods(result: pl.DataFrame, work: _Work, shown: pl.Expr) -> pl.DataFrame:
    """Return the groups that some row lies in which is to be shown, with the periods between them."""
    key, group = work.first.key, work.first
    inside = work.whole.rows.filter(shown)[key].unique()
    if group.has_periods and group.gaps is not None and len(inside):
        return result.filter(pl.col(key).is_between(inside.min(), inside.max()))
    return result.filter(pl.col(key).is_in(inside.implode()))


def _every_member(result: pl.DataFrame, work: _Work) -> dict[str, list[Any]]:
    """Return all members of each group, where some may have no rows; none where nothing is to be added."""
    first = work.first
    fills = first.column.role == "per" and ((first.has_periods and work.goes_along) or first.gaps is not None)
    if not fills and not any(group.members for group in work.groups):
        return {}
    members = {group.key: list(group.members) or result[group.key].unique().to_list() for group in work.groups}
    if fills:
        members[first.key] = _all_periods(first, members[first.key])
    return members


def _ranked(result: pl.DataFrame, ranks: _Members) -> pl.DataFrame:
    """Put the rows in the order of their groups' ranks, the first group's before the second's."""
    places = []
    for key, members in ranks.items():
        rank = {member: place for place, member in enumerate(members)}
        places.append([rank[member] for member in result[key].to_list()])
    return result[pl.Series(np.lexsort(places[::-1]).astype(np.uint32))]


def _all_periods(group: Group, found: list[Any]) -> list[Any]:
    """Return every period from the first to the last of those found."""
    if group.column.grain in ("weekday", "hour"):
        return list(range(1, 8)) if group.column.grain == "weekday" else list(range(24))
    if not found or not isinstance(found[0], dt.date):
        return found
    every = pl.date_range(min(found), max(found), TRUNCATE[group.column.grain or "day"], eager=True).to_list()
    if len(every) > _MOST_PERIODS:
        raise QuestionRefused(
            f"from the first to the last {group.column.grain} there are {len(every):,}", remedy="ask for longer periods"
        )
    return every


def _with_every_member(result: pl.DataFrame, work: _Work, members: _Members) -> pl.DataFrame:
    """Add the classes and periods that no row falls in: counts and sums of them are zero, or missing by choice."""
    count = math.prod(map(len, members.values()))
    if count > _MOST_PERIODS:
        raise QuestionRefused(
            f"with those that have no rows there are {count:,} groups",
            remedy="ask for longer periods or wider classes, or per fewer columns",
        )
    grid = pl.DataFrame({"one": [0]})
    for key, values in members.items():
        grid = grid.join(pl.DataFrame({key: values}, schema={key: result.schema[key]}), how="cross")
    full = grid.drop("one").join(result.with_columns(pl.lit(True).alias("there")), on=work.keys, how="left")
    zero = any(group.members for group in work.groups) or work.first.gaps == "zero"
    counted = [
        f"measure{index}"
        for index, measure in enumerate(work.question.measures)
        if zero and (measure.stat in _COUNTED or measure.is_part)
    ]
    absent = pl.col("there").is_null()
    return full.with_columns(pl.when(absent).then(0).otherwise(pl.col(name)).alias(name) for name in counted).drop(
        "there"
    )
