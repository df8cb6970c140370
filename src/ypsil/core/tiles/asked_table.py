"""A table as tiles ask it: rows are fetched once, and each question is answered once."""

from __future__ import annotations

import datetime as dt
import hashlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

import polars as pl

from ypsil.core.answers import answer, check
from ypsil.core.answers.model import Answer
from ypsil.core.answers.shared import SharedRows
from ypsil.core.answers.stacked import stacked_rows
from ypsil.core.answers.where import keep_rows
from ypsil.core.choosing import Chosen, Control, Offered, offered_by
from ypsil.core.errors import TooFewPeople
from ypsil.core.questions import Filter, Question
from ypsil.core.tables.model import Column


@dataclass(frozen=True, slots=True)
class ReportTable:
    """A table as a report sees it. ``frame`` is called only when a tile's answer is not remembered;
    ``read`` is the day on which its file was taken in."""

    name: str
    columns: tuple[Column, ...]
    frame: Callable[[], pl.DataFrame]
    digest: str
    source: str
    read: dt.date | None = None
    _key: list[str] = field(default_factory=list, init=False, compare=False, repr=False)
    _frames: list[pl.DataFrame] = field(default_factory=list, init=False, compare=False, repr=False)
    _shared: dict[tuple[Filter, ...], SharedRows] = field(default_factory=dict, init=False, compare=False, repr=False)
    _answers: dict[str, Answer] = field(default_factory=dict, init=False, compare=False, repr=False)

    @property
    def key(self) -> str:
        """A digest of all that drawings can depend on: rows may stay alike where kinds, orders or what is good change,
        and a refusal says the table's name."""
        if not self._key:
            said = "\0".join((self.digest, self.name, repr(self.columns)))
            self._key.append(hashlib.sha256(said.encode()).hexdigest())
        return self._key[0]

    def narrowed(
        self,
        question: Question,
        filters: Sequence[Filter],
        chosen: Sequence[Chosen] = (),
        least_base: int | None = None,
    ) -> Question:
        """Return a question with those filters of a page, and those that readers chose, whose columns the table has.

        Where readers chose any, ``least_base`` is the least that its groups may be, even if the question says none.
        """
        known = {column.name: column for column in self.columns}
        update: dict[str, Any] = {}
        if own := tuple(one for one in filters if one.column in known):
            update["where"] = (*question.where, *own)
        heard = tuple(one.rule for one in chosen if one.rule.column in known and one.is_about(known[one.rule.column]))
        if heard:
            update["chosen"] = heard
            update["least_base"] = max(question.least_base or 0, least_base or 0) or None
        return question.model_copy(update=update) if update else question

    def offered(self, control: Control) -> Offered | None:
        """Return what can be chosen at a control of this table; None where its column is gone, or cannot be chosen
        by."""
        column = next((one for one in self.columns if one.name == control.column), None)
        return None if column is None else offered_by(control, column, self._rows, self.key)

    def _rows(self) -> pl.DataFrame:
        if not self._frames:
            self._frames.append(self.frame())
        return self._frames[0]

    def fetch(self, question: Question) -> int:
        """Get the rows that a question is about, so that answering needs nothing from outside; return their number.

        Rows are filtered once for all the tiles that share their filters. Raises as ``answer`` does.
        """
        check(self.columns, question)
        frame = self._rows()
        # Filters of stacked columns may speak of columns that are there only once the others are stacked.
        if not question.stack:
            if question.row_rules not in self._shared:
                known = {column.name: column for column in self.columns}
                self._shared[question.row_rules] = SharedRows(keep_rows(frame, known, question.row_rules))
            self._shared[question.row_rules].expect(question)
        return frame.height

    def rows(self, question: Question) -> pl.DataFrame:
        """Return the rows that pass a question's filters, its columns below each other where it has some.

        Raises as ``answer`` does, and TooFewPeople where what readers chose leaves rows that are not to be told.
        """
        self.fetch(question)
        if question.chosen and question.least_base:
            counted = question.model_copy(update={"per": (), "split": None, "words": None, "order": None, "keep": None})
            if hides := self.answer(counted).hides:
                raise TooFewPeople(hides)
        if question.stack:
            known = {column.name: column for column in self.columns}
            return stacked_rows(self._frames[0], known, question).frame
        return self._shared[question.row_rules].frame

    def answer(self, question: Question) -> Answer:
        """Answer a question, once for all the tiles that ask it. Raises MissingColumns or QuestionRefused."""
        key = question.digest()
        if key not in self._answers:
            if not self._frames or question.row_rules not in self._shared:
                self.fetch(question)
            shared = None if question.stack else self._shared[question.row_rules]
            self._answers[key] = answer(self._frames[0], self.columns, question, shared=shared)
        return self._answers[key]
