"""What readers who choose rows could work out of small groups, by comparing what they are shown with each choice.

Each choice alone may show no small group, and two of them together may still tell one: all of the North less those of
the North who are over 30 (a difference attack; A. Hundepool and others, Statistical Disclosure Control, 2012, 2.3).
So a group is judged by its cells, one for each value of each column that is chosen by, whichever of these is chosen
now: where any cell has people and too few of them, the group is hidden with every choice by these columns. What is
shown with them is then made of cells that are all large enough, whatever is added to or taken from what.
"""

from __future__ import annotations

from collections.abc import Iterable
from itertools import combinations
from typing import Any

import polars as pl

from ypsil.core.answers.groups import TRUNCATE, Group
from ypsil.core.answers.hiding import Away, with_companions
from ypsil.core.answers.stacked import ROW
from ypsil.core.questions.model import Question
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.model import Column

Cell = tuple[Any, ...]
# With more columns chosen by at once nothing is shown of what is to be kept: there would be too many cells to judge.
MOST_COLUMNS = 4
_COUNT = "\x00people"


def tells_too_few(rows: pl.DataFrame, known: dict[str, Column], question: Question) -> bool:
    """Tell whether the columns that are chosen by have a cell of too few people in all; then nothing is shown.

    ``rows`` are those that the author's own filters left, whatever readers chose.
    """
    atoms = _atoms(rows, known, question)
    by = {rule.column for rule in question.chosen}
    if len(atoms) < len(by) or len(atoms) > MOST_COLUMNS:
        # By what is put below each other nobody knows any more who it was.
        return True
    return any(
        0 < size < (question.least_base or 0) for size in _counted(rows, list(atoms.values()), question).values()
    )


def given_away(
    rows: pl.DataFrame, known: dict[str, Column], groups: list[Group], question: Question, hidden: Iterable[Cell]
) -> Away:
    """Return the groups that some choice by the same columns would give away.

    ``rows`` are those that the author's own filters left, with the keys of ``groups``; ``hidden`` are the groups that
    are hidden where nothing is chosen.
    """
    least, keys = question.least_base or 0, [group.key for group in groups]
    atoms = _atoms(rows, known, question)
    sizes = _counted(rows, keys, question)
    cells = list(sizes)
    masks: dict[frozenset[str], set[Cell]] = {frozenset(): set(hidden)}
    for count in range(1, len(atoms) + 1):
        for names in combinations(atoms, count):
            chosen = frozenset(names)
            found = _counted(rows, [*keys, *(atoms[name] for name in names)], question)
            small = {cell[: len(keys)] for cell, size in found.items() if 0 < size < least}
            # Who sees more with fewer columns would learn it by not seeing it with more.
            small = small.union(*(masks[chosen - {name}] for name in names))
            flags = with_companions(cells, list(sizes.values()), [cell in small for cell in cells])
            masks[chosen] = small | {cell for cell, is_hidden in zip(cells, flags, strict=True) if is_hidden}
    return Away(frozenset(cells), frozenset(masks[frozenset(atoms)]))


def _counted(rows: pl.DataFrame, by: list[Any], question: Question) -> dict[Cell, int]:
    """Return how many people each cell speaks of, in an order of the cells' own."""
    if not rows.height:
        return {}
    parts = [part for measure in question.measures for part in measure.parts() if part.stat != "distinct"]
    valued = dict.fromkeys(part.column for part in parts if part.column is not None)
    people = pl.col(ROW).n_unique() if ROW in rows.columns else pl.len()
    size = pl.min_horizontal(people, *(pl.col(name).count() for name in valued)).alias(_COUNT)
    if not by:
        return {(): int(rows.select(size).item())}
    found = rows.group_by(by).agg(size)
    return {tuple(row[:-1]): int(row[-1]) for row in sorted(found.rows(), key=lambda row: repr(row[:-1]))}


def _atoms(rows: pl.DataFrame, known: dict[str, Column], question: Question) -> dict[str, pl.Expr]:
    """Return what tells the values of each column apart that is chosen by: periods by what they are chosen by."""
    found: dict[str, pl.Expr] = {}
    for rule in question.chosen:
        if rule.column in rows.columns:
            found[rule.column] = _atom(known[rule.column], rule).alias(f"\x00{rule.column}")
    return found


def _atom(column: Column, rule: Filter) -> pl.Expr:
    cell = pl.col(column.name)
    if column.kind == "list":
        return cell.list.sort().list.join("\x00")
    if column.kind == "date" and column.form != "time" and rule.by in TRUNCATE:
        return cell.dt.truncate(TRUNCATE[rule.by])
    return cell
