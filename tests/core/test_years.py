"""Years are years wherever they stand: in files, questions, filters, sentences and drawings."""

import pytest

from tests.factories import ask, csv_table
from ypsil.core.visuals.shared.summary import numbers_table

ROWS = {"1935": 5, "1936": 7, "1955": 4, "2001": 9}


def table(name="Year", form="{}"):
    return csv_table(f"{name},Films\n" + "".join(f"{form.format(year)},{films}\n" for year, films in ROWS.items()))


def total(**more):
    return {"measures": [{"stat": "sum", "column": "Films"}], **more}


@pytest.mark.parametrize("name", ["Year", "budgetYear", "release_year", "Fiscal yr", "Jahr"])
@pytest.mark.parametrize("form", ["{}", "{}.0"])
def test_a_column_of_years_is_one_whatever_its_name_looks_like(name, form):
    found = ask(total(per=[{"column": name}]), table(name, form))
    assert numbers_table(found)[1] == [[year, str(films)] for year, films in ROWS.items()]


def test_a_count_that_could_be_a_year_stays_a_count():
    assert csv_table("Branch,Visits\nA,1935\nB,1936\n").column("Visits").kind == "number"


@pytest.mark.parametrize(
    ("rule", "years"),
    [
        ({"test": "between", "values": [1950, 1960]}, ["1955"]),
        ({"test": "between", "values": ["1936", "1955"]}, ["1936", "1955"]),
        ({"test": "at_most", "values": [1936]}, ["1935", "1936"]),
        ({"test": "at_least", "values": [1955.0]}, ["1955", "2001"]),
        ({"test": "in", "values": [1935, 2001]}, ["1935", "2001"]),
        ({"test": "not_in", "values": ["1935"]}, ["1936", "1955", "2001"]),
    ],
)
def test_filters_take_years(rule, years):
    found = ask(total(per=[{"column": "Year"}], where=[{"column": "Year", **rule}]), table())
    assert [row[0] for row in numbers_table(found)[1]] == years
    assert "1,9" not in found.sentence


@pytest.mark.parametrize(
    ("value", "days"),
    [("2026-02", 28), ("2026-Q1", 90), ("2026", 365), ("2026-W02", 7), ("Feb 2026", 28), ("2026-02-03", 1)],
)
def test_filters_take_whole_periods(value, days):
    every = csv_table("Day\n" + "".join(f"2026-{1 + d // 28 % 12:02d}-{1 + d % 28:02d}\n" for d in range(336)))
    found = ask({"measures": [{"stat": "count"}], "where": [{"column": "Day", "test": "in", "values": [value]}]}, every)
    assert found.rows[0][0] == {28: 28, 90: 84, 365: 336, 7: 7, 1: 1}[days]


def test_the_first_of_some_years_is_a_year():
    found = ask({"measures": [{"stat": "min", "column": "Year"}]}, table())
    assert numbers_table(found)[1] == [["1935"]]


def test_changes_of_years_without_a_grain_go_from_year_to_year():
    measure = {"stat": "sum", "column": "Films", "then": "change_year"}
    found = ask({"measures": [measure], "per": [{"column": "Year"}]}, table())
    assert [value for _, value in found.rows] == [None, 2, None, None]
