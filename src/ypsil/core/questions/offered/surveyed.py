"""Choices for surveys: who a share is taken of, who gave no answer, weights, small groups, columns asked alike."""

from __future__ import annotations

import re
from dataclasses import replace

from ypsil.core.questions.model import UNWEIGHTED_STATS, Question
from ypsil.core.questions.offered.base import Blank, Choice, Offer, replaced, toggles, with_, with_measure
from ypsil.core.questions.stacking import WRITTEN, stacked_columns
from ypsil.core.tables.model import Column
from ypsil.core.tables.name_parts import own_parts
from ypsil.core.tables.profile import Profile

_LEAST = (5, 10, 20, 30)
_USUAL_LEAST = 10
_WEIGHT_NAME = re.compile(r"(?i)weight|gewicht|poids|peso")
_MOST_STACKED = 12


def with_stacked(profile: Profile, question: Question) -> Profile:
    """Return the profile with the columns that a question makes by stacking, so that its words can be changed."""
    stack = question.stack
    if stack is None or any(profile.column(name) is None for name in stack.columns):
        return profile
    made = stacked_columns({column.name: column for column in profile.columns}, stack)
    answers = tuple(dict.fromkeys(value for name in stack.columns for value in profile.values.get(name, ())))
    values = {**profile.values, stack.name: own_parts(stack.columns), stack.value: answers}
    made[stack.name] = replace(made[stack.name], distinct=len(stack.columns))
    made[stack.value] = replace(made[stack.value], distinct=len(answers))
    return replace(profile, columns=tuple(made.values()), values=values)


def offers(question: Question, profile: Profile) -> list[Offer]:
    """Return the words about people that could be added."""
    if question.words or question.each_row:
        return []
    found = []
    first = question.measures[0]
    if first.values and first.of == "answered" and len(question.measures) == 1:
        found.append(Offer("among all asked …", tuple(of(question, profile, 0)[1:])))
    if question.per and question.per[0].missing is None:
        found.append(Offer("with those without an answer …", tuple(missing(question, profile, 0)[1:])))
    if question.weight is None:
        found.append(Offer("weighted by …", tuple(weight(question, profile, 0)[1:])))
    if question.least_base is None:
        found.append(Offer("without small groups …", tuple(least(question, profile, 0)[1:])))
    return found


def of(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.measures[index]
    column = profile.column(present.column)
    if not present.values or column is None or (present.of == "answered" and not column.missing):
        return []
    return [
        Choice(label, with_measure(question, index, present.model_copy(update={"of": whom})), present.of == whom)
        for label, whom in (("those who answered", "answered"), ("all asked", "asked"))
    ]


def missing(question: Question, profile: Profile, index: int) -> list[Choice]:
    per = question.per[index]
    column = profile.column(per.column)
    fits = column is not None and column.kind in ("category", "place", "list", "yesno") and per.by is None
    if not fits or (column is not None and not column.missing and per.missing is None):
        return []
    return [
        Choice(
            label,
            with_(question, per=replaced(question.per, index, per.model_copy(update={"missing": how}))),
            per.missing == how,
        )
        for label, how in (("without those who gave no answer", None), ("those who gave no answer", "shown"))
    ]


def weight(question: Question, profile: Profile, index: int) -> list[Choice]:
    asked = {part.stat for measure in question.measures for part in measure.parts()}
    fitting = [column.name for column in profile.of("number") if _weighs(column, profile, question)]
    if asked & UNWEIGHTED_STATS:
        fitting = []
    found = [Choice("nothing: everybody counts alike", with_(question, weight=None), question.weight is None)]
    return found + [Choice(name, with_(question, weight=name), name == question.weight) for name in fitting]


def _weighs(column: Column, profile: Profile, question: Question) -> bool:
    """Tell whether a column seems to hold weights: its name says so, or it is the one that is used."""
    low = profile.ends.get(column.name, (0.0, 0.0))[0]
    is_named = bool(_WEIGHT_NAME.search(column.name)) and isinstance(low, float) and low >= 0
    return is_named or column.name == question.weight


def least(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.least_base
    found = [Choice("all groups, however small", with_(question, least_base=None), present is None)]
    if not _may_hide(question):
        return found if present is not None else found[:1]
    found += [
        Choice(f"groups of fewer than {count}", with_(question, least_base=count), present == count) for count in _LEAST
    ]
    blank = Blank("groups of fewer than", "number", str(present or _USUAL_LEAST), ("least_base",))
    return [*found, Choice("another size", with_(question, least_base=present or _USUAL_LEAST), blanks=(blank,))]


def _may_hide(question: Question) -> bool:
    """Tell whether the question speaks of groups of people: of shares, means and scores, or of counts in a split."""
    rests = any(measure.rests_on_values or measure.is_of_respondents for measure in question.measures)
    counts = question.split is not None and all(measure.stat in ("count", "share") for measure in question.measures)
    return bool(question.per) and (rests or counts)


def _of_one_column(question: Question, name: str) -> Question:
    """Return a question per word that goes back from several columns to one."""
    assert question.stack is not None
    per = question.per[0].model_copy(update={"column": name})
    made = (question.stack.name, question.stack.value)
    split = question.split if question.split and question.split.column not in made else None
    order = question.order if split or question.order is None or question.order.by != "keyness" else None
    where = tuple(rule for rule in question.where if rule.column not in made)
    return with_(question, per=(per,), split=split, order=order, where=where, stack=None)


def stack(question: Question, profile: Profile, index: int) -> list[Choice]:
    """Return the columns that stand below each other, each to be added or taken out."""
    present = question.stack
    if present is None:
        return []
    made = profile.column(present.value)
    kinds = WRITTEN if question.words else {made.kind} if made is not None else set()
    alike = [column.name for column in profile.columns if column.kind in kinds]
    taken = (present.name, present.value, *present.columns)
    others = tuple(name for name in alike if name not in taken)[:_MOST_STACKED]
    found = []
    for value, toggled in toggles(present.columns, (*present.columns, *others)):
        names = tuple(str(name) for name in toggled)
        # Two columns are the fewest that can stand below each other.
        if len(names) > 1:
            changed = with_(question, stack=present.model_copy(update={"columns": names}))
        else:
            changed = _of_one_column(question, names[0]) if names and question.words else question
        found.append(Choice(str(value), changed, value in present.columns))
    return found
