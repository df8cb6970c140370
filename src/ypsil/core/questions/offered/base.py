"""What a word can be changed to, and what all makers of choices share."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Literal

from ypsil.core.figures import tick_step
from ypsil.core.questions.model import Measure, Per, Question
from ypsil.core.tables.conditions import Value
from ypsil.core.tables.model import Column
from ypsil.core.tables.natural_order import natural_order
from ypsil.core.tables.profile import Profile

MOST_GROUPS = 400
MOST_SPLITS = 12
_USUAL_CLASSES = 12


@dataclass(frozen=True, slots=True)
class Blank:
    """A value that is typed: its label, its kind, what it is now, and where it stands in the question; ``words`` are
    parted by commas."""

    label: str
    kind: Literal["number", "date", "text", "words"]
    value: str
    path: tuple[str | int, ...]


@dataclass(frozen=True, slots=True)
class Choice:
    """A word to choose, the question it leads to, and whether it is the present one.

    Where it has ``blanks``, these are filled in first; the question holds the values they start from.
    """

    label: str
    question: Question
    current: bool = False
    blanks: tuple[Blank, ...] = ()


@dataclass(frozen=True, slots=True)
class Offer:
    """Words that can be added to the sentence, with what they can say."""

    text: str
    choices: tuple[Choice, ...]


def has_order(per: Per, profile: Profile) -> bool:
    """Tell whether one value of a group follows another, so that something can go along them."""
    column = profile.column(per.column)
    if column is None or column.kind in ("date", "number") or column.order:
        return True
    return natural_order(profile.values.get(per.column, ())) is not None


def with_(question: Question, **changes: Any) -> Question:
    return question.model_copy(update=changes)


def replaced(items: tuple[Any, ...], index: int, item: Any) -> tuple[Any, ...]:
    return tuple(item if place == index else old for place, old in enumerate(items))


def with_measure(question: Question, index: int, measure: Measure) -> Question:
    return with_(question, measures=replaced(question.measures, index, measure))


def labelled(profile: Profile) -> list[Column]:
    """Columns with named values, the yes/no ones first: a share of them says most."""
    found = profile.of("yesno") + profile.of("category", "place", "list")
    return [column for column in found if profile.values.get(column.name)]


def groupable(profile: Profile) -> list[Column]:
    named = [column for column in profile.of("category", "place", "list", "yesno") if column.distinct <= MOST_GROUPS]
    return profile.of("date") + named


def per_of(column: Column, profile: Profile) -> Per:
    """Return the natural way to group by a column."""
    if column.kind == "date":
        return Per(column=column.name, by=profile.grains.get(column.name, "month"))
    if column.kind == "number":
        return Per.model_validate({"column": column.name, "by": classes_of(column.name, profile)})
    return Per(column=column.name, by="word" if column.kind == "text" else None)


def classes_of(name: str, profile: Profile) -> dict[str, float]:
    """Return about a dozen classes with round borders for a number column."""
    low, high = profile.ends.get(name, (0.0, 0.0))
    if not isinstance(low, float) or not isinstance(high, float) or low == high:
        return {"bins": 1}
    width = tick_step(low, high, _USUAL_CLASSES)
    column = profile.column(name)
    # Whole numbers have no values between: a class each is the finest.
    is_whole = column is not None and low.is_integer() and high.is_integer() and column.distinct <= high - low + 1
    return {"width": max(1.0, width) if is_whole else width}


def has_periods(per: Per) -> bool:
    return per.grain not in (None, "weekday", "hour")


def toggles(chosen: tuple[Value, ...], known: tuple[str, ...]) -> Iterable[tuple[str, tuple[Value, ...]]]:
    """Yield each value with the list it leads to: added, or taken out unless it is the last one."""
    for value in known:
        if value not in chosen:
            yield value, (*chosen, value)
        else:
            rest = tuple(one for one in chosen if one != value)
            yield value, rest or chosen
