"""Which columns of a table are most worth showing, whatever order they stand in.

The rules are common practice, no source: what is added up tells more than what is averaged, what most rows have more
than what few have, and groups are read where there are neither two nor fifty of them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ypsil.core.report.amounts import ADDED, amount_of
from ypsil.core.tables.kinds import says_identifier
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.tables.shown_names import in_words
from ypsil.core.text.stopwords import guess_language, stop_word_set
from ypsil.core.text.tokens import is_without_spaces

# What stands beside an amount rather than being one.
_ASIDE = frozenset({"error", "std", "sd", "margin", "lower", "upper", "ci", "deviation", "previous"})
_FULL = 0.9
_BEST_GROUPS = (3, 15)
_MOST_GROUPS = 60
_MANY_VALUES = 20
READ_TEXTS, _PROSE = 300, 0.2


def by_worth(profile: Profile, kept: Sequence[Column], called: str = "") -> Profile:
    """Return a profile with those of its columns that are kept, in the order of what they are worth; a table is mostly
    about what it is ``called``."""
    about = set(in_words(called).lower().split())
    worth = {
        column.name: _worth(column, profile) + bool(about & set(in_words(column.name).lower().split()))
        for column in kept
    }
    return replace(profile, columns=tuple(sorted(kept, key=lambda column: -worth[column.name])))


def is_prose(texts: Sequence[str | None]) -> bool:
    """Tell whether people wrote sentences: a fifth of the words are those that any sentence has. Names and addresses
    have hardly any.

    >>> is_prose(["The room is too cold", "I like that it is quiet"]), is_prose(["12 North Avenue", "3 West Street"])
    (True, False)
    """
    said = [text for text in texts if text][:READ_TEXTS]
    words = [word.lower() for text in said for word in text.split()]
    if any(is_without_spaces(text) for text in said):
        return True
    language = guess_language(words)
    return language is not None and _PROSE * len(words) <= sum(word in stop_word_set(language) for word in words)


def why_not(column: Column, profile: Profile) -> str:
    """Return why a column is left out of a draft; nothing where it can be in one."""
    if profile.rows and column.missing >= profile.rows:
        return "it has no values"
    if column.kind == "number":
        found = amount_of(column, profile)
        return found.why if found.measure is None else ""
    if column.kind in ("category", "place"):
        if says_identifier(column.name):
            return "an identifier: it names single rows or things"
        present = profile.rows - column.missing
        if column.distinct == present and present > _MOST_GROUPS:
            return "a different value in every row"
    if column.kind != "text" and column.distinct == 1 and profile.rows > 1:
        return "the same in every row"
    return ""


def _worth(column: Column, profile: Profile) -> float:
    present = 1 - column.missing / max(1, profile.rows)
    worth = present + (1 if present >= _FULL else 0)
    words = set(in_words(column.name).lower().split())
    if column.kind == "number":
        measure = amount_of(column, profile).measure
        adds_up = measure is not None and measure.stat == "sum"
        worth += 1.5 * adds_up + 1.5 * bool(words & ADDED) - 2.5 * bool(words & _ASIDE)
        worth += min(1.0, column.distinct / _MANY_VALUES)
    elif column.kind in ("category", "place", "list"):
        few, many = _BEST_GROUPS
        worth += 2 if few <= column.distinct <= many else 1 if 1 < column.distinct <= _MOST_GROUPS else 0
        worth += 0.5 * (column.kind == "place")
    return worth
