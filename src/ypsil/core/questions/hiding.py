"""Small groups are hidden, and with them what would give them away by subtraction.

Primary and complementary suppression as statistical offices use it: A. Hundepool and others, Statistical Disclosure
Control (2012), chapter 4. What is asked of a group is measured by how many people it has, not by how many of them
gave one answer.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import polars as pl

from ypsil.core.questions.groups import Group
from ypsil.core.questions.model import Question

PEOPLE = "-people"
_MOST_ROUNDS = 50
_MOST_NAMED = 6


@dataclass(frozen=True, slots=True)
class Hidden:
    """The rows with the values of small groups taken out, and what is said of it."""

    rows: pl.DataFrame
    notes: tuple[str, ...]


def hide_small(result: pl.DataFrame, groups: list[Group], question: Question, *, in_order: bool) -> Hidden:
    """Take out the values of groups with fewer than ``question.least_base`` people.

    Where one group alone is hidden of all or of a split value, or of a group's split values, the smallest of the
    others is hidden too: the total less the others would tell it. An answer without groups that rests on too few
    people says nothing. Hidden groups stand last, unless the groups are ``in_order``: their rank would tell about where
    they lie.
    """
    least = question.least_base
    if least is None:
        return Hidden(result, ())
    sizes = _sizes(result, groups, question)
    small = [0 < size < least for size in sizes]
    if not any(small):
        return Hidden(result, ())
    if not groups:
        return Hidden(_without(result, small), (f"It rests on fewer than {least} people and is hidden.",))
    hidden = _with_companions(result, groups, sizes, small, question)
    keys = [group.key for group in groups]
    if question.split and not _rests_on_cells(question):
        keys = _whole_keys(keys, question)
    names, alone = _names(result, keys, hidden), _names(result, keys, small)
    said = f"Groups of fewer than {least} people are hidden: {_listed(names)}"
    more = len(names) - len(alone)
    if more:
        said += f" ({more} of them so that the others cannot be worked out)"
    rows = _without(result, hidden)
    if not in_order:
        mask = pl.Series(hidden)
        rows = pl.concat([rows.filter(~mask), rows.filter(mask)])
    return Hidden(rows, (said,))


def _rests_on_cells(question: Question) -> bool:
    """Tell whether each value says something about the people of its own group and split value."""
    return not question.split or any(
        measure.rests_on_values or measure.stat not in ("count", "share") for measure in question.measures
    )


def _sizes(result: pl.DataFrame, groups: list[Group], question: Question) -> list[int]:
    """Return how many people each row speaks of: those of its cell, or of its group where the split is the answer."""
    bases = [name for name in result.columns if name.endswith("-base")]
    if bases:
        return result.select(pl.min_horizontal(bases)).to_series().fill_null(0).to_list()
    people = pl.col(PEOPLE).fill_null(0)
    if not groups:
        return result.select(people).to_series().to_list()
    if not question.split:
        counts_only = all(measure.stat in ("count", "share") for measure in question.measures)
        # How many gave an answer is no secret of those who gave it; of all of them there must be enough.
        return result.select(people.sum().over(pl.lit(1)) if counts_only else people).to_series().to_list()
    if _rests_on_cells(question):
        return result.select(people).to_series().to_list()
    keys = _whole_keys([group.key for group in groups], question)
    return result.select(people.sum().over(keys)).to_series().to_list()


def _with_companions(
    result: pl.DataFrame, groups: list[Group], sizes: list[int], small: list[bool], question: Question
) -> list[bool]:
    """Hide the smallest of the others wherever one stands hidden alone, until none does."""
    keys = [group.key for group in groups]
    cells = result.select(keys).rows()
    hidden = list(small)
    lines: list[list[int]] = []
    if len(keys) == 1:
        lines.append(list(range(len(cells))))
    elif _rests_on_cells(question):
        for position in range(len(keys)):
            rest = [tuple(value for place, value in enumerate(cell) if place != position) for cell in cells]
            lines += [[row for row, key in enumerate(rest) if key == wanted] for wanted in dict.fromkeys(rest)]
    else:
        return _whole_companions(cells, keys, sizes, hidden, question)
    for _ in range(_MOST_ROUNDS):
        alone = [line for line in lines if sum(hidden[row] for row in line) == 1]
        added = False
        for line in alone:
            others = [row for row in line if not hidden[row] and sizes[row] > 0]
            if others and sum(hidden[row] for row in line) == 1:
                hidden[min(others, key=lambda row: sizes[row])] = True
                added = True
        if not added:
            break
    return hidden


def _whole_companions(
    cells: list[tuple[Any, ...]], keys: list[str], sizes: list[int], hidden: list[bool], question: Question
) -> list[bool]:
    """Where whole groups are hidden, one alone is joined by the smallest of the others."""
    places = [keys.index(key) for key in _whole_keys(keys, question)]
    wholes = [tuple(cell[place] for place in places) for cell in cells]
    gone = {whole for whole, is_hidden in zip(wholes, hidden, strict=True) if is_hidden}
    others = {whole: size for whole, size in zip(wholes, sizes, strict=True) if whole not in gone and size > 0}
    if len(gone) == 1 and others:
        gone.add(min(others, key=lambda whole: others[whole]))
    return [whole in gone for whole in wholes]


def _without(result: pl.DataFrame, hidden: list[bool]) -> pl.DataFrame:
    names = [name for name in result.columns if name.startswith("measure")]
    mask = pl.Series(hidden)
    return result.with_columns(pl.when(mask).then(None).otherwise(pl.col(name)).alias(name) for name in names)


def _whole_keys(keys: list[str], question: Question) -> list[str]:
    """Return the keys of the groups that speak; what they are split by (or, within the split, into) is their answer."""
    is_of_split = any(measure.within == "split" for measure in question.measures)
    return [key for key in keys if (key == "split") == is_of_split]


def _names(result: pl.DataFrame, keys: list[str], hidden: list[bool]) -> list[str]:
    rows = result.select(keys).filter(pl.Series(hidden)).rows()
    return list(dict.fromkeys(" / ".join(str(value) for value in row) for row in rows))


def _listed(names: list[str]) -> str:
    return ", ".join(names[:_MOST_NAMED]) + (f" … ({len(names)})" if len(names) > _MOST_NAMED else "")
