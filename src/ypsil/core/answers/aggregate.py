"""Measures worked out for each group of rows."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import polars as pl

from ypsil.core.answers.derived import part_of_total
from ypsil.core.answers.hiding import PEOPLE
from ypsil.core.answers.measures import Basis, amount, beside, ratio
from ypsil.core.answers.stacked import ROW
from ypsil.core.answers.tally import Cells, tally
from ypsil.core.questions.model import Measure

CellsOf = Callable[[list[str]], Cells | None]


def not_numbered(_: list[str]) -> None:
    """Say of any groups that rows are not numbered by them."""


@dataclass(frozen=True, slots=True)
class Aggregation:
    """Rows that have their keys, and what is worked out of them; ``numbered`` gives them numbered by some keys."""

    rows: pl.DataFrame
    measures: tuple[Measure, ...]
    basis: Basis
    numbered: CellsOf
    with_people: bool = False

    def by(self, keys: list[str]) -> pl.DataFrame:
        """Return the measures for each group; of a ratio both amounts as well, for what is worked out from them later.

        Simple amounts are worked out by numbers, where the rows have them.
        """
        result = self._by_numbers(keys) if keys and not self.with_people else None
        if result is None:
            amounts = self._amounts()
            result = self.rows.group_by(keys).agg(amounts) if keys else self.rows.select(amounts)
        named = [(f"measure{index}", measure) for index, measure in enumerate(self.measures)]
        ratios = [ratio(f"{name}-above", f"{name}-below").alias(name) for name, measure in named if measure.ratio]
        if ratios:
            result = result.with_columns(ratios)
        shares = [part_of_total(name, measure, []) for name, measure in named if measure.is_part]
        return result.with_columns(shares) if not keys and shares else result

    def rows_in(self, key: str, members: pl.Series) -> int | None:
        """Return how many rows lie in these groups of a key; None where the rows are not numbered by it."""
        cells = self.numbered([key])
        return None if cells is None else int(cells.counts[cells.keys[key].is_in(members.implode()).to_numpy()].sum())

    def of_first(self) -> Aggregation:
        """Return the same for the first measure alone."""
        return replace(self, measures=self.measures[:1], with_people=False)

    def of_rows(self, kept: pl.Expr) -> Aggregation:
        """Return the same for some of the rows."""
        return replace(self, rows=self.rows.filter(kept), numbered=not_numbered)

    def renamed(self, key: pl.Expr, keys: list[str]) -> Aggregation:
        """Return the same for rows of which a key is changed; who gave several answers that now are one is counted
        once."""
        rows = self.rows.with_columns(key)
        if ROW in rows.columns:
            rows = rows.unique([ROW, *keys], maintain_order=True)
        return replace(self, rows=rows, numbered=not_numbered)

    def _by_numbers(self, keys: list[str]) -> pl.DataFrame | None:
        cells = self.numbered(keys)
        return None if cells is None else tally(self.rows, cells, self._plain(), self._with_complete())

    def _amounts(self) -> list[pl.Expr]:
        basis = self._with_complete()
        amounts = [_people(self.measures)] if self.with_people else []
        for name, (part, is_whole) in self._plain().items():
            amounts.append(amount(part, basis).alias(name))
            amounts += beside(part, name, basis) if is_whole else []
        return amounts

    def _with_complete(self) -> Basis:
        needed = [name for measure in self.measures for part in measure.parts() if (name := part.column)]
        complete = frozenset(name for name in needed if self.rows.height and not self.rows[name].null_count())
        return replace(self.basis, complete=complete)

    def _plain(self) -> dict[str, tuple[Measure, bool]]:
        """Return the plain amounts that the measures are made of, by their names, and which are measures themselves."""
        found: dict[str, tuple[Measure, bool]] = {}
        for index, measure in enumerate(self.measures):
            name = f"measure{index}"
            if measure.ratio:
                above, below = measure.ratio
                found |= {f"{name}-above": (above, False), f"{name}-below": (below, False)}
            else:
                found[name] = (measure, True)
        return found


def _people(measures: tuple[Measure, ...]) -> pl.Expr:
    """Return how many people a row of the answer speaks of: those with a value for each amount taken of values."""
    parts = [part for measure in measures for part in measure.parts() if part.stat != "distinct"]
    columns = dict.fromkeys(part.column for part in parts if part.column is not None)
    return pl.min_horizontal(pl.len(), *(pl.col(name).count() for name in columns)).alias(PEOPLE)
