"""Questions that share their rows are answered by numbered groups; each answer is what it would be alone."""

import datetime as dt

import numpy as np
import polars as pl
import pytest
from polars.testing import assert_frame_equal

from ypsil.core.answers import answer
from ypsil.core.answers.shared import SharedRows
from ypsil.core.answers.tally import cells_of, crossed
from ypsil.core.questions import parse_question
from ypsil.core.tables.model import Column

COLUMNS = (
    Column("Branch", "category"),
    Column("Kind", "category"),
    Column("Day", "date"),
    Column("Visits", "number"),
    Column("Cost", "number"),
    Column("Gaps", "number"),
    Column("Patchy", "category"),
    Column("Large", "number"),
    Column("Broken", "number"),
)


def frame(height=400):
    chance = np.random.default_rng(3)
    return pl.DataFrame(
        {
            "Branch": chance.choice(["Elmstow", "Quay", "Old Mill", "ירוק"], height),
            "Kind": chance.choice(["Adult", "Child"], height),
            "Day": [dt.date(2025, 1, 1) + dt.timedelta(days=int(day)) for day in chance.integers(0, 500, height)],
            "Visits": chance.integers(-20, 400, height),
            "Cost": chance.normal(1e6, 3, height),
            "Gaps": pl.Series(chance.normal(5, 2, height)).set(pl.Series(chance.random(height) < 0.2), None),
            "Patchy": pl.Series(chance.choice(["a", "b"], height)).set(pl.Series(chance.random(height) < 0.1), None),
            "Large": pl.Series([2**61, -(2**61)] * (height // 2)),
            "Broken": np.where(chance.random(height) < 0.1, np.nan, chance.normal(5, 2, height)),
        }
    )


MEASURES = {
    "count": {"stat": "count"},
    "count of": {"stat": "count", "column": "Gaps"},
    "sum": {"stat": "sum", "column": "Visits"},
    "sum of fractions": {"stat": "sum", "column": "Cost"},
    "sum with gaps": {"stat": "sum", "column": "Gaps"},
    "sum too large to be exact": {"stat": "sum", "column": "Large"},
    "mean": {"stat": "mean", "column": "Cost"},
    "mean with gaps": {"stat": "mean", "column": "Gaps"},
    "least": {"stat": "min", "column": "Visits"},
    "least with gaps": {"stat": "min", "column": "Gaps"},
    "most": {"stat": "max", "column": "Cost"},
    "most of what is too large to be added": {"stat": "max", "column": "Large"},
    "most of what is partly no number": {"stat": "max", "column": "Broken"},
    "median": {"stat": "median", "column": "Visits"},
    "ratio": {"ratio": [{"stat": "sum", "column": "Cost"}, {"stat": "mean", "column": "Visits"}]},
    "part": {"stat": "share", "column": "Visits"},
    "running": {"stat": "sum", "column": "Visits", "then": "running_total"},
}
GROUPS = {
    "branch": {"per": [{"column": "Branch"}]},
    "first two": {"per": [{"column": "Branch"}], "keep": 2},
    "first two and rest": {"per": [{"column": "Branch"}], "keep": 2, "rest": "Others"},
    "month": {"per": [{"column": "Day", "by": "month"}]},
    "day, gaps as zero": {"per": [{"column": "Day", "by": "day", "gaps": "zero"}]},
    "weekday": {"per": [{"column": "Day", "by": "weekday"}]},
    "month and kind": {"per": [{"column": "Day", "by": "month"}], "split": {"column": "Kind"}},
    "patchy and branch": {"per": [{"column": "Patchy"}], "split": {"column": "Branch"}},
    "classes": {"per": [{"column": "Visits", "by": {"bins": 4}}]},
    "numbers": {"per": [{"column": "Visits"}]},
    "whole": {},
    "hidden": {"per": [{"column": "Branch"}], "split": {"column": "Kind"}, "least_base": 52},
}


ORDERED = {"month", "day, gaps as zero", "weekday", "month and kind", "classes", "numbers"}


@pytest.mark.parametrize(
    ("measure", "group"),
    [
        pytest.param(measure, group, id=f"{name} by {by}")
        for name, measure in MEASURES.items()
        for by, group in GROUPS.items()
        # Nothing runs along names, or without groups.
        if "then" not in measure or by in ORDERED
    ],
)
def test_an_answer_is_the_same_whether_its_rows_are_shared_or_not(measure, group):
    rows = frame()
    question = parse_question({"measures": [measure], **group})
    alone = answer(rows, COLUMNS, question)
    shared = SharedRows(rows)
    shared.expect(question)
    shared.expect(question)
    together = answer(rows, COLUMNS, question, shared=shared)
    assert_frame_equal(together.frame, alone.frame, rel_tol=1e-12)
    for one, other in ((together.bases, alone.bases), (together.exactness, alone.exactness)):
        assert (one is None) == (other is None)
        if one is not None:
            assert_frame_equal(one, other, rel_tol=1e-9)
    assert (together.base, together.notes, together.columns) == (alone.base, alone.notes, alone.columns)


def test_a_group_of_one_row_has_no_deviation():
    rows = pl.DataFrame({"Branch": ["a", "b", "b"], "Cost": [1.0, 2.0, 4.0]})
    columns = (Column("Branch", "category"), Column("Cost", "number"))
    question = parse_question({"measures": [{"stat": "mean", "column": "Cost"}], "per": [{"column": "Branch"}]})
    shared = SharedRows(rows)
    shared.expect(question)
    shared.expect(question)
    found = answer(rows, columns, question, shared=shared)
    assert dict(zip(found.frame["per0"], found.exactness["0-deviation"], strict=True)) == {
        "a": None,
        "b": pytest.approx(2**0.5),
    }


def test_rows_are_numbered_by_their_values():
    cells = cells_of(pl.Series("Branch", ["b", "a", "b", "c"]))
    assert cells.keys["Branch"].gather(cells.numbers).to_list() == ["b", "a", "b", "c"]
    assert dict(zip(cells.keys["Branch"], cells.counts, strict=True)) == {"b": 2, "a": 1, "c": 1}


def test_rows_are_numbered_by_those_pairs_that_are_there():
    branch, kind = pl.Series("Branch", ["b", "a", "b"]), pl.Series("Kind", ["x", "y", "x"])
    cells = crossed([cells_of(branch), cells_of(kind)])
    assert cells.keys[cells.numbers].rows() == [("b", "x"), ("a", "y"), ("b", "x")]
    assert sorted(cells.counts.tolist()) == [1, 2]


@pytest.mark.parametrize(
    "values",
    [
        pl.Series([], dtype=pl.String),
        pl.Series(["a", None]),
        pl.Series([1.5, 2.5]),
        pl.Series([0, 10**12]),
        pl.Series([f"name {index}" for index in range(10_001)]),
    ],
    ids=["none", "missing", "fractions", "far apart", "too many"],
)
def test_what_numbers_do_not_suit_is_left_to_grouping(values):
    assert cells_of(values) is None


def test_pairs_of_too_many_values_are_left_to_grouping():
    many = cells_of(pl.Series([f"name {index}" for index in range(1_000)]))
    assert crossed([many, many]) is None


@pytest.mark.parametrize(("asked", "is_numbered"), [(1, False), (2, True)])
def test_rows_are_numbered_where_two_questions_ask_for_a_group(asked, is_numbered):
    question = parse_question({"measures": [{"stat": "count"}], "per": [{"column": "Branch"}]})
    shared = SharedRows(frame())
    for _ in range(asked):
        shared.expect(question)
    per = question.per[0]
    cells = shared.cells([(per, shared.group((per, "per0"), "per", COLUMNS[0]))])
    assert (cells is not None) == is_numbered
