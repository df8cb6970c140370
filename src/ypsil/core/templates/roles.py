"""A table in the roles of a template: its columns in what is asked, its names in what is said."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from ypsil.core.draft import Subject
from ypsil.core.errors import YpsilError
from ypsil.core.questions import Measure, Order, Per, Question
from ypsil.core.questions.offered.base import classes_of
from ypsil.core.report.amounts import natural_measure
from ypsil.core.tables.shown_names import in_words
from ypsil.core.templates.matching import Match
from ypsil.core.templates.model import CLASSES, GRAIN, GROUP, MONTHS, ROLE

_COARSE = ("quarter", "year")
_NATURAL, _ADDED = "natural", "added"
_MOST_GIVEN = 60
_TOKEN = re.compile(r"\{([a-z]{1,20}|[1-9])\}")


@dataclass(slots=True)
class Casting:
    """Who plays what: ``found`` names the columns. Without a table, nothing has a name yet (``is_open``)."""

    found: Match
    is_open: bool = False
    _leading: list[str] | None = field(default=None, repr=False)

    @property
    def subject(self) -> Subject:
        return self.found.subject

    @property
    def roles(self) -> Mapping[str, str]:
        return self.found.roles

    def resolved(self, pattern: Any) -> Any:
        """Return a pattern with columns for its roles; raises YpsilError for a group that there is not, and for a
        column that is not added up where it should be."""
        if isinstance(pattern, list | tuple):
            return [self.resolved(one) for one in pattern]
        if isinstance(pattern, str):
            return self._value(pattern.removeprefix(ROLE)) if pattern.startswith(ROLE) else pattern
        if not isinstance(pattern, dict):
            return pattern
        by = pattern.get("by")
        made = {name: self.resolved(value) for name, value in pattern.items() if value not in (GRAIN, MONTHS, CLASSES)}
        profile = self.subject.profile
        if by == CLASSES:
            made["by"] = classes_of(made["column"], profile)
        elif by in (GRAIN, MONTHS):
            grain = profile.grains.get(made["column"], "month")
            # Months of days, and never months of years.
            made["by"] = grain if by == GRAIN or grain in _COARSE else "month"
        if "given" in pattern:
            rows = self.subject.table.frame()[made.pop("given")].drop_nulls().unique(maintain_order=True)
            made |= {"by": "given", "values": rows.head(_MOST_GIVEN).to_list()}
        if made.get("stat") in (_NATURAL, _ADDED):
            made |= self._measured(made["column"], made["stat"])
        return made

    def _measured(self, name: str, stat: str) -> dict[str, Any]:
        """Return the measure that is natural to a column; it is refused where it should be a sum, and is none."""
        column = self.subject.profile.column(name)
        assert column is not None
        measure = natural_measure(column, self.subject.profile)
        if stat == _ADDED and measure.stat != "sum":
            raise YpsilError(f"“{column.name}” is not added up")
        return measure.model_dump(exclude_defaults=True, mode="json")

    def _value(self, role: str) -> str:
        """Return the column of a role, or one of the leading groups by its place."""
        if not role.isdigit():
            return self.roles[role]
        if int(role) > len(self.groups()):
            raise YpsilError(f"there is no group number {role}")
        return self.groups()[int(role) - 1]

    def groups(self) -> list[str]:
        """Return the values of the role “group”, the leading first, but those that the template names in its places."""
        if self._leading is None:
            self._leading = known_first(leading_groups(self.subject, self.roles), self.found.template.groups)
        return self._leading

    def renamed(self) -> dict[str, str]:
        """Return which group stands in the place of each that the template names."""
        named = self.found.template.groups
        return {before: now for before, now in zip(named, self.groups(), strict=False) if before} if named else {}

    def named(self, text: str) -> str:
        """Return a text with the names of columns, of groups and of the table in it; what plays no part is called by
        what is asked for it."""
        if not _TOKEN.search(text):
            return text
        return "" if self.is_open else _TOKEN.sub(self._name, text)

    def _name(self, token: re.Match[str]) -> str:
        role = token[1]
        if role == "table":
            return in_words(self.subject.table.name)
        if role.isdigit():
            return self.groups()[int(role) - 1] if int(role) <= len(self.groups()) else token[0]
        if role in self.roles:
            return in_words(self.roles[role])
        return next((need.says for need in self.found.template.needs if need.role == role), token[0])


def leading_groups(subject: Subject, roles: Mapping[str, str]) -> list[str]:
    """Return the values of the role “group”, in the order of what is measured of the amount, as in all that ranks them
    on the page, else by rows."""
    column, profile = roles.get(GROUP, ""), subject.profile
    if not column:
        return []
    amount = profile.column(roles.get("amount"))
    measure = natural_measure(amount, profile) if amount is not None else Measure(stat="count")
    asked = Question(measures=(measure,), per=(Per(column=column),), order=Order(by="value", descending=True))
    answer = subject.table.answer(asked)
    return [str(one) for one in answer.values(answer.of("per")[0]) if one is not None]


def known_first(groups: Sequence[str], named: Sequence[str]) -> list[str]:
    """Return groups in their order, but those that a template names, and that are there, in its places.

    >>> known_first(["Alder", "Brack", "Elm"], ["Elm", "", "Kirk"])
    ['Elm', 'Alder', 'Brack']
    """
    rest = [one for one in groups if one not in named]
    found = []
    for name in named:
        if name in groups:
            found.append(name)
        elif rest:
            found.append(rest.pop(0))
    return [*found, *rest]
