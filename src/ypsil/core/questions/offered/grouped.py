"""Choices for what the answer has rows for: columns, periods, classes, splits, gaps, order and how many."""

from __future__ import annotations

from typing import Any

from ypsil.core.figures import Grain
from ypsil.core.questions.model import Bins, Measure, Order, Per, Question
from ypsil.core.questions.offered.base import (
    MOST_SPLITS,
    Blank,
    Choice,
    groupable,
    has_order,
    has_periods,
    per_of,
    replaced,
    with_,
)
from ypsil.core.tables.profile import Profile

_GRAINS: tuple[Grain, ...] = ("year", "quarter", "month", "week", "weekday", "day", "hour")
_KEEP = (3, 5, 10, 20)
_KEEP_WORDS = (20, 40, 80, 120, 200)
_CLASSES = (5, 8, 12, 20, 30)


def per(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.per[index].column if index < len(question.per) else None
    if index:
        return _second(question, profile, index, present)
    plain = tuple(one.model_copy(update={"then": None, "window": None, "within": "all"}) for one in question.measures)
    alone = with_(question, measures=plain, per=(), split=None, order=None, keep=None, rest=None)
    found = [Choice("nothing: one number", alone, not question.per)] if not question.each_row else []
    for column in [*groupable(profile), *profile.of("number")]:
        first = per_of(column, profile)
        if question.each_row:
            first = Per(column=column.name, by="row")
        found.append(Choice(column.name, _per_changed(question, first, profile), column.name == present))
    for column in profile.of("text"):
        changed = Question(
            measures=(Measure(stat="count"),), per=(per_of(column, profile),), where=question.where, keep=80
        )
        found.append(Choice(f"word in {column.name}", changed, column.name == present))
    return found


def _per_changed(question: Question, first: Per, profile: Profile) -> Question:
    """Group by another column, leaving what no longer has a meaning."""
    measures = question.measures if not question.words else (Measure(stat="count"),)
    if not has_periods(first):
        kept = (None, "running_total") if has_order(first, profile) else (None,)
        measures = tuple(
            one if one.then in kept else one.model_copy(update={"then": None, "window": None}) for one in measures
        )
    others = tuple(one for one in question.per[1:] if one.column != first.column) if not question.words else ()
    split = question.split if question.split and question.split.column != first.column else None
    return with_(question, measures=measures, per=(first, *others), split=split, order=None, keep=None, rest=None)


def _second(question: Question, profile: Profile, index: int, present: str | None) -> list[Choice]:
    others = {one.column for place, one in enumerate(question.per) if place != index}
    rest = tuple(one for place, one in enumerate(question.per) if place != index)
    found = [Choice("nothing: take this away", with_(question, per=rest))] if index < len(question.per) else []
    for column in groupable(profile):
        if column.name not in others and (question.split is None or question.split.column != column.name):
            added = (*question.per[:index], per_of(column, profile), *question.per[index + 1 :])
            found.append(Choice(column.name, with_(question, per=added), column.name == present))
    return found


def each_row(question: Question, profile: Profile) -> list[Choice]:
    """Return questions about single rows, named by each column that can name them."""
    numbers = profile.of("number")
    if not numbers or question.each_row:
        return []
    asked = [one for one in question.measures if one.stat in ("sum", "mean") and not one.then]
    measures = tuple(one.model_copy(update={"stat": "sum"}) for one in asked) or (
        Measure(stat="sum", column=numbers[0].name),
    )
    named = [*profile.of("category", "place", "date", "text"), *numbers]
    return [
        Choice(
            f"row, named by {column.name}",
            Question(measures=measures, per=(Per(column=column.name, by="row"),), where=question.where),
        )
        for column in named
    ]


def is_time(question: Question, profile: Profile) -> bool:
    column = profile.column(question.per[0].column)
    return column is not None and column.kind == "date"


def grain(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.per[index]
    if present.by in ("word", "hour") and profile.column(present.column) not in profile.of("date"):
        return [Choice(str(present.by), question, True)]
    if present.by == "row":
        column = profile.column(present.column)
        grouped = per_of(column, profile) if column else Per(column=present.column)
        whole = with_(question, per=(grouped,), order=None)
        return [Choice("row", question, True), Choice(f"{grouped.by or 'value'} of {present.column}", whole)]
    if not isinstance(present.by, str):
        return [Choice("class", question, True), _single_values(question, present, index)]
    return [
        Choice(
            one,
            _regrained(question, index, present.model_copy(update={"by": one})),
            one == present.by,
        )
        for one in _grains_of(present, profile)
    ]


def split_grain(question: Question, profile: Profile, index: int) -> list[Choice]:
    """Return the periods that a date splits by."""
    present = question.split
    if present is None or present.grain is None:
        return []
    return [
        Choice(one, with_(question, split=present.model_copy(update={"by": one})), one == present.by)
        for one in _grains_of(present, profile)
    ]


def _grains_of(present: Per, profile: Profile) -> tuple[Grain, ...]:
    column = profile.column(present.column)
    if column is not None and column.form == "time":
        return ("hour",)
    return _GRAINS if profile.has_times(present.column) or present.by == "hour" else _GRAINS[:-1]


def _regrained(question: Question, index: int, changed: Per) -> Question:
    measures = question.measures
    if index == 0 and not has_periods(changed):
        measures = tuple(
            one if one.then in (None, "running_total") else one.model_copy(update={"then": None, "window": None})
            for one in measures
        )
    return with_(question, measures=measures, per=replaced(question.per, index, changed))


def _single_values(question: Question, present: Per, index: int) -> Choice:
    plain = present.model_copy(update={"by": None})
    return Choice("different value", with_(question, per=replaced(question.per, index, plain)))


def classes(question: Question, profile: Profile, index: int) -> list[Choice]:
    """Return how many classes, or how wide they are."""
    present = question.per[index]

    def by(setting: dict[str, Any]) -> Question:
        changed = Per.model_validate({"column": present.column, "by": setting})
        return with_(question, per=replaced(question.per, index, changed))

    found = [Choice(f"{count} classes", by({"bins": count}), present.by == Bins(bins=count)) for count in _CLASSES]
    width = present.by.width if present.by is not None and not isinstance(present.by, str | Bins) else 10.0
    blank = Blank("each so wide", "number", f"{width:g}", ("per", index, "by", "width"))
    return [*found, Choice("classes of a width", by({"width": width}), not isinstance(present.by, Bins), (blank,))]


def gaps(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.per[index]
    return [
        Choice(
            label,
            with_(question, per=replaced(question.per, index, present.model_copy(update={"gaps": how}))),
            present.gaps == how,
        )
        for label, how in (("left out", None), ("counted as zero", "zero"), ("left open", "open"))
    ]


def split(question: Question, profile: Profile, index: int) -> list[Choice]:
    used = {one.column for one in question.per}
    measures = tuple(one.model_copy(update={"within": "all"}) for one in question.measures)
    # Words mark a group only where they are split by one.
    order = question.order if question.order is None or question.order.by != "keyness" else None
    alone = with_(question, split=None, measures=measures, order=order)
    found = [Choice("nothing: take the split away", alone, question.split is None)]
    present = question.split.column if question.split else None
    for column in groupable(profile):
        if column.name not in used and column.kind != "date" and column.distinct <= MOST_SPLITS:
            found.append(Choice(column.name, with_(question, split=Per(column=column.name)), column.name == present))
    for column in profile.of("date"):
        years = profile.years(column.name)
        if 1 < years <= MOST_SPLITS and column.form != "time":
            by_year = Per(column=column.name, by="year")
            found.append(Choice(f"year of {column.name}", with_(question, split=by_year), question.split == by_year))
    return found


def order(question: Question, profile: Profile, index: int) -> list[Choice]:
    orders = (
        ("as usual", None),
        ("highest first", Order(by="value", descending=True)),
        ("lowest first", Order(by="value")),
        ("from A to Z", Order(by="name")),
        ("from Z to A", Order(by="name", descending=True)),
        *(
            (
                ("in natural order", Order(by="natural")),
                ("in natural order, turned", Order(by="natural", descending=True)),
            )
            if not question.words and not question.each_row
            else ()
        ),
        *((("those that mark each of them", Order(by="keyness", descending=True)),) if _is_compared(question) else ()),
    )
    return [Choice(label, with_(question, order=how), how == question.order) for label, how in orders]


def _is_compared(question: Question) -> bool:
    return bool(question.words and question.split)


def keep(question: Question, profile: Profile, index: int) -> list[Choice]:
    found = [Choice("all of them", with_(question, keep=None, rest=None), question.keep is None)]
    plain = question.words or question.each_row or _holds_numbers(question, profile)
    for count in _KEEP_WORDS if question.words else _KEEP:
        first = with_(question, keep=count, rest=None)
        found.append(Choice(f"the first {count}", first, question == first))
        if not plain:
            rested = with_(question, keep=count, rest="Other")
            found.append(Choice(f"the first {count}, the rest as Other", rested, question == rested))
    blank = Blank("so many", "number", str(question.keep or 8), ("keep",))
    return [*found, Choice("another number", with_(question, keep=question.keep or 8), blanks=(blank,))]


def _holds_numbers(question: Question, profile: Profile) -> bool:
    """Tell whether what is kept has no names, so that the rest could have none."""
    if not question.per:
        return False
    first = question.per[0]
    column = profile.column(first.column)
    return column is not None and column.kind in ("date", "number") and (first.by is None or isinstance(first.by, str))
