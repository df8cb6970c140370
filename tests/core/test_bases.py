"""One rule of bases: rows that pass, belong to a shown group and have what the measure needs, for every statistic."""

import polars as pl
import pytest

from tests.factories import ask, csv_table
from ypsil.core.questions.model import STATS
from ypsil.core.visuals.shared.summary import describe

# Of ten rows, one has no branch, and of the others two have no score.
TABLE = csv_table(
    "Branch,Score,Answer\nA,5,yes\nA,,yes\nA,3,no\nB,4,yes\nB,,no\nB,9,\nB,8,yes\nC,7,no\nC,10,yes\n,6,yes\n"
)
PER = {"per": [{"column": "Branch"}]}
VALUED = [one for one in STATS if one != "share"]


def measure(stat):
    return {"stat": stat, "column": "Score", **({"p": 40} if stat == "percentile" else {})}


def said(found):
    """Return the base that a description gives."""
    return int(describe(found, "Bar chart").partition("(n = ")[2].partition(")")[0])


@pytest.mark.parametrize("stat", VALUED)
def test_every_statistic_of_a_column_rests_on_the_rows_that_have_it(stat):
    found = ask({"measures": [measure(stat)], **PER}, TABLE)
    assert (found.base, said(found)) == (7, 7)
    assert ask({"measures": [measure(stat)]}, TABLE).base == 8, "without groups, the row without a branch counts"


@pytest.mark.parametrize("stat", VALUED)
def test_the_base_is_that_of_the_groups_that_are_shown(stat):
    kept = ask({"measures": [measure(stat)], **PER, "keep": 2}, TABLE)
    rows = TABLE.frame.filter(pl.col("Branch").is_in(kept.frame["per0"].to_list()) & pl.col("Score").is_not_null())
    assert kept.base == rows.height
    filtered = ask(
        {"measures": [measure(stat)], "where": [{"column": "Score", "test": "at_least", "values": [5]}]}, TABLE
    )
    assert filtered.base == 6


@pytest.mark.parametrize(
    ("question", "base", "words"),
    [
        ({"measures": [{"stat": "count"}], **PER}, 9, ""),
        ({"measures": [{"stat": "share", "column": "Answer", "values": ["Yes"]}], **PER}, 8, ", of those with Answer"),
        ({"measures": [{"stat": "share", "column": "Answer", "values": ["Yes"], "of": "asked"}], **PER}, 9, ""),
        ({"measures": [{"stat": "share"}], **PER}, 9, ", of those with Branch"),
        ({"measures": [{"stat": "share"}], **PER, "keep": 1}, 9, ", of those with Branch"),
        ({"measures": [{"stat": "mean", "column": "Score"}], **PER}, 7, ", of those with Score"),
        ({"measures": [{"stat": "sum", "column": "Score"}], **PER}, 7, ""),
        ({"measures": [{"stat": "count"}, {"stat": "mean", "column": "Score"}], **PER}, 9, ", of those with Score"),
        ({"measures": [{"ratio": [{"stat": "sum", "column": "Score"}, {"stat": "count"}]}], **PER}, 7, ""),
        ({"measures": [{"stat": "sum", "column": "Score"}], "per": [{"column": "Branch", "by": "row"}]}, 7, ""),
    ],
)
def test_what_is_left_out_is_said_where_it_matters(question, base, words):
    found = ask(question, TABLE)
    assert found.base == base
    assert found.sentence.partition(", of those")[1:] == ("", "") if not words else found.sentence.endswith(words)


def test_what_is_put_together_rests_on_the_rows_of_the_groups_that_are_shown():
    levels = ("Strongly disagree", "Disagree", "Neutral", "Agree", "Strongly agree")
    rows = "".join(f"{level};{number}\n" for place, level in enumerate(levels) for number in range(place + 1))
    question = {
        "measures": [{"stat": "count", "then": "change"}],
        "per": [{"column": "Answer"}],
        "where": [{"column": "Answer", "test": "in", "values": ["Disagree", "Neutral", "Agree"]}],
        "order": {"by": "value"},
        "keep": 2,
        "rest": "Other",
    }
    assert ask(question, csv_table("Answer;Number\n" + rows)).base == 2 + 3 + 4
