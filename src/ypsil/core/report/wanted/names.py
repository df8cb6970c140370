"""Columns and values of a table that somebody names, also in other numbers and with slips."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

from ypsil.core.report.wanted.lexicon import PLURALS, SILENT
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.tables.shown_names import in_words
from ypsil.core.text.stems import stems_of
from ypsil.core.text.tokens import tokenise

_MOST_VALUES = 60
_MOST_WORDS = 6
# Of a hundred, as rapidfuzz measures how alike two words are: a letter or two of a long word.
_ALIKE = 84
_LEAST_LETTERS = 4


@dataclass(frozen=True, slots=True)
class Name:
    """A column, or a value of one, that was named by some words: ``is_whole`` where they are all of its name, ``slip``
    what was written where it is spelled otherwise."""

    column: Column
    value: str = ""
    start: int = 0
    length: int = 1
    is_whole: bool = True
    slip: str = ""


@lru_cache(maxsize=4096)
def _stems(text: str) -> tuple[str, ...]:
    return tuple(_stemmed(tokenise(text.lower())))


def _stemmed(tokens: Sequence[str]) -> list[str]:
    return stems_of([PLURALS.get(token, token) for token in tokens], "en")


def whole_names(tokens: Sequence[str], free: list[bool], profile: Profile) -> list[Name]:
    """Return the columns and values whose whole name is said, the longest first; ``free`` tells which words mean
    nothing else yet, and is kept up to date."""
    return _found(tokens, free, lambda stems: _whole(stems, profile))


def part_names(tokens: Sequence[str], free: list[bool], profile: Profile) -> list[Name]:
    """Return the columns and values of whose name some words are said, or a word with a slip."""
    return [*_found(tokens, free, lambda stems: _part(stems, profile)), *_slips(tokens, free, profile)]


_Meant = tuple[Column, str, bool]


def _found(tokens: Sequence[str], free: list[bool], meant: Callable[[tuple[str, ...]], _Meant | None]) -> list[Name]:
    stems = _stemmed(tokens)
    found: list[Name] = []
    for length in range(min(_MOST_WORDS, len(tokens)), 0, -1):
        for start in range(len(tokens) - length + 1):
            if not all(free[start : start + length]):
                continue
            name = meant(tuple(stems[start : start + length]))
            if name is not None:
                found.append(Name(*name[:2], start, length, name[2]))
                free[start : start + length] = [False] * length
    return found


def _whole(stems: tuple[str, ...], profile: Profile) -> _Meant | None:
    for column in profile.columns:
        if any(stems == _stems(name) for name in _called(column)):
            return column, "", True
    for column, value in _values(profile):
        if stems == _stems(value):
            return column, value, True
    return None


def _part(stems: tuple[str, ...], profile: Profile) -> _Meant | None:
    if all(stem in SILENT or len(stem) < _LEAST_LETTERS - 1 for stem in stems):
        return None
    for column in profile.columns:
        if any(_is_part(stems, _stems(name)) for name in _called(column)):
            return column, "", False
    for column, value in _values(profile):
        if _is_part(stems, _stems(value)):
            return column, value, False
    return None


def _called(column: Column) -> Iterator[str]:
    yield column.shown or column.name
    yield column.name
    yield in_words(column.name)


def _values(profile: Profile) -> Iterator[tuple[Column, str]]:
    for column in profile.of("category", "place", "list"):
        for value in profile.values.get(column.name, ())[:_MOST_VALUES]:
            yield column, value


def _is_part(stems: tuple[str, ...], whole: tuple[str, ...]) -> bool:
    """Tell whether words stand beside each other in a longer name."""
    return any(stems == whole[at : at + len(stems)] for at in range(len(whole) - len(stems) + 1))


def _slips(tokens: Sequence[str], free: list[bool], profile: Profile) -> Iterator[Name]:
    from rapidfuzz.fuzz import ratio

    named = [
        (column, "", one) for column in profile.columns for name in _called(column) for one in tokenise(name.lower())
    ]
    named += [(column, value, one) for column, value in _values(profile) for one in tokenise(value.lower())]
    named = [one for one in named if len(one[2]) >= _LEAST_LETTERS]
    for place, token in enumerate(tokens):
        if not free[place] or len(token) < _LEAST_LETTERS or not token.isalpha() or token in SILENT:
            continue
        column, value, word = max(named, key=lambda one: ratio(token, one[2]), default=(None, "", ""))
        if column is not None and ratio(token, word) >= _ALIKE:
            free[place] = False
            yield Name(column, value, place, 1, is_whole=False, slip=token)
