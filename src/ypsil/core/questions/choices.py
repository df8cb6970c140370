"""What each word of a sentence can be changed to, and the words that can be added to it.

A choice carries the whole question that it leads to, so that a screen only has to send it back.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from ypsil.core.figures import Grain
from ypsil.core.questions.model import NUMBER_STATS, Measure, Order, Per, Question, Stat
from ypsil.core.questions.wording import STAT_WORDS
from ypsil.core.tables.conditions import Filter, Value, value_word
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.text import WordSettings

_STATS_OF_NUMBERS: tuple[Stat, ...] = ("sum", "mean", "median", "min", "max", "std")
_GRAINS: tuple[Grain, ...] = ("year", "quarter", "month", "week", "weekday", "day")
_KEEP = (3, 5, 10, 20)
_LAST_MONTHS = (1, 3, 6, 12, 24)
_MOST_GROUPS = 400


@dataclass(frozen=True, slots=True)
class Choice:
    """A word to choose, the question it leads to, and whether it is the present one."""

    label: str
    question: Question
    current: bool = False


@dataclass(frozen=True, slots=True)
class Offer:
    """Words that can be added to the sentence, with what they can say."""

    text: str
    choices: tuple[Choice, ...]


def choices(question: Question, slot: str, profile: Profile) -> list[Choice]:
    """Return what fits a slot of ``sentence_parts(question)``; an unknown slot has none."""
    name, _, index = slot.partition(":")
    maker = _MAKERS.get(name)
    return maker(question, profile, int(index or 0)) if maker else []


def offers(question: Question, profile: Profile) -> list[Offer]:
    """Return the parts that the sentence could have and does not, leaving out those with nothing to choose."""
    found = []
    if not question.per:
        found.append(Offer("per …", tuple(_per(question, profile, 0)[1:])))
    if question.per and question.split is None and not question.words:
        found.append(Offer("split by …", tuple(_split(question, profile, 0)[1:])))
    found.append(Offer("where …", tuple(_new_filters(question, profile))))
    if question.per and question.order is None:
        found.append(Offer("in the order …", tuple(_order(question, profile, 0)[1:])))
    if question.per and question.keep is None and not _is_time(question, profile):
        found.append(Offer("only the first …", tuple(_keep(question, profile, 0)[1:])))
    return [offer for offer in found if offer.choices]


def _with(question: Question, **changes: Any) -> Question:
    return question.model_copy(update=changes)


def _replaced(items: tuple[Any, ...], index: int, item: Any) -> tuple[Any, ...]:
    return tuple(item if place == index else old for place, old in enumerate(items))


def _measures(question: Question, index: int, options: Iterable[tuple[str, Measure]]) -> list[Choice]:
    present = question.measures[index]
    return [
        Choice(label, _with(question, measures=_replaced(question.measures, index, measure)), measure == present)
        for label, measure in options
    ]


def _stat(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.measures[index]
    column = profile.column(present.column)
    numbers = profile.of("number")
    number = column if column is not None and column.kind == "number" else next(iter(numbers), None)
    labelled = _labelled(profile)
    label = column if column is not None and column in labelled else next(iter(labelled), None)
    options: list[tuple[str, Measure]] = []
    if number is not None:
        options += [
            (STAT_WORDS[stat], Measure.model_validate({"stat": stat, "column": number.name}))
            for stat in _STATS_OF_NUMBERS
        ]
    options.append(("number of rows", Measure(stat="count")))
    if label is not None:
        options.append(("number of different", Measure(stat="distinct", column=label.name)))
        options.append(("share that is …", _share_of(label, profile)))
    return _measures(question, index, options)


def _share_of(column: Column, profile: Profile) -> Measure:
    return Measure(stat="share", column=column.name, values=profile.values[column.name][:1])


def _labelled(profile: Profile) -> list[Column]:
    """Columns with named values, the yes/no ones first: a share of them says most."""
    found = profile.of("yesno") + profile.of("category", "place", "list")
    return [column for column in found if profile.values.get(column.name)]


def _measure(question: Question, profile: Profile, index: int) -> list[Choice]:
    if question.words:
        return _counted_words(question, question.words)
    present = question.measures[index]
    if present.stat == "share" and present.values:
        return _measures(question, index, [(c.name, _share_of(c, profile)) for c in _labelled(profile)])
    if present.stat == "count":
        options = [("rows", Measure(stat="count"))]
        return _measures(
            question, index, options + [(c.name, Measure(stat="count", column=c.name)) for c in profile.columns]
        )
    needs_numbers = present.stat in NUMBER_STATS or present.stat in ("min", "max")
    fitting = profile.of("number") if needs_numbers else list(profile.columns)
    return _measures(
        question, index, [(c.name, present.model_copy(update={"column": c.name, "name": None})) for c in fitting]
    )


def _counted_words(question: Question, words: WordSettings) -> list[Choice]:
    """Uses of a word, or answers that hold it."""
    return [
        Choice(
            label,
            _with(
                question,
                per=tuple(
                    per.model_copy(update={"words": words.model_copy(update={"count": count})}) for per in question.per
                ),
            ),
            words.count == count,
        )
        for label, count in (("uses", "occurrences"), ("answers", "responses"))
        for counted in [words.model_copy(update={"count": count})]
    ]


def _values(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.measures[index]
    return [
        Choice(
            value_word(value),
            _with(
                question,
                measures=_replaced(question.measures, index, present.model_copy(update={"values": toggled})),
            ),
            value in present.values,
        )
        for value, toggled in _toggles(present.values, profile.values.get(present.column or "", ()))
    ]


def _toggles(chosen: tuple[Value, ...], known: tuple[str, ...]) -> Iterable[tuple[str, tuple[Value, ...]]]:
    """Yield each value with the list it leads to: added, or taken out unless it is the last one."""
    for value in known:
        if value not in chosen:
            yield value, (*chosen, value)
        else:
            rest = tuple(one for one in chosen if one != value)
            yield value, rest or chosen


def _groupable(profile: Profile) -> list[Column]:
    named = [column for column in profile.of("category", "place", "list", "yesno") if column.distinct <= _MOST_GROUPS]
    return profile.of("date") + named


def _per_of(column: Column, profile: Profile) -> Per:
    if column.kind == "date":
        return Per(column=column.name, by=profile.grains.get(column.name, "month"))
    return Per(column=column.name, by="word" if column.kind == "text" else None)


def _per(question: Question, profile: Profile, index: int) -> list[Choice]:
    alone = _with(question, per=(), split=None, order=None, keep=None, rest=None)
    found = [Choice("nothing: one number", alone, not question.per)]
    present = question.per[index].column if index < len(question.per) else None
    for column in _groupable(profile):
        per = (_per_of(column, profile), *question.per[1:])
        measures = question.measures if not question.words else (Measure(stat="count"),)
        changed = _with(question, measures=measures, per=per, order=None, keep=None, rest=None)
        found.append(Choice(column.name, changed, column.name == present))
    for column in profile.of("text"):
        changed = Question(
            measures=(Measure(stat="count"),), per=(_per_of(column, profile),), where=question.where, keep=80
        )
        found.append(Choice(f"word in {column.name}", changed, column.name == present))
    return found


def _is_time(question: Question, profile: Profile) -> bool:
    column = profile.column(question.per[0].column)
    return column is not None and column.kind == "date"


def _grain(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.per[index]
    if present.by in ("word", "hour"):
        return [Choice(str(present.by), question, True)]
    return [
        Choice(
            grain,
            _with(
                question,
                per=_replaced(question.per, index, Per.model_validate({"column": present.column, "by": grain})),
            ),
            grain == present.by,
        )
        for grain in _GRAINS
    ]


def _split(question: Question, profile: Profile, index: int) -> list[Choice]:
    used = {per.column for per in question.per}
    found = [Choice("nothing: take the split away", _with(question, split=None), question.split is None)]
    present = question.split.column if question.split else None
    for column in _groupable(profile):
        if column.name not in used and column.kind != "date" and column.distinct <= 12:
            found.append(Choice(column.name, _with(question, split=Per(column=column.name)), column.name == present))
    return found


def _new_filters(question: Question, profile: Profile) -> list[Choice]:
    used = {rule.column for rule in question.where}
    return [
        Choice(label, _with(question, where=(*question.where, rule)))
        for label, rule in _possible_filters(profile)
        if rule.column not in used
    ]


def _possible_filters(profile: Profile) -> Iterable[tuple[str, Filter]]:
    for column in _labelled(profile):
        first = profile.values[column.name][0]
        yield f"{column.name} is {first} …", Filter(column=column.name, test="in", values=(first,))
    for column in profile.of("date"):
        if column.form == "time":
            continue
        yield f"{column.name} is in the last 12 months …", Filter(column=column.name, test="last", count=12, by="month")
    for column in profile.columns:
        if column.missing:
            yield f"{column.name} is present", Filter(column=column.name, test="not_empty")


def _where(question: Question, profile: Profile, index: int) -> list[Choice]:
    without = tuple(rule for place, rule in enumerate(question.where) if place != index)
    others = {rule.column for rule in without}
    present = question.where[index].column
    found = [Choice("take this condition away", _with(question, where=without))]
    for label, rule in _possible_filters(profile):
        if rule.column not in others:
            changed = _with(question, where=_replaced(question.where, index, rule))
            found.append(Choice(label, changed, rule.column == present))
    return found


def _where_values(question: Question, profile: Profile, index: int) -> list[Choice]:
    rule = question.where[index]
    if rule.test == "last":
        return [
            Choice(
                f"the last {count} months" if count > 1 else "the last month",
                _with(
                    question,
                    where=_replaced(question.where, index, rule.model_copy(update={"count": count, "by": "month"})),
                ),
                rule.count == count and rule.by == "month",
            )
            for count in _LAST_MONTHS
        ]
    return [
        Choice(
            value_word(value),
            _with(question, where=_replaced(question.where, index, rule.model_copy(update={"values": toggled}))),
            value in rule.values,
        )
        for value, toggled in _toggles(rule.values, profile.values.get(rule.column, ()))
    ]


def _order(question: Question, profile: Profile, index: int) -> list[Choice]:
    orders = (
        ("as usual", None),
        ("highest first", Order(by="value", descending=True)),
        ("lowest first", Order(by="value")),
        ("from A to Z", Order(by="name")),
        ("from Z to A", Order(by="name", descending=True)),
    )
    return [Choice(label, _with(question, order=order), order == question.order) for label, order in orders]


def _keep(question: Question, profile: Profile, index: int) -> list[Choice]:
    found = [Choice("all of them", _with(question, keep=None, rest=None), question.keep is None)]
    for keep in _KEEP if not question.words else (20, 40, 80, 120, 200):
        found.append(
            Choice(
                f"the first {keep}",
                _with(question, keep=keep, rest=None),
                (question.keep, question.rest) == (keep, None),
            )
        )
        if not question.words:
            rested = _with(question, keep=keep, rest="Other")
            found.append(Choice(f"the first {keep}, the rest as Other", rested, question == rested))
    return found


_MAKERS: dict[str, Callable[[Question, Profile, int], list[Choice]]] = {
    "stat": _stat,
    "measure": _measure,
    "values": _values,
    "per": _per,
    "grain": _grain,
    "split": _split,
    "where": _where,
    "where-values": _where_values,
    "order": _order,
    "keep": _keep,
}
