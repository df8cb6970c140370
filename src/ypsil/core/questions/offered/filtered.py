"""Choices for the rows that count: filters of every kind, their values chosen or typed."""

from __future__ import annotations

import math
from collections.abc import Iterable

from ypsil.core.questions.model import Question
from ypsil.core.questions.offered.base import Blank, Choice, labelled, replaced, toggles, with_
from ypsil.core.tables.conditions import Filter, Value, value_word
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile

_LAST_MONTHS = (1, 3, 6, 12, 24)
_PERIODS = ("day", "week", "month", "quarter", "year")
_BOUNDED = ("at_least", "at_most", "between")


def new_filters(question: Question, profile: Profile) -> list[Choice]:
    used = {rule.column for rule in question.where}
    place = len(question.where)
    return [
        _choice(question, place, label, rule, profile) for label, rule in _possible(profile) if rule.column not in used
    ]


def where(question: Question, profile: Profile, index: int) -> list[Choice]:
    without = tuple(rule for place, rule in enumerate(question.where) if place != index)
    others = {rule.column for rule in without}
    present = question.where[index].column
    found = [Choice("take this condition away", with_(question, where=without))]
    for label, rule in _possible(profile):
        if rule.column not in others:
            found.append(_choice(question, index, label, rule, profile, current=rule.column == present))
    return found


def test(question: Question, profile: Profile, index: int) -> list[Choice]:
    """Return the other tests that the column of a condition can be put to."""
    present = question.where[index]
    column = profile.column(present.column)
    if column is None:
        return []
    return [
        _choice(
            question, index, label.removeprefix(f"{column.name} "), rule, profile, current=rule.test == present.test
        )
        for label, rule in _tests_of(column, profile)
    ]


def _choice(
    question: Question, index: int, label: str, rule: Filter, profile: Profile, *, current: bool = False
) -> Choice:
    rules = (*question.where[:index], rule, *question.where[index + 1 :])
    return Choice(label, with_(question, where=rules), current, _blanks(rule, index, profile))


def _blanks(rule: Filter, index: int, profile: Profile) -> tuple[Blank, ...]:
    column = profile.column(rule.column)
    if rule.test == "contains":
        return (Blank("this text", "text", str(rule.values[0]), ("where", index, "values", 0)),)
    if rule.test not in _BOUNDED or column is None:
        return ()
    labels = ("from", "to") if rule.test == "between" else (rule.test.replace("_", " "),)
    kind = "date" if column.kind == "date" and column.form != "time" else "number"
    kind = "text" if column.form == "time" else kind
    return tuple(
        Blank(label, kind, _typed(value), ("where", index, "values", place))  # type: ignore[arg-type]
        for place, (label, value) in enumerate(zip(labels, rule.values, strict=True))
    )


def _typed(value: Value) -> str:
    return f"{value:g}" if isinstance(value, float) else str(value)


def _possible(profile: Profile) -> Iterable[tuple[str, Filter]]:
    """Yield conditions to begin with: each column's most useful ones."""
    for column in labelled(profile):
        first = profile.values[column.name][0]
        yield f"{column.name} is {first} …", Filter(column=column.name, test="in", values=(first,))
    for column in profile.of("date"):
        if column.form != "time":
            last = Filter(column=column.name, test="last", count=12, by="month")
            yield f"{column.name} is in the last 12 months …", last
    for column in profile.of("date", "number"):
        for bounds in _bounds(column, profile):
            yield f"{column.name} is {_BOUND_WORDS[bounds.test]} …", bounds
    for column in profile.of("text"):
        yield f"{column.name} contains …", Filter(column=column.name, test="contains", values=("",))
    for column in profile.columns:
        if column.missing:
            yield f"{column.name} is present", Filter(column=column.name, test="not_empty")


_BOUND_WORDS = {"at_least": "at least", "at_most": "at most", "between": "between"}


def _tests_of(column: Column, profile: Profile) -> Iterable[tuple[str, Filter]]:
    name = column.name
    values = profile.values.get(name, ())
    if values:
        yield f"{name} is …", Filter(column=name, test="in", values=values[:1])
        yield f"{name} is not …", Filter(column=name, test="not_in", values=values[:1])
    if column.kind in ("category", "text", "place"):
        yield f"{name} contains …", Filter(column=name, test="contains", values=("",))
    if column.kind == "date" and column.form != "time":
        yield f"{name} is in the last …", Filter(column=name, test="last", count=12, by="month")
    for bounds in _bounds(column, profile):
        yield f"{name} is {_BOUND_WORDS[bounds.test]} …", bounds
    if column.missing:
        yield f"{name} is present", Filter(column=name, test="not_empty")
        yield f"{name} is missing", Filter(column=name, test="empty")


def _bounds(column: Column, profile: Profile) -> Iterable[Filter]:
    if column.kind not in ("number", "date"):
        return
    ends = profile.ends.get(column.name)
    if ends is None:
        return
    low, high = (end[:10] if isinstance(end, str) else end for end in ends)
    yield Filter(column=column.name, test="at_least", values=(low,))
    yield Filter(column=column.name, test="at_most", values=(high,))
    yield Filter(column=column.name, test="between", values=(low, high))


def where_values(question: Question, profile: Profile, index: int) -> list[Choice]:
    rule = question.where[index]
    if rule.test == "last":
        return _lasts(question, rule, index)
    if rule.test in (*_BOUNDED, "contains"):
        return [_choice(question, index, "another value", rule, profile, current=True)]
    return [
        Choice(
            value_word(value),
            with_(question, where=replaced(question.where, index, rule.model_copy(update={"values": toggled}))),
            value in rule.values,
        )
        for value, toggled in toggles(rule.values, profile.values.get(rule.column, ()))
    ]


def _lasts(question: Question, rule: Filter, index: int) -> list[Choice]:
    def changed(count: int, by: str) -> Question:
        one = rule.model_copy(update={"count": count, "by": by})
        return with_(question, where=replaced(question.where, index, one))

    found = [
        Choice(
            f"the last {count} months" if count > 1 else "the last month",
            changed(count, "month"),
            (rule.count, rule.by) == (count, "month"),
        )
        for count in _LAST_MONTHS
    ]
    shown = rule.count if rule.count is not None and math.isfinite(rule.count) else 3
    return found + [
        Choice(
            f"the last … {by}s",
            changed(shown, by),
            rule.by == by and rule.count not in _LAST_MONTHS,
            (Blank(f"{by}s", "number", str(shown), ("where", index, "count")),),
        )
        for by in _PERIODS
    ]
