"""The answer to a question: a small table with what readers must know of it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any, Literal

import polars as pl

from ypsil.core.figures import DEFAULT_LOCALE, Grain
from ypsil.core.tables.model import Kind, Way
from ypsil.core.tables.natural_order import natural_order


@dataclass(frozen=True, slots=True)
class AnswerColumn:
    """A column of an answer; ``grain`` is set for periods, ``edges`` for classes, ``unit`` for measures.

    ``ordered`` tells that the values stand in an order of their own: time, size, a rating. ``adds_up`` tells that
    measured values are parts of one whole: sums and counts are, means are not. ``prefix`` stands before each value;
    ``decimals`` are those that such values are usually given with, where that is known; ``counts`` tells that rows are
    counted, with their weights or without. ``members`` are a column's values in their order, where that is known;
    ``several`` tells why one person may stand in several of its groups: having given several answers, or having said
    something to several statements; ``good`` is the way of measured amounts that somebody called good;
    ``is_words`` tells that the values are words of texts; ``locale`` is that in which its values are written;
    ``shown`` is what readers see it called, where that is not its name.
    """

    name: str
    kind: Kind
    role: Literal["per", "split", "measure"]
    unit: str | None = None
    grain: Grain | None = None
    edges: tuple[float, ...] = ()
    ordered: bool = False
    adds_up: bool = False
    prefix: str = ""
    decimals: int | None = None
    counts: bool = False
    members: tuple[Any, ...] = ()
    several: Literal["answers", "statements"] | None = None
    good: Way | None = None
    is_words: bool = False
    locale: str = DEFAULT_LOCALE
    shown: str = ""


@dataclass(frozen=True, eq=False)
class Answer:
    """The small table a question gives: rows in order, the base they rest on, what was left out.

    ``frame`` has a column for each of ``columns``, in their order. An answer of each row of a long table has as
    many, so drawing takes whole columns from it. ``is_cut`` tells that groups are left out, so that what is shown is
    no whole. ``bases`` holds, row by row, how many values each share and mean rests on, under the measure's place;
    ``exactness`` holds what stands beside them: ``deviation`` of means, ``effective`` bases of weights, ``rows`` of
    weighted counts, ``people`` who gave the answers that are counted, what they weigh (``people_weight``) and how many
    equal ones they are worth (``people_effective``), ``elsewhere`` how often in a hundred answers a word that marks a
    group stands in the others.
    ``footnotes`` are those of the notes that readers must know; ``hides`` is the one that says which groups are too
    small to be shown, where some are.
    """

    sentence: str
    columns: tuple[AnswerColumn, ...]
    frame: pl.DataFrame
    base: int
    notes: tuple[str, ...] = ()
    each_row: bool = False
    is_cut: bool = False
    bases: pl.DataFrame | None = None
    exactness: pl.DataFrame | None = None
    footnotes: tuple[str, ...] = ()
    hides: str = ""

    @property
    def height(self) -> int:
        return self.frame.height

    @property
    def locale(self) -> str:
        """The locale in which its figures are written."""
        return self.columns[0].locale if self.columns else DEFAULT_LOCALE

    def written_in(self, locale: str) -> Answer:
        """Return the answer with its figures written in another locale."""
        if locale == self.locale:
            return self
        return replace(self, columns=tuple(replace(column, locale=locale) for column in self.columns))

    def for_show(self) -> Answer:
        """Return the answer with its columns called as readers see them, unless two would be called the same."""
        names = [column.shown or column.name for column in self.columns]
        if len(set(names)) < len(names) or not any(column.shown for column in self.columns):
            return self
        named = (replace(column, name=name, shown="") for column, name in zip(self.columns, names, strict=True))
        return replace(self, columns=tuple(named))

    @cached_property
    def rows(self) -> tuple[tuple[Any, ...], ...]:
        return tuple(self.frame.rows())

    def of(self, role: Literal["per", "split", "measure"]) -> list[AnswerColumn]:
        return [column for column in self.columns if column.role == role]

    def series(self, column: AnswerColumn) -> pl.Series:
        return self.frame.to_series(self.columns.index(column))

    def values(self, column: AnswerColumn) -> list[Any]:
        index = self.columns.index(column)
        if index not in self._lists:
            self._lists[index] = self.frame.to_series(index).to_list()
        return self._lists[index]

    def members(self, column: AnswerColumn) -> list[Any]:
        """Return the different values of a grouping column in their order, which its first rows need not show: where
        the first group lacks one of the answers, these would begin in the wrong place."""
        index = self.columns.index(column)
        if column.role == "per" and index == 0:
            return list(dict.fromkeys(self.values(column)))
        found = self.frame.to_series(index).unique(maintain_order=True)
        if column.members:
            there = set(found.to_list())
            return [member for member in column.members if member in there]
        if found.dtype == pl.String:
            return natural_order(found.drop_nulls().to_list()) or found.to_list()
        return found.to_list()

    def bases_of(self, measure: AnswerColumn) -> list[int] | None:
        """Return how many values each row of a share or mean rests on; None for any other measure."""
        name = str(self.of("measure").index(measure))
        if self.bases is None or name not in self.bases.columns:
            return None
        return self.bases[name].fill_null(0).to_list()

    def exactness_of(
        self,
        measure: AnswerColumn,
        what: Literal["deviation", "effective", "rows", "elsewhere", "people", "people_weight", "people_effective"],
    ) -> list[float | None]:
        """Return the deviations, effective bases or rows that go with a measure's values; none where there are none."""
        name = f"{self.of('measure').index(measure)}-{what}"
        if self.exactness is None or name not in self.exactness.columns:
            return [None] * self.height
        return self.exactness[name].to_list()

    @cached_property
    def _lists(self) -> dict[int, list[Any]]:
        return {}


def answer_of_rows(
    sentence: str,
    columns: tuple[AnswerColumn, ...],
    rows: list[tuple[Any, ...]],
    base: int,
    notes: tuple[str, ...] = (),
) -> Answer:
    """Return an answer given row by row."""
    cells = list(zip(*rows, strict=True)) or [()] * len(columns)
    frame = pl.DataFrame({f"c{index}": pl.Series(values, strict=False) for index, values in enumerate(cells)})
    return Answer(sentence, columns, frame, base, notes)
