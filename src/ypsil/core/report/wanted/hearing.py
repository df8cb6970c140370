"""What is heard in a wish for a value: statistics, columns, values, periods and comparisons, and what is not."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import TypeVar

from ypsil.core.report.wanted.lexicon import (
    BOUNDING,
    CHANGES,
    COMPARED,
    COUNTED,
    EITHER,
    EVER,
    EXCEPT,
    PICKED,
    SILENT,
    STATS,
    WHETHER,
    Phrase,
)
from ypsil.core.report.wanted.names import Name, part_names, whole_names
from ypsil.core.report.wanted.periods import Period, period_at
from ypsil.core.tables.profile import Profile

_TOKENS = re.compile(r"\d{4}-\d{2}(?:-\d{2})?|\d+(?:[.,]\d+)*|q[1-4]\b|[^\W\d_]+(?:['’-][^\W\d_]+)*", re.IGNORECASE)
_LONGEST = 4
_Meaning = TypeVar("_Meaning")


@dataclass(slots=True)
class Heard:
    """The words of a wish and what they were taken for. ``heard`` tells each in words, ``unheard`` are the others."""

    tokens: list[str]
    names: list[Name] = field(default_factory=list)
    periods: list[Period] = field(default_factory=list)
    stat: str = ""
    picked: str = ""
    picked_at: int = -1
    change: str = ""
    is_compared: bool = False
    is_whether: bool = False
    is_per: bool = False
    bound: float | None = None
    heard: list[tuple[str, str]] = field(default_factory=list)
    unheard: list[str] = field(default_factory=list)

    def named(self, *kinds: str) -> list[Name]:
        """Return the columns of some kinds that were named."""
        return [name for name in self.names if not name.value and name.column.kind in kinds]

    def values(self) -> list[Name]:
        return [name for name in self.names if name.value]

    def said(self, name: Name) -> str:
        """Return the words that a name was found in."""
        return " ".join(self.tokens[name.start : name.start + name.length])

    def is_left_out(self, name: Name) -> bool:
        """Tell whether a value was named to be left out."""
        return any(token in EXCEPT for token in self.tokens[max(0, name.start - 2) : name.start])


def newest_day(profile: Profile) -> dt.date | None:
    """Return the last day that a table's first column of dates has."""
    ends = [profile.ends[column.name][1] for column in profile.of("date") if column.name in profile.ends]
    try:
        return dt.date.fromisoformat(str(ends[0])[:10]) if ends else None
    except ValueError:
        return None


def hear(text: str, profile: Profile, table: str) -> Heard:
    """Return what is heard in a wish with one table in mind."""
    tokens = [token.lower() for token in _TOKENS.findall(text)][:60]
    heard = Heard(tokens)
    free = [True] * len(tokens)
    _hear_periods(heard, free, newest_day(profile))
    heard.names = whole_names(tokens, free, profile)
    _hear_phrases(heard, free)
    heard.names = sorted([*heard.names, *part_names(tokens, free, profile)], key=lambda name: name.start)
    _hear_rest(heard, free, table)
    for name in heard.names:
        shown = name.column.shown or name.column.name
        heard.heard.append((heard.said(name), f"{shown} is {name.value}" if name.value else f"the column {shown}"))
    return heard


def _hear_periods(heard: Heard, free: list[bool], newest: dt.date | None) -> None:
    at = 0
    while at < len(heard.tokens):
        found = period_at(heard.tokens, at, newest)
        if found is None:
            at += 1
            continue
        period, length = found
        heard.periods.append(period)
        heard.heard.append((period.said, _period_words(period)))
        free[at : at + length] = [False] * length
        at += length


def _period_words(period: Period) -> str:
    lead = {"": "", "since": "from ", "until": "up to "}[period.lead]
    if period.fixed:
        return f"{lead}{period.fixed}"
    if period.back:
        return f"the {period.grain} before the newest"
    return f"{lead}the newest {period.grain}" if period.count == 1 else f"the newest {period.count} {period.grain}s"


def _hear_phrases(heard: Heard, free: list[bool]) -> None:
    def take(table: Mapping[Phrase, str] | Iterable[Phrase]) -> tuple[str, str, int]:
        found = _phrase(heard.tokens, free, table)
        if found is None:
            return "", "", -1
        at, length = found
        said = heard.tokens[at : at + length]
        free[at : at + length] = [False] * length
        return " ".join(said), table[tuple(said)] if isinstance(table, Mapping) else "", at

    while said := take(WHETHER)[0]:
        heard.is_whether = True
        heard.heard.append((said, "words in place of a number"))
    said, heard.change, _ = take(CHANGES)
    if said:
        heard.heard.append((said, {"percent": "a change in per cent"}.get(heard.change, f"a {heard.change}")))
    has_groups = any(not name.value and name.column.kind in ("category", "place") for name in heard.names)
    picks = {phrase: meaning for phrase, meaning in PICKED.items() if has_groups or phrase not in EITHER}
    said, heard.picked, heard.picked_at = take(picks)
    if said:
        heard.heard.append((said, "the highest" if heard.picked == "most" else "the lowest"))
    said, heard.stat, _ = take(STATS)
    if said:
        heard.heard.append((said, f"the {_STAT_SAID.get(heard.stat, heard.stat)}"))
    if heard.stat == "count":
        take(COUNTED)
    if len(heard.periods) > 1 or any(period.back for period in heard.periods):
        heard.is_compared = bool(take(COMPARED)[0])
    take(EVER)


_STAT_SAID = {"sum": "total", "max": "highest", "min": "lowest", "count": "number", "distinct": "number of different"}


def _phrase(
    tokens: Sequence[str], free: list[bool], table: Mapping[Phrase, str] | Iterable[Phrase]
) -> tuple[int, int] | None:
    """Return where the longest phrase of a table stands among words that are still free, and how many words it has."""
    known = set(table)
    for length in range(min(_LONGEST, len(tokens)), 0, -1):
        for at in range(len(tokens) - length + 1):
            if all(free[at : at + length]) and tuple(tokens[at : at + length]) in known:
                return at, length
    return None


def _hear_rest(heard: Heard, free: list[bool], table: str) -> None:
    """Words of the table's own name are understood, and a number may be a bound; what is left then is not."""
    own = {word.lower() for word in _TOKENS.findall(table)}
    for at, token in enumerate(heard.tokens):
        if not free[at]:
            continue
        if token == "per":
            heard.is_per = True
        elif token[0].isdigit() and heard.is_whether and heard.bound is None:
            heard.bound = float(token.replace(",", ""))
            heard.heard.append((token, "what it is held against"))
        elif heard.is_whether and token in BOUNDING:
            continue
        elif token not in SILENT and token not in EXCEPT and token not in own and token.rstrip("s") not in own:
            heard.unheard.append(token)
