"""A table that a draft is made of."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from ypsil.core.draft.worth import READ_TEXTS, is_prose, why_not
from ypsil.core.survey import survey_items
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.tiles import ReportTable

# Questions that only a survey asks: one answer each is what any table of categories looks like, and numbers from 0 to
# 10 may be anything.
_ASKED = ("matrix", "several answers", "ticked columns", "ranking")
_RATED = ("rating", "recommendation")
_SAYS_RATED = re.compile(r"\?\s*$|\b(rat(e|ed|ing|ings)|satisf\w+|recommend\w*|agree\w*)\b", re.IGNORECASE)
_LONGEST_SURVEY = 300_000


@dataclass(frozen=True, slots=True)
class Subject:
    """A table with the key that tiles ask it by, and what its columns hold."""

    key: str
    table: ReportTable
    profile: Profile
    # What was found out of it once: it is asked for each template anew.
    _reasons: dict[str, str] = field(default_factory=dict, init=False, compare=False, repr=False)
    _asked: list[bool] = field(default_factory=list, init=False, compare=False, repr=False)

    @property
    def is_asked(self) -> bool:
        """Whether it holds answers that people gave to questions."""
        if not self._asked:
            self._asked.append(self._holds_answers())
        return self._asked[0]

    def _holds_answers(self) -> bool:
        if self.profile.rows > _LONGEST_SURVEY:
            return False
        if sum(column.name.rstrip().endswith("?") for column in self.profile.columns) > 1:
            return True
        items = survey_items(self.table.frame(), self.profile.columns)
        rated = [one for one in items if one.kind in _RATED and _SAYS_RATED.search(one.name)]
        return bool(rated) or any(one.kind in _ASKED for one in items)

    def why_not(self, column: Column) -> str:
        """Return why a column is left out of a draft; nothing where it can be in one."""
        if column.name not in self._reasons:
            self._reasons[column.name] = self._why_not(column)
        return self._reasons[column.name]

    def _why_not(self, column: Column) -> str:
        if column.kind == "text":
            said = self.table.frame()[column.name].drop_nulls().head(READ_TEXTS)
            return "" if is_prose(said.to_list()) else "names or addresses rather than sentences"
        return why_not(column, self.profile)
