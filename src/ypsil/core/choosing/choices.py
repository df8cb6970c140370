"""The choices of a page: read from the query of an address, written into one, and as filters of rows.

What an address says that cannot be is left out and said in words; nothing of it is ever refused. So the number of
different choices is bounded by the data, and an address that was sent once stays good when a value is gone.
"""

from __future__ import annotations

import math
import re
import unicodedata
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from urllib.parse import urlencode

from ypsil.core.choosing.control import Choice, Control
from ypsil.core.choosing.offered import Offered, period_key
from ypsil.core.figures import format_period
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.dates_in_text import period_of
from ypsil.core.tables.model import Column, Field

MOST_VALUES = 100
_LONGEST, _MOST_SAID, _SAID_LETTERS = 200, 3, 60
_FROM, _TO, _LAST = "-from", "-to", "-last"
_KEY_LETTERS = 30


@dataclass(frozen=True, slots=True)
class Chosen:
    """A choice as a filter: about which sort of column, and which tiles it leaves as they are."""

    rule: Filter
    field: Field
    control: Control

    def is_about(self, column: Column) -> bool:
        """Tell whether a column, of whichever table, is one that this chooses by."""
        return (column.name, column.kind, column.form == "time") == (
            self.rule.column,
            self.field.kind,
            self.field.form == "time",
        )

    def names(self) -> tuple[str, ...]:
        """Return the single things that were chosen, as drawings call them."""
        if self.rule.by is None:
            return tuple(map(str, self.rule.values))
        days = period_of(str(self.rule.values[0]))
        return () if days is None else (format_period(days[0], self.rule.by),)

    @property
    def is_of_values(self) -> bool:
        """Whether single things were chosen, and not all that lies between two."""
        return self.rule.test == "in" or (self.rule.test == "between" and len(set(self.rule.values)) == 1)


@dataclass(frozen=True, slots=True)
class Choices:
    """What was chosen at the controls of a page, by their ids; ``problems`` say what of an address could not be.

    ``least_bases`` are, by table, the smallest groups that any tile of the page shows: no choice shows smaller ones.
    """

    offered: Mapping[str, Offered] = field(default_factory=dict)
    made: Mapping[str, Choice] = field(default_factory=dict)
    problems: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    keys: Mapping[str, str] = field(default_factory=dict)
    least_bases: Mapping[str, int] = field(default_factory=dict)

    @property
    def rules(self) -> tuple[Chosen, ...]:
        """The choices as filters, those that choose nothing left out."""
        found = ((self.offered[name], choice) for name, choice in self.made.items())
        made = ((offered, offered.rule(choice)) for offered, choice in found)
        return tuple(Chosen(rule, offered.column.field, offered.control) for offered, rule in made if rule is not None)

    def of(self, control: str) -> Choice:
        return self.made.get(control, Choice())

    def heard_by(self, tile: str) -> tuple[Chosen, ...]:
        """Return what narrows a tile."""
        return tuple(one for one in self.rules if tile not in one.control.spares)

    def query(self, control: str = "", choice: Choice | None = None) -> str:
        """Return these choices as the query of an address, always the same for the same ones; with another one at a
        control where that is said."""
        made = dict(self.made) | ({control: choice or Choice()} if control else {})
        pairs = [pair for name in self.keys for pair in _pairs(self.keys[name], made.get(name, Choice()))]
        return urlencode(pairs)

    def control_for(self, column: Column) -> Offered | None:
        """Return the control by which rows are chosen by a column, where there is one."""
        for one in self.offered.values():
            if (one.column.name, one.column.kind) == (column.name, column.kind):
                return one
        return None


NOTHING_CHOSEN = Choices()


def choices_from(offered: Sequence[Offered], asked: Mapping[str, Sequence[str]]) -> Choices:
    """Return the choices that the query of an address makes at controls; ``asked`` are its values by their names."""
    keys = _keys(offered)
    made: dict[str, Choice] = {}
    problems: dict[str, tuple[str, ...]] = {}
    for one in offered:
        choice, said = _read(one, keys[one.control.id], asked)
        if choice.is_made:
            made[one.control.id] = choice
        if said:
            problems[one.control.id] = tuple(said)
    return Choices({one.control.id: one for one in offered}, made, problems, keys)


def _keys(offered: Sequence[Offered]) -> dict[str, str]:
    """Return what each control is called in an address: its column, in small letters."""
    keys: dict[str, str] = {}
    taken: set[str] = set()
    for one in offered:
        plain = unicodedata.normalize("NFKC", one.column.name).lower()
        stem = re.sub(r"\W+", "-", plain).strip("-_")[:_KEY_LETTERS].strip("-") or "by"
        key, number = stem, 1
        while taken & {key, key + _FROM, key + _TO, key + _LAST}:
            number += 1
            key = f"{stem}-{number}"
        taken |= {key, key + _FROM, key + _TO, key + _LAST}
        keys[one.control.id] = key
    return keys


def _pairs(key: str, choice: Choice) -> Iterator[tuple[str, str]]:
    if choice.last:
        yield key + _LAST, str(choice.last)
        return
    yield from ((key, value) for value in choice.values)
    if choice.low:
        yield key + _FROM, choice.low
    if choice.high:
        yield key + _TO, choice.high


def _read(offered: Offered, key: str, asked: Mapping[str, Sequence[str]]) -> tuple[Choice, list[str]]:
    if offered.way == "values":
        return _values(offered, [value.strip() for value in asked.get(key, ()) if value.strip()])
    problems: list[str] = []
    last = _first(asked, key + _LAST)
    if offered.way == "period" and last:
        if last.isascii() and last.isdigit() and int(last[:9]) > 0:
            return Choice(last=min(int(last[:9]), max(1, len(offered.periods)))), []
        problems.append(f"“{last[:_SAID_LETTERS]}” is not a number of {offered.grain}s, and is left out.")
    ends = []
    for end, is_low in ((_first(asked, key + _FROM), True), (_first(asked, key + _TO), False)):
        found = _amount(end) if offered.way == "amount" else _period(end, offered, is_low=is_low)
        if end and not found:
            what = "a number" if offered.way == "amount" else f"a {offered.grain} of the data"
            problems.append(f"“{end[:_SAID_LETTERS]}” is not {what}, and is left out.")
        ends.append(found)
    low, high = ends
    if low and high and _place(offered, low) > _place(offered, high):
        low, high = high, low
    return Choice(low=low, high=high), problems


def _first(asked: Mapping[str, Sequence[str]], name: str) -> str:
    return next((value.strip() for value in asked.get(name, ()) if value.strip()), "")


def _values(offered: Offered, asked: Sequence[str]) -> tuple[Choice, list[str]]:
    same = {value.casefold(): value for value in reversed(offered.values)}
    exact = set(offered.values)
    wanted = list(dict.fromkeys(asked))[:MOST_VALUES]
    found = {value if value in exact else same[value.casefold()] for value in wanted if value.casefold() in same}
    unknown = [value for value in wanted if value.casefold() not in same]
    problems = []
    if unknown:
        named = ", ".join(f"“{value[:_SAID_LETTERS]}”" for value in unknown[:_MOST_SAID])
        more = f" and {len(unknown) - _MOST_SAID} more" if len(unknown) > _MOST_SAID else ""
        one = len(unknown) == 1
        problems.append(
            f"{named}{more} {'is' if one else 'are'} not in the data, and {'is' if one else 'are'} left out."
        )
    if len(asked) > MOST_VALUES:
        problems.append(f"Only the first {MOST_VALUES} are taken.")
    chosen = tuple(value for value in offered.values if value in found)
    if offered.control.takes == "one":
        chosen = chosen[:1]
    return Choice(values=chosen), problems


def _amount(text: str) -> str:
    """Return a number as it stands in an address, an empty text for what is none.

    >>> _amount("12,50"), _amount("1 200"), _amount("1e400"), _amount("ten")
    ('12.5', '1200', '', '')
    """
    plain = re.sub(r"[\s_']", "", text[:_LONGEST])
    plain = plain.replace(",", ".") if plain.count(",") == 1 and "." not in plain else plain.replace(",", "")
    try:
        number = float(plain)
    except ValueError:
        return ""
    return f"{number:.15g}" if math.isfinite(number) else ""


def _period(text: str, offered: Offered, *, is_low: bool) -> str:
    """Return the period that a text names, or lies in, as it stands in an address: the first one there is for an
    earlier start, the last one for a later end; an empty text for what is none, or leaves nothing."""
    days = period_of(text[:_LONGEST]) if text else None
    if days is None or not offered.periods:
        return ""
    last = period_of(period_key(offered.periods[-1], offered.grain)) or days
    if (is_low and days[0] > last[1]) or (not is_low and days[1] < offered.periods[0]):
        return ""
    before = [start for start in offered.periods if start <= days[0]]
    return period_key(before[-1] if before else offered.periods[0], offered.grain)


def _place(offered: Offered, end: str) -> float:
    return float(end) if offered.way == "amount" else offered.starts()[end].toordinal()
