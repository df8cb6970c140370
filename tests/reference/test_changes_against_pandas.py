"""Changes, averages and totals with filters, orders and cuts in any combination, against pandas on random tables.

What must hold: filters of other columns act first, then each period is worked out and compared with the periods before
it, then periods are cut, ordered and kept (pandas: groupby, asfreq, diff, then slicing and nlargest).
"""

import datetime as dt
import itertools

import pandas as pd
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsil.core.answers import answer
from ypsil.core.questions import parse_question
from ypsil.core.tables.model import Column

COLUMNS = (Column("Day", "date"), Column("Branch", "category"), Column("Visits", "number"), Column("Hours", "number"))
START = dt.date(2023, 1, 1)
ROWS = st.lists(
    st.tuples(
        st.integers(0, 900),
        st.sampled_from(["Elmstow", "Quay"]),
        st.one_of(st.none(), st.integers(1, 500)),
        st.one_of(st.none(), st.integers(1, 20)),
    ),
    min_size=1,
    max_size=60,
)
THENS = {
    None: lambda values: values,
    "running_total": lambda values: values.cumsum(),
    "change": lambda values: values.diff(),
    "percent_change": lambda values: values.pct_change(fill_method=None),
    "change_year": lambda values: values.diff(12),
    "moving_average": lambda values: values.rolling(3).mean(),
}
RULES = {
    "branch": {"column": "Branch", "test": "in", "values": ["Quay"]},
    "last": {"column": "Day", "test": "last", "count": 5, "by": "month"},
    "least": {"column": "Visits", "test": "at_least", "values": [50]},
}


def tables(rows):
    data = {
        "Day": [START + dt.timedelta(days=day) for day, *_ in rows],
        "Branch": [row[1] for row in rows],
        "Visits": [row[2] for row in rows],
        "Hours": [row[3] for row in rows],
    }
    schema = {"Day": pl.Date, "Branch": pl.String, "Visits": pl.Int64, "Hours": pl.Int64}
    frame = pl.DataFrame(data, schema=schema)
    other = pd.DataFrame(data).assign(Day=lambda one: pd.to_datetime(one["Day"]))
    return frame, other.astype({"Visits": "float64", "Hours": "float64"})


def by_pandas(other, then, rules, keep):
    """Return the answer as pandas gives it: months with their values, the largest where some are kept."""
    first_shown = other["Day"].max().to_period("M") - 4
    if "branch" in rules:
        other = other[other["Branch"] == "Quay"]
    if "least" in rules:
        other = other[other["Visits"] >= 50]
    if "last" in rules and then is None:
        other = other[other["Day"].dt.to_period("M") >= first_shown]
    grouped = other.groupby(other["Day"].dt.to_period("M"))["Visits"]
    sums, there = grouped.sum(min_count=1), grouped.size()
    if then is not None and len(sums):
        sums = sums.reindex(pd.period_range(sums.index.min(), sums.index.max(), freq="M"))
    found = THENS[then](sums)
    found = found[found.index.isin(there.index)]
    if "last" in rules:
        found = found[found.index >= first_shown]
    if keep:
        found = found.sort_index().sort_values(ascending=False, kind="stable", na_position="last").head(keep)
    return {period.start_time.date(): value for period, value in found.items()}


@given(ROWS, st.sampled_from(list(THENS)), st.permutations(list(RULES)), st.integers(0, 3), st.sampled_from([0, 1, 3]))
def test_any_order_of_filters_changes_orders_and_cuts(rows, then, names, chosen, keep):
    frame, other = tables(rows)
    rules = names[:chosen]
    question = {
        "measures": [{"stat": "sum", "column": "Visits", **({"then": then} if then else {})}],
        "per": [{"column": "Day", "by": "month"}],
        "where": [RULES[name] for name in rules],
    }
    if keep:
        question |= {"order": {"by": "value", "descending": True}, "keep": keep}
    found = answer(frame, COLUMNS, parse_question(question))
    wanted = by_pandas(other, then, rules, keep)
    assert list(found.frame["per0"]) == list(wanted)
    values = [float("nan") if value is None else value for value in found.frame["measure0"]]
    assert values == pytest.approx(list(wanted.values()), rel=1e-9, nan_ok=True)


@given(ROWS)
def test_a_ratio_divides_the_rows_that_have_both(rows):
    frame, other = tables(rows)
    ratio = {"ratio": [{"stat": "sum", "column": "Visits"}, {"stat": "sum", "column": "Hours"}]}
    found = answer(frame, COLUMNS, parse_question({"measures": [ratio], "per": [{"column": "Branch"}]}))
    both = other.dropna(subset=["Visits", "Hours"]).groupby("Branch")[["Visits", "Hours"]].sum()
    wanted = (both["Visits"] / both["Hours"]).to_dict()
    assert {name: value for name, value in found.rows if value is not None} == pytest.approx(wanted)
    assert found.base == len(other.dropna(subset=["Visits", "Hours"]))


def years(**more):
    """Yearly values 10, 12, 9, 30, 31, 60, of the years 2018 to 2023: the changes are 2, -3, 21, 1 and 29."""
    values = [10, 12, 9, 30, 31, 60]
    frame = pl.DataFrame({"Day": [dt.date(2018 + year, 6, 1) for year in range(6)], "Visits": values})
    data = {
        "measures": [{"stat": "sum", "column": "Visits", "then": "change"}],
        "per": [{"column": "Day", "by": "year"}],
    }
    return answer(frame, (COLUMNS[0], COLUMNS[2]), parse_question(data | more))


def test_the_three_years_of_largest_change_are_those():
    found = years(order={"by": "value", "descending": True}, keep=3)
    assert [(day.year, value) for day, value in found.rows] == [(2023, 29), (2021, 21), (2019, 2)]


@pytest.mark.parametrize("rule", [
    {"test": "last", "count": 2, "by": "year"}, {"test": "at_least", "values": ["2022-01-01"]},
    {"test": "between", "values": ["2022-01-01", "2023-12-31"]},
])  # fmt: skip
def test_a_filter_of_the_periods_cuts_what_is_shown_and_not_what_is_compared_with(rule):
    found = years(where=[{"column": "Day", **rule}])
    assert [(day.year, value) for day, value in found.rows] == [(2022, 1), (2023, 29)]
    assert found.base == 2
    assert ", shown where Day is " in found.sentence


def test_the_sentence_tells_filters_of_rows_from_those_of_periods():
    rules = [
        {"column": "Day", "test": "last", "count": 2, "by": "year"},
        {"column": "Visits", "test": "at_least", "values": [9]},
    ]
    for order in itertools.permutations(rules):
        said = years(where=list(order)).sentence
        assert said.endswith("where Visits is at least 9, shown where Day is in the last 2 years of the data")
