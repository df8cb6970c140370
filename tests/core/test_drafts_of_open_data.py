"""Drafts of 44 open data sets, read one by one: nothing is added up that must not be.

The data sets are those that vega_datasets (BSD), statsmodels (BSD, the data in the public domain) and scikit-learn
(BSD) come with. Which of their columns may be added up was read by hand, from what the packages say of each: deaths,
energy, rain, the people of places and of hospitals; no price, rate, share, score, index, age, temperature, chemistry,
and nothing that there is at a moment.
"""

import pandas as pd
import pytest
import statsmodels.api as sm
from sklearn import datasets as sk
from vega_datasets import local_data

from tests.factories import csv_table, report_table
from ypsil.core.draft import Subject, draft
from ypsil.core.report import ReportBody
from ypsil.core.report.amounts import amounts
from ypsil.core.tables.profile import profile
from ypsil.core.tiles import as_visual

VEGA = (
    "airports", "anscombe", "barley", "burtin", "cars", "crimea", "driving", "iowa_electricity", "iris", "la_riots",
    "ohlc", "seattle_temps", "seattle_weather", "sf_temps", "stocks", "us_employment", "wheat",
)  # fmt: skip
STATSMODELS = (
    "anes96", "cancer", "ccard", "china_smoking", "co2", "committee", "copper", "cpunish", "elnino", "engel", "fair",
    "grunfeld", "heart", "interest_inflation", "longley", "macrodata", "modechoice", "nile", "randhie", "scotland",
    "spector", "stackloss", "star98", "statecrime", "strikes",
)  # fmt: skip
LEARN = ("load_wine", "load_diabetes")
MAY_BE_ADDED = {
    "crimea": {"wounds", "other", "disease"},
    "iowa_electricity": {"net_generation"},
    "seattle_weather": {"precipitation"},
    "cancer": {"population"},
    "china_smoking": {
        "smoking_yes_cancer_yes", "smoking_yes_cancer_no", "smoking_no_cancer_yes", "smoking_no_cancer_no",
    },
    "committee": {"STAFF"},
}  # fmt: skip
ROWS = 400


def loaded(name):
    if name in VEGA:
        found = getattr(local_data, name)()
    elif name in LEARN:
        found = getattr(sk, name)(as_frame=True).frame
    else:
        found = getattr(sm.datasets, name).load_pandas().data
    return found if isinstance(found.index, pd.RangeIndex) else found.reset_index()


@pytest.mark.parametrize("name", [*VEGA, *STATSMODELS, *LEARN])
def test_nothing_is_added_up_that_must_not_be(name):
    table = csv_table(loaded(name).head(ROWS).to_csv(index=False), f"{name}.csv")
    subject = Subject("t", report_table(table), profile(table.frame, table.columns))
    allowed = MAY_BE_ADDED.get(name, set())
    summed = {one.column.name for one in amounts(subject.profile) if one.measure and one.measure.stat == "sum"}
    assert summed == allowed
    found = draft([subject], ReportBody(title=name))
    parts = [
        part
        for tile in found.body.tiles()
        for asked in tile.questions()
        if not asked.question.each_row
        for measure in asked.question.measures
        for part in measure.parts()
    ]
    assert {part.column for part in parts if part.stat == "sum"} <= allowed
    assert any(as_visual(tile) for tile in found.body.tiles())
