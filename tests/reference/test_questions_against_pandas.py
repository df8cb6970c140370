"""Changes, averages, parts and classes against pandas and numpy, on the weather of Seattle and the cars data set.

Sources: vega_datasets "seattle-weather" (US NOAA, public domain) and "cars" (StatLib, Carnegie Mellon University).
"""

import numpy as np
import pandas as pd
import pytest

from tests.reference.test_against_pandas import both, rows

RAIN = {"stat": "sum", "column": "precipitation"}


@pytest.fixture(scope="module")
def weather():
    return both("seattle_weather")


@pytest.fixture(scope="module")
def cars():
    return both("cars")


def _monthly(frame):
    return frame.set_index("date")["precipitation"].groupby(pd.Grouper(freq="MS")).sum()


THENS = {
    "running_total": lambda series: series.cumsum(),
    "change": lambda series: series.diff(),
    "percent_change": lambda series: series.pct_change(),
    "change_year": lambda series: series.diff(12),
    "percent_change_year": lambda series: series.pct_change(12),
    "moving_average": lambda series: series.rolling(3).mean(),
    "index": lambda series: series / series.iloc[0] * 100,
}


@pytest.mark.parametrize("then", THENS)
def test_what_is_done_along_the_months(weather, then):
    frame, table = weather
    question = {"measures": [{**RAIN, "then": then}], "per": [{"column": "date", "by": "month"}]}
    found = pd.Series(list(rows(table, question).values()), dtype=float)
    wanted = THENS[then](_monthly(frame)).replace([np.inf, -np.inf], np.nan)
    assert found.to_list() == pytest.approx(wanted.to_list(), nan_ok=True)


@pytest.mark.parametrize("window", [2, 7, 30])
def test_moving_averages_of_each_kind_of_weather(weather, window):
    frame, table = weather
    question = {
        "measures": [{"stat": "mean", "column": "temp_max", "then": "moving_average", "window": window}],
        "per": [{"column": "date", "by": "month"}],
        "split": {"column": "weather"},
    }
    found = rows(table, question)
    means = frame.pivot_table(index=pd.Grouper(key="date", freq="MS"), columns="weather", values="temp_max")
    every = means.reindex(pd.date_range(means.index.min(), means.index.max(), freq="MS")).rolling(window).mean()
    for (day, kind), value in found.items():
        wanted = every.loc[pd.Timestamp(day), kind]
        assert value == pytest.approx(wanted) if value is not None else np.isnan(wanted)


@pytest.mark.parametrize("bins", [1, 5, 12, 40])
def test_classes_are_those_of_numpy(cars, bins):
    frame, table = cars
    miles = frame["Miles_per_Gallon"].dropna()
    counts, edges = np.histogram(miles, bins=bins)
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Miles_per_Gallon", "by": {"bins": bins}}]}
    assert list(rows(table, question).values()) == counts.tolist()
    assert len(edges) == bins + 1


def test_parts_of_each_split(cars):
    frame, table = cars
    question = {
        "measures": [{"stat": "share", "column": "Horsepower", "within": "split"}],
        "per": [{"column": "Cylinders"}],
        "split": {"column": "Origin"},
    }
    summed = frame.groupby(["Cylinders", "Origin"])["Horsepower"].sum()
    wanted = summed / summed.groupby("Origin").transform("sum")
    found = rows(table, question)
    assert {(key[0], key[1]): value for key, value in found.items()} == pytest.approx(wanted.to_dict())
