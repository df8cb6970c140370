"""Which columns of a table play a template's roles, each with the reason, and what the table lacks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import polars as pl

from ypsil.core.draft import Subject
from ypsil.core.draft.choosing import says_weight
from ypsil.core.draft.worth import by_worth
from ypsil.core.report.amounts import amount_of
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.tables.shown_names import in_words
from ypsil.core.templates.model import Need, Template
from ypsil.core.tiles import ReportTable

# What else can play a role of a kind: places are groups, and so are answers of several, and yes and no.
_STANDS_IN: dict[str, tuple[str, ...]] = {"category": ("category", "place", "list", "yesno")}
_NAMES = ("category", "place", "text")
_EACH = 0.9
_ALIKE = "It is called as on the page that the template was made of."
_ANSWERED = ("yesno", "list", "category", "place")
_KIND_IN_WORDS = {
    "number": "an amount", "category": "groups", "text": "text that people wrote", "date": "dates", "place": "places",
    "yesno": "yes or no", "list": "several answers each",
}  # fmt: skip


# A table that is still to come.
NOTHING = Subject("", ReportTable("", (), pl.DataFrame, "", ""), Profile((), {}, 0, {}))


@dataclass(frozen=True, slots=True)
class Played:
    """A column in a role, and why it was chosen."""

    need: Need
    column: str
    why: str


@dataclass(frozen=True, slots=True)
class Match:
    """A table in a template: who plays what, and what is missing, in words."""

    template: Template
    subject: Subject
    played: tuple[Played, ...]
    missing: tuple[str, ...]

    @property
    def fits(self) -> bool:
        return not self.missing

    @property
    def alike(self) -> int:
        """How many columns are called as on the page that the template was made of."""
        return sum(one.column == one.need.like for one in self.played)

    @property
    def roles(self) -> dict[str, str]:
        return {one.need.role: one.column for one in self.played}


def match(template: Template, subjects: Sequence[Subject], chosen: Mapping[str, str] | None = None) -> Match:
    """Return the table that fits a template best: the one that lacks least, has most columns of the same names as that
    which the template was made of, and plays most; the first of such.

    ``chosen`` names columns for roles; those that no table has are passed over.
    """
    found = [_of_one(template, subject, chosen or {}) for subject in subjects or (NOTHING,)]
    return min(found, key=lambda one: (len(one.missing), -one.alike, -len(one.played)))


def can_play(need: Need, subject: Subject) -> list[Column]:
    """Return the columns of a table that can play a role, the most fitting first."""
    profile = subject.profile
    kinds = _NAMES if need.is_each_row else _STANDS_IN.get(need.kind, (need.kind,))
    able = [column for column in profile.columns if column.kind in kinds and _is_able(column, need, subject)]
    ordered = by_worth(profile, able, subject.table.name).columns
    if need.is_answer:
        # Who says yes or no, or chooses several, answers; groups may only say who was asked.
        return sorted(ordered, key=lambda column: _ANSWERED.index(column.kind))
    # What is of the kind itself comes before what stands in for it.
    return sorted(ordered, key=lambda column: kinds.index(column.kind) > 1 and column.kind != need.kind)


def _is_able(column: Column, need: Need, subject: Subject) -> bool:
    if not need.least <= column.distinct <= need.most:
        return False
    if need.is_each_row:
        # What names the rows is told one by one, and nothing is asked of it.
        return column.kind in _NAMES and column.distinct >= _EACH * subject.profile.rows
    if subject.why_not(column) or (column.kind == "number" and says_weight(column.name) and subject.is_asked):
        return False
    if need.is_answer:
        return _is_answered(column, subject)
    if column.kind != "number":
        return True
    measure = amount_of(column, subject.profile).measure
    return measure is not None and (measure.stat == "sum" or not need.is_added)


def _is_answered(column: Column, subject: Subject) -> bool:
    """Tell whether people chose what a column holds: it says so by itself, or its table is a survey."""
    return column.kind in ("yesno", "list") or column.name.rstrip().endswith("?") or subject.is_asked


def _of_one(template: Template, subject: Subject, chosen: Mapping[str, str]) -> Match:
    played: list[Played] = []
    missing = []
    taken: set[str] = set(chosen.values())
    # What must be there chooses first.
    for need in sorted(template.needs, key=lambda need: not need.required):
        able = can_play(need, subject)
        wanted = next((column for column in able if column.name == chosen.get(need.role)), None)
        alike = next((column for column in able if need.like and column.name == need.like not in taken), None)
        crossed = next((one.column for one in played if one.need.role == need.crosses), "")
        free = [column for column in able if column.name not in taken and _crosses(column.name, crossed, subject)]
        column = wanted or alike or next(iter(free), None)
        if column is not None:
            taken.add(column.name)
            why = "You chose it." if wanted else _ALIKE if alike else _why(need, column, len(free), subject.profile)
            played.append(Played(need, column.name, why))
        elif need.required:
            missing.append(need.says)
    order = [need.role for need in template.needs]
    return Match(template, subject, tuple(sorted(played, key=lambda one: order.index(one.need.role))), tuple(missing))


def _crosses(name: str, other: str, subject: Subject) -> bool:
    """Tell whether the values of two columns come together in several ways: neither says what the other is."""
    if not other:
        return True
    frame = subject.table.frame()
    pairs = frame.select(pl.struct(name, other).n_unique()).item()
    return bool(pairs > max(frame[name].n_unique(), frame[other].n_unique()))


def _why(need: Need, column: Column, able: int, profile: Profile) -> str:
    name = f"“{in_words(column.name)}”"
    if column.kind == "number":
        reason = amount_of(column, profile).why
    elif column.kind in ("category", "place", "list"):
        reason = f"{column.distinct} different values"
    else:
        reason = _KIND_IN_WORDS.get(column.kind, "")
    among = "the only column that can be it" if able == 1 else f"the best of {able} that can be it"
    return f"{name} is {among}: {reason}." if reason else f"{name} is {among}."
