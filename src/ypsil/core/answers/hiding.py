"""Small groups are hidden, and with them what would give them away by subtraction.

Primary and complementary suppression as statistical offices use it: A. Hundepool and others, Statistical Disclosure
Control (2012), chapter 4. Means and shares of an answer are judged by the people who could have given it: four who said
no among 200 give nobody away. Counts and parts of a total are people themselves, so each cell is judged by its own, and
nothing is left that a reader could work out who knows all sums of rows and columns: the cells hidden in a row or column
are at least two, and no hidden cell is determined by the others (which two in each line alone do not make sure of).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import polars as pl

from ypsil.core.answers.groups import Group
from ypsil.core.questions.model import Question

PEOPLE = "-people"
_MOST_ROUNDS = 1_000
# Larger systems of sums are not solved; no line has one hidden cell alone there either.
_MOST_SOLVED = 600
_NOTHING = 1e-9
_MOST_NAMED = 6


@dataclass(frozen=True, slots=True)
class Hidden:
    """The rows with the values of small groups taken out, and what is said of it."""

    rows: pl.DataFrame
    notes: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Away:
    """Groups by the values of their keys: all that there are whatever is chosen, and those of them that no choice by
    the same columns may show."""

    every: frozenset[tuple[Any, ...]]
    hidden: frozenset[tuple[Any, ...]]

    def from_rows(self, result: pl.DataFrame, cells: list[tuple[Any, ...]]) -> pl.DataFrame:
        """Return the rows of an answer without those that are hidden: whether one has rows at all would tell as well.
        What is put together of several groups may hold hidden ones, and goes with them."""
        kept = [cell in self.every and cell not in self.hidden for cell in cells]
        return result.filter(pl.Series(kept, dtype=pl.Boolean)) if self.hidden else result

    def said(self, least: int) -> tuple[str, ...]:
        """Return what is said of the hidden ones, which is the same with any choice."""
        if not self.hidden:
            return ()
        names = sorted({_name(cell) for cell in self.hidden})
        return (f"Groups that choices could tell of fewer than {least} people are hidden: {_listed(names)}",)


def hide_small(
    result: pl.DataFrame, groups: list[Group], question: Question, *, in_order: bool, also: Away | None = None
) -> Hidden:
    """Take out the values of groups with fewer than ``question.least_base`` people.

    Where one group alone is hidden of all or of a split value, or of a group's split values, the smallest of the
    others is hidden too: the total less the others would tell it; so wherever sums would tell. An answer without groups
    that rests on too few people says nothing. Hidden groups stand last, unless the groups are ``in_order``: their rank
    would tell about where they lie. ``also`` are groups that are hidden however large they are.
    """
    least, keys = question.least_base, [group.key for group in groups]
    if least is None:
        return Hidden(result, ())
    told: tuple[str, ...] = ()
    if also is not None and groups:
        result, told = also.from_rows(result, result.select(keys).rows()), also.said(least)
    sizes = _sizes(result, groups, question)
    small = [0 < size < least for size in sizes]
    if not any(small):
        return Hidden(result, told)
    if not groups:
        return Hidden(_without(result, small), (f"It rests on fewer than {least} people and is hidden.",))
    hidden = with_companions(result.select(keys).rows(), sizes, small)
    names, alone = _names(result, keys, hidden), _names(result, keys, small)
    said = f"Groups of fewer than {least} people are hidden: {_listed(names)}"
    more = len(names) - len(alone)
    if more:
        said += f" ({more} of them so that the others cannot be worked out)"
    rows = _without(result, hidden)
    if not in_order:
        mask = pl.Series(hidden)
        rows = pl.concat([rows.filter(~mask), rows.filter(mask)])
    return Hidden(rows, (*told, said))


def _sizes(result: pl.DataFrame, groups: list[Group], question: Question) -> list[int]:
    """Return how many people each row speaks of: those who could have given an answer, or those who are counted."""
    bases = [name for name in result.columns if name.startswith("measure") and name.endswith("-base")]
    if bases and all(measure.rests_on_values for measure in question.measures):
        return result.select(pl.min_horizontal(bases)).to_series().fill_null(0).to_list()
    return result.select(pl.min_horizontal(PEOPLE, *bases).fill_null(0)).to_series().to_list()


def with_companions(cells: list[tuple[Any, ...]], sizes: list[int], small: list[bool]) -> list[bool]:
    """Hide the smallest of the others wherever the sums of rows, columns and all tell what is hidden, until none do."""
    hidden = list(small)
    lines = _lines(cells)
    for _ in range(_MOST_ROUNDS):
        told = _determined(hidden, lines)
        if not told:
            break
        added = False
        for cell in told:
            # The smallest cell in a line with it; it cannot be worked out, nor can this one then.
            others = [row for line in lines if cell in line for row in line if not hidden[row] and sizes[row] > 0]
            if others:
                hidden[min(others, key=lambda row: sizes[row])] = True
                added = True
                break
        if not added:
            break
    return hidden


def _lines(cells: list[tuple[Any, ...]]) -> list[list[int]]:
    """Return the rows of an answer that add up to a sum that may be known: those that agree in all groups but one."""
    if not cells or len(cells[0]) == 1:
        return [list(range(len(cells)))]
    found: list[list[int]] = []
    for position in range(len(cells[0])):
        lines: dict[tuple[Any, ...], list[int]] = {}
        for row, cell in enumerate(cells):
            lines.setdefault(cell[:position] + cell[position + 1 :], []).append(row)
        found += lines.values()
    return found


def _determined(hidden: list[bool], lines: list[list[int]]) -> list[int]:
    """Return the hidden cells that the sums of the lines tell, the cells that are shown being known.

    A cell is told where its own unit vector lies in the row space of the equations, one a line: then, and only then, do
    all solutions agree in it.
    """
    rows = [row for row, is_hidden in enumerate(hidden) if is_hidden]
    places = {row: place for place, row in enumerate(rows)}
    alone = {line[0] for line in ([row for row in line if hidden[row]] for line in lines) if len(line) == 1}
    if alone or len(rows) > _MOST_SOLVED:
        return sorted(alone)
    equations = np.zeros((len(lines), len(rows)))
    for number, line in enumerate(lines):
        for row in line:
            if hidden[row]:
                equations[number, places[row]] = 1.0
    *_, sizes, directions = np.linalg.svd(equations)
    rank = int((sizes > _NOTHING * max(equations.shape)).sum())
    # What is not fixed by the sums moves in the null space: a cell without a part in it does not move.
    free = np.abs(directions[rank:]).sum(axis=0) if rank < len(rows) else np.zeros(len(rows))
    return [row for row in rows if free[places[row]] < _NOTHING * len(rows)]


def _without(result: pl.DataFrame, hidden: list[bool]) -> pl.DataFrame:
    names = [name for name in result.columns if name.startswith("measure")]
    mask = pl.Series(hidden)
    return result.with_columns(pl.when(mask).then(None).otherwise(pl.col(name)).alias(name) for name in names)


def _names(result: pl.DataFrame, keys: list[str], hidden: list[bool]) -> list[str]:
    rows = result.select(keys).filter(pl.Series(hidden)).rows()
    return list(dict.fromkeys(map(_name, rows)))


def _name(cell: tuple[Any, ...]) -> str:
    return " / ".join(str(value) for value in cell)


def _listed(names: list[str]) -> str:
    return ", ".join(names[:_MOST_NAMED]) + (f" … ({len(names)})" if len(names) > _MOST_NAMED else "")
