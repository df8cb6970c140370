"""Orders that are known hold in every chart, legend and colour, also where the first group lacks some answers."""

import polars as pl
import pytest

from ypsil.core.answers import answer
from ypsil.core.questions import parse_question
from ypsil.core.style import HouseStyle
from ypsil.core.tables.model import Column
from ypsil.core.visuals import Box, draw
from ypsil.core.visuals.shared.grid import grid_of
from ypsil.core.visuals.shared.scale_colours import colours_of_parts, scale_colours

STEPS = ["Strongly disagree", "Disagree", "Neither", "Agree", "Strongly agree"]
# The first branch, by the alphabet and by size, has three of the five answers.
ROWS = [("Alder", "Strongly agree"), ("Alder", "Disagree"), ("Alder", "Strongly agree"), ("Alder", "Agree")]
ROWS += [("Beck", step) for step in STEPS]
TABLE = pl.DataFrame({"Branch": [row[0] for row in ROWS], "Answer": [row[1] for row in ROWS]})
COLUMNS = (Column("Branch", "category"), Column("Answer", "category"))
SPLIT = {"measures": [{"stat": "count"}], "per": [{"column": "Branch"}], "split": {"column": "Answer"}}
SPLIT |= {"order": {"by": "name"}}


def asked(question=SPLIT, table=TABLE, columns=COLUMNS):
    return answer(table, columns, parse_question(question))


def test_series_stand_in_the_order_of_the_scale_and_wear_its_colours():
    found = asked()
    assert [one.name for one in grid_of(found).series] == STEPS
    style = HouseStyle()
    assert colours_of_parts(STEPS, found.of("split")[0], style) == scale_colours(STEPS, style)


@pytest.mark.parametrize("name", ["stacked_bar", "share_bar", "stacked_column", "share_column", "diverging_bar"])
def test_parts_are_drawn_in_the_order_of_the_scale(name):
    scene = draw(name, asked(), {}, Box(600, 400), HouseStyle())
    bars = [shape for shape in scene.shapes if shape.title.startswith("Beck")]
    ordered = sorted(bars, key=lambda shape: shape.x if name.endswith("bar") else -shape.y)
    said = [next(step for step in sorted(STEPS, key=len, reverse=True) if step in shape.title) for shape in ordered]
    assert said == STEPS


def test_weekdays_of_a_split_run_from_monday():
    days = pl.date_range(pl.date(2026, 3, 7), pl.date(2026, 3, 20), eager=True)  # begins on a Saturday
    table = pl.DataFrame({"Day": days, "Branch": ["Alder"] * 3 + ["Beck"] * 11})
    question = {
        "measures": [{"stat": "count"}], "per": [{"column": "Branch"}], "split": {"column": "Day", "by": "weekday"},
        "order": {"by": "name"},
    }  # fmt: skip
    found = asked(question, table, (Column("Day", "date"), Column("Branch", "category")))
    assert [one.name for one in grid_of(found).series] == [
        "Monday",
        "Tuesday",
        "Wednesday",
        "Thursday",
        "Friday",
        "Saturday",
        "Sunday",
    ]


def test_single_rows_are_split_in_the_order_of_the_scale():
    table = TABLE.with_columns(pl.Series("Age", range(9)))
    question = {
        "measures": [{"stat": "sum", "column": "Age"}], "per": [{"column": "Branch", "by": "row"}],
        "split": {"column": "Answer"},
    }  # fmt: skip
    found = asked(question, table, (*COLUMNS, Column("Age", "number")))
    assert found.members(found.of("split")[0]) == STEPS


def test_sizes_are_in_order_and_no_ratings():
    table = pl.DataFrame({"Branch": ["a", "a", "b", "b", "b"], "Size": ["large", "small", "small", "medium", "large"]})
    columns = (Column("Branch", "category"), Column("Size", "category"))
    found = asked(SPLIT | {"split": {"column": "Size"}, "order": {"by": "name"}}, table, columns)
    names = [one.name for one in grid_of(found).series]
    assert names == ["small", "medium", "large"]
    style = HouseStyle()
    assert colours_of_parts(names, found.of("split")[0], style) == [style.colour(place) for place in range(3)]
