"""What readers who choose could work out of small groups, tried by working it out: all that is shown with all choices
is put together as equations, and no group of too few people may be determined by them (linear algebra; the attack is
that of A. Hundepool and others, Statistical Disclosure Control, 2012, chapter 4)."""

from __future__ import annotations

import random
from collections import Counter
from itertools import combinations, product
from typing import Any

import numpy as np
import polars as pl
import pytest

from ypsil.core.answers import answer
from ypsil.core.questions import Filter, parse_question
from ypsil.core.tables.model import Column

LEAST = 5
COLUMNS = (Column("group", "category"), Column("side", "category"), Column("age", "category"))
GROUPS = ("A", "B", "C", "D")
MEMBERS = {"group": GROUPS, "side": ("left", "right", "none"), "age": ("young", "old")}
CELLS = list(product(*MEMBERS.values()))
COUNT: dict[str, Any] = {"measures": [{"stat": "count"}], "least_base": LEAST}
ASKED = [COUNT, COUNT | {"per": [{"column": "group"}]}, COUNT | {"per": [{"column": "side"}]}]


def some_people(seed: int) -> pl.DataFrame:
    """Return people of whom few belong to some groups."""
    chance = random.Random(seed)
    most = chance.choice((8, 14, 30))
    counts = {cell: chance.choice((0, 0, *range(most), most, most, 2 * most)) for cell in CELLS}
    rows = [cell for cell, count in counts.items() for _ in range(count)]
    return pl.DataFrame(rows, schema=list(MEMBERS), orient="row")


def subsets(column: str) -> list[tuple[str, ...]]:
    values = MEMBERS[column]
    return [some for size in range(1, len(values) + 1) for some in combinations(values, size)]


def choices() -> list[tuple[Filter, ...]]:
    """Return everything that readers can choose, nothing included."""
    found = []
    for side, age in product([(), *subsets("side")], [(), *subsets("age")]):
        rules = {"side": side, "age": age}
        found.append(tuple(Filter(column=name, test="in", values=some) for name, some in rules.items() if some))
    return found


def known_of(frame: pl.DataFrame, *, is_guarded: bool) -> list[np.ndarray]:
    """Return what a reader knows who made all choices: an equation over all cells for each number that is shown."""
    equations = []
    for asked, chosen in product(ASKED, choices()):
        question = parse_question(asked).model_copy(update={"chosen" if is_guarded else "where": chosen})
        found = answer(frame, COLUMNS, question)
        column = question.per[0].column if question.per else ""
        rows = dict(found.rows if column else [("", *row) for row in found.rows])
        if column and not found.hides:
            # A group that is not there has nobody, where nothing is said to be hidden.
            rows = dict.fromkeys(MEMBERS[column], 0) | rows
        for name, count in rows.items():
            inside = np.array([float(_is_in(cell, chosen, column, name)) for cell in CELLS])
            if count == 0:
                equations += [row for row in np.diag(inside) if row.any()]
            elif count is not None:
                equations.append(inside)
    return equations


def _is_in(cell: tuple[str, str, str], chosen: tuple[Filter, ...], column: str, name: str) -> bool:
    said = dict(zip(MEMBERS, cell, strict=True))
    return all(said[rule.column] in rule.values for rule in chosen) and said.get(column, name) == name


def told(frame: pl.DataFrame, *, is_guarded: bool = True) -> list[str]:
    """Return the groups of too few people whose size follows from what is known."""
    counts = Counter(frame.rows())
    sizes = np.array([counts[cell] for cell in CELLS])
    known = known_of(frame, is_guarded=is_guarded)
    if not known:
        return []
    _, values, directions = np.linalg.svd(np.array(known))
    free = directions[int((values > 1e-9 * len(known)).sum()) :]
    found = []
    for groups, side, age in product([GROUPS, *((one,) for one in GROUPS)], subsets("side"), subsets("age")):
        meant = np.array([float(cell[0] in groups and cell[1] in side and cell[2] in age) for cell in CELLS])
        if 0 < meant @ sizes < LEAST and np.abs(free @ meant).sum() < 1e-7:
            found.append(f"{groups} {side} {age}: {int(meant @ sizes)}")
    return found


@pytest.mark.parametrize("seed", range(10))
def test_no_choice_and_no_comparison_of_choices_tells_a_small_group(seed):
    assert told(some_people(seed)) == []


def test_it_would_be_noticed_if_choices_told_one():
    assert told(some_people(2), is_guarded=False), "each answer alone hides small groups; together they tell"


def test_what_is_large_enough_is_shown():
    even = pl.DataFrame([cell for cell in CELLS for _ in range(LEAST)], schema=list(MEMBERS), orient="row")
    chosen = (Filter(column="side", test="in", values=("left",)),)
    for asked in ASKED:
        found = answer(even, COLUMNS, parse_question(asked).model_copy(update={"chosen": chosen}))
        assert found.height and not found.hides, asked


@pytest.mark.parametrize(
    "asked",
    [
        {"measures": [{"stat": "count"}], "per": [{"column": "words", "by": "word"}]},
        {"measures": [{"stat": "mean", "column": "amount"}], "per": [{"column": "words", "by": "row"}]},
        {"measures": [{"stat": "count"}], "per": [{"column": "amount", "by": {"bins": 3}}]},
    ],
    ids=["words", "rows", "classes"],
)
def test_what_is_not_made_of_groups_is_not_shown_of_few(asked):
    few = pl.DataFrame({"side": ["left"] * 3 + ["right"] * 9, "words": ["good"] * 12, "amount": range(12)})
    columns = (Column("side", "category"), Column("words", "text"), Column("amount", "number"))
    question = parse_question(
        asked | {"least_base": LEAST, "chosen": [{"column": "side", "test": "in", "value": "right"}]}
    )
    found = answer(few, columns, question)
    assert found.height == 0
    assert "fewer than 5 people" in found.hides, "nine are enough, and all less these nine are three"


def test_of_columns_below_each_other_people_are_judged_and_what_is_stacked_tells_nobody():
    words = ["yes", "no"] * 30
    frame = pl.DataFrame({"first": words, "second": words[::-1], "side": ["left"] * 40 + ["right"] * 20})
    columns = tuple(Column(name, "category") for name in frame.columns)
    asked = COUNT | {"stack": {"columns": ["first", "second"]}, "per": [{"column": "Statement"}]}

    def shown(column: str, value: str, of: pl.DataFrame) -> bool:
        rule = {"column": column, "test": "in", "value": value}
        return answer(of, columns, parse_question(asked | {"chosen": [rule]})).height > 0

    assert shown("side", "left", frame)
    few = frame.with_columns(side=pl.Series(["left"] * 58 + ["right"] * 2))
    assert not shown("side", "left", few), "two people gave four answers"
    assert not shown("first", "yes", frame), "which column it was is all that is left of it"
