"""Answers against pandas on open data sets that the vega_datasets package ships (its licence: BSD 3-clause).

Sources: "seattle-weather" (US NOAA, public domain) and "cars" (StatLib, Carnegie Mellon University).
"""

import datetime as dt
import io
import json

import pandas as pd
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st
from vega_datasets import local_data

from ypsil.core.answers import answer
from ypsil.core.questions import parse_question
from ypsil.core.tables.dates_in_text import parse_dates
from ypsil.core.tables.read import read_table
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.write import write_table


def both(name):
    frame = getattr(local_data, name)()
    table = read_table(frame.to_csv(index=False).encode(), f"{name}.csv")
    return frame, table


def rows(table, question):
    found = answer(table.frame, table.columns, parse_question(json.loads(json.dumps(question))))
    return {tuple(row[: -len(found.of("measure"))]): row[-1] for row in found.rows}


@pytest.fixture(scope="module")
def weather():
    return both("seattle_weather")


@pytest.fixture(scope="module")
def cars():
    return both("cars")


PANDAS_RULES = {"year": "YS", "quarter": "QS", "month": "MS", "day": "D"}


@pytest.mark.parametrize("grain", PANDAS_RULES)
@pytest.mark.parametrize("stat", ["sum", "mean", "median", "min", "max", "std", "first", "last"])
def test_periods(weather, grain, stat):
    frame, table = weather
    grouped = frame.set_index("date")["temp_max"].groupby(pd.Grouper(freq=PANDAS_RULES[grain]))
    wanted = grouped.agg(stat).dropna()
    found = rows(table, {"measures": [{"stat": stat, "column": "temp_max"}], "per": [{"column": "date", "by": grain}]})
    found = {key[0]: value for key, value in found.items() if value is not None}
    assert [day.date() for day in wanted.index] == list(found)
    assert list(found.values()) == pytest.approx(wanted.to_list())


def test_iso_weeks_and_weekdays(weather):
    frame, table = weather
    weeks = frame.groupby(frame["date"].dt.to_period("W-SUN").dt.start_time)["precipitation"].sum()
    measure = {"measures": [{"stat": "sum", "column": "precipitation"}]}
    found = rows(table, measure | {"per": [{"column": "date", "by": "week"}]})
    assert [key[0] for key in found] == [day.date() for day in weeks.index]
    assert list(found.values()) == pytest.approx(weeks.to_list())
    weekdays = frame.groupby(frame["date"].dt.weekday + 1)["precipitation"].sum()
    found = rows(table, measure | {"per": [{"column": "date", "by": "weekday"}]})
    assert [key[0] for key in found] == weekdays.index.to_list()
    assert list(found.values()) == pytest.approx(weekdays.to_list())


@pytest.mark.parametrize("p", [0, 10, 25, 50, 90, 99, 100])
def test_percentiles_interpolate_as_pandas_does(cars, p):
    frame, table = cars
    wanted = frame.groupby("Origin")["Horsepower"].quantile(p / 100)
    question = {"measures": [{"stat": "percentile", "column": "Horsepower", "p": p}], "per": [{"column": "Origin"}]}
    assert {key[0]: value for key, value in rows(table, question).items()} == pytest.approx(wanted.to_dict())


@pytest.mark.parametrize(("stat", "pandas"), [("count", "count"), ("distinct", "nunique")])
def test_counts_leave_missing_values_out(cars, stat, pandas):
    frame, table = cars
    wanted = frame.groupby("Origin")["Miles_per_Gallon"].agg(pandas).to_dict()
    question = {"measures": [{"stat": stat, "column": "Miles_per_Gallon"}], "per": [{"column": "Origin"}]}
    assert {key[0]: value for key, value in rows(table, question).items()} == wanted


def test_splits(cars):
    frame, table = cars
    wanted = frame.groupby(["Origin", "Cylinders"])["Weight_in_lbs"].mean().to_dict()
    question = {
        "measures": [{"stat": "mean", "column": "Weight_in_lbs"}],
        "per": [{"column": "Origin"}],
        "split": {"column": "Cylinders"},
    }
    assert rows(table, question) == pytest.approx(wanted)


def test_shares_and_ratios(cars):
    frame, table = cars
    wanted = frame["Origin"].value_counts(normalize=True).to_dict()
    question = {"measures": [{"stat": "share"}], "per": [{"column": "Origin"}]}
    assert {key[0]: value for key, value in rows(table, question).items()} == pytest.approx(wanted)
    sums = frame.groupby("Origin")[["Weight_in_lbs", "Displacement"]].sum()
    ratio = {"ratio": [{"stat": "sum", "column": "Weight_in_lbs"}, {"stat": "sum", "column": "Displacement"}]}
    found = rows(table, {"measures": [ratio], "per": [{"column": "Origin"}]})
    assert {key[0]: value for key, value in found.items()} == pytest.approx(
        (sums["Weight_in_lbs"] / sums["Displacement"]).to_dict()
    )


def test_filters(cars):
    frame, table = cars
    kept = frame[(frame["Horsepower"].between(90, 150)) & (frame["Origin"] != "USA")]
    where = [
        {"column": "Horsepower", "test": "between", "values": [90, 150]},
        {"column": "Origin", "test": "not_in", "values": ["USA"]},
    ]
    assert rows(table, {"measures": [{"stat": "count"}], "where": where}) == {(): len(kept)}


@pytest.mark.parametrize("name", ["seattle_weather", "cars", "stocks", "anscombe", "iris"])
def test_numbers_and_dates_are_read_as_pandas_reads_them(name):
    frame, table = both(name)
    for column in table.columns:
        if column.kind == "number":
            read = pd.Series(table.frame[column.name].to_list())
            pd.testing.assert_series_equal(
                read.astype(float), frame[column.name].astype(float), check_names=False, check_index=False
            )
            assert column.missing == frame[column.name].isna().sum()
    assert table.rows == len(frame)


@pytest.mark.parametrize("name", ["stocks", "wheat", "us_employment", "barley", "crimea", "ohlc"])
@pytest.mark.parametrize("ending", ["csv", "xlsx", "json", "parquet"])
def test_open_tables_are_read_alike_from_every_kind_of_file(name, ending):
    # Data sets of the vega_datasets package (BSD 3-clause); values as pandas holds them, workbooks through openpyxl.
    frame = getattr(local_data, name)()
    ours = Rows.of_table(read_table(frame.to_csv(index=False).encode(), f"{name}.csv"))
    made = read_table(write_table(ours, ending), f"{name}.{ending}")
    if ending == "xlsx":
        frame = pd.read_excel(io.BytesIO(write_table(ours, "xlsx")), engine="openpyxl")
    assert made.frame.columns == [str(column) for column in frame.columns]
    for column in frame.columns:
        wanted, found = frame[column], made.frame[str(column)]
        if pd.api.types.is_numeric_dtype(wanted) and made.column(str(column)).kind == "number":
            assert found.fill_null(float("nan")).to_list() == pytest.approx(wanted.to_list(), nan_ok=True), column
        elif pd.api.types.is_datetime64_any_dtype(wanted):
            assert [value.isoformat()[:10] for value in found] == wanted.dt.strftime("%Y-%m-%d").to_list(), column


@given(st.dates(dt.date(1900, 1, 1), dt.date(2199, 12, 31)))
def test_weeks_are_read_as_iso_8601_counts_them(day):
    # Python's own calendar follows ISO 8601:2004, 3.2.2.
    week = day.isocalendar()
    text = f"{week.year}-W{week.week:02d}"
    assert parse_dates(pl.Series([text])).values[0] == dt.date.fromisocalendar(week.year, week.week, 1)
    assert parse_dates(pl.Series([f"{text}-{week.weekday}"])).values[0] == day


@given(st.dates(dt.date(1970, 1, 1), dt.date(2068, 12, 31)), st.sampled_from(["%d %B %Y", "%d %b %y", "%B %d, %Y"]))
def test_written_dates_are_read_as_python_writes_them(day, pattern):
    assert parse_dates(pl.Series([day.strftime(pattern)])).values[0] == day
