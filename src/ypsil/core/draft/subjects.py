"""A table that a draft is made of."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.draft.worth import READ_TEXTS, is_prose, why_not
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.tiles import ReportTable


@dataclass(frozen=True, slots=True)
class Subject:
    """A table with the key that tiles ask it by, and what its columns hold."""

    key: str
    table: ReportTable
    profile: Profile

    def why_not(self, column: Column) -> str:
        """Return why a column is left out of a draft; nothing where it can be in one."""
        if column.kind == "text":
            said = self.table.frame()[column.name].drop_nulls().head(READ_TEXTS)
            return "" if is_prose(said.to_list()) else "names or addresses rather than sentences"
        return why_not(column, self.profile)
