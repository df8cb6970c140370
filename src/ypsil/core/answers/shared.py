"""Rows that several questions are about, and what is worked out of them once for all of these."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from threading import RLock

import polars as pl

from ypsil.core.answers.groups import Group, Role, group_of
from ypsil.core.answers.tally import Cells, cells_of, crossed
from ypsil.core.questions.model import Per, Question
from ypsil.core.tables.model import Column

# A column that rows are grouped by, and the key of the group.
Grouped = tuple[Per, str]


class SharedRows:
    """The rows that filters left, with the groups that questions about them have in common.

    Numbering a group's values takes about as long as grouping by them once, so it is done where at least two
    questions ask for that group. Several threads may ask at once.
    """

    def __init__(self, frame: pl.DataFrame) -> None:
        self.frame = frame
        self._asked: Counter[Per] = Counter()
        self._groups: dict[tuple[Grouped, Role], Group] = {}
        self._cells: dict[tuple[Grouped, ...], Cells | None] = {}
        self._lock = RLock()

    def expect(self, question: Question) -> None:
        """Take note of a question that will be asked."""
        if question.words is None and not question.each_row:
            self._asked.update(set(question.per) | ({question.split} if question.split else set()))

    def group(self, grouped: Grouped, role: Role, column: Column) -> Group:
        """Return how these rows are grouped by a column; raises as ``group_of`` does."""
        place = (grouped, role)
        with self._lock:
            if place not in self._groups:
                per, key = grouped
                self._groups[place] = group_of(per, column, self.frame, role, key)
            return self._groups[place]

    def cells(self, pairs: Sequence[tuple[Per, Group]]) -> Cells | None:
        """Return the rows numbered by groups, where that pays and can be done."""
        place = tuple((per, group.key) for per, group in pairs)
        if not pairs or any(self._asked[per] < 2 for per, _ in pairs):
            return None
        with self._lock:
            if place not in self._cells:
                self._cells[place] = self._crossed(pairs) if len(pairs) > 1 else _alone(pairs[0][1])
            return self._cells[place]

    def _crossed(self, pairs: Sequence[tuple[Per, Group]]) -> Cells | None:
        parts = [part for pair in pairs if (part := self.cells([pair])) is not None]
        return crossed(parts) if len(parts) == len(pairs) else None


def _alone(group: Group) -> Cells | None:
    if group.explode or isinstance(group.cells, pl.Expr):
        return None
    return cells_of(group.cells.alias(group.key))
