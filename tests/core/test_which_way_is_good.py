"""Good and bad have colours only where somebody said which is which."""

from dataclasses import replace

import pytest

from tests.factories import ask, csv_table
from ypsil.core.style import HouseStyle
from ypsil.core.tables.recipe import parse_recipe, replay
from ypsil.core.tables.rows import Rows
from ypsil.core.visuals import Box, draw

STYLE = HouseStyle()
TABLE = csv_table("Day,Cost,Visits\n2026-01-01,30,5\n2026-02-01,20,9\n")
GOOD_OR_BAD = {STYLE.rise, STYLE.fall}


def said(**ways):
    """Return the table with what was said about the way of its columns."""
    steps = [{"type": "good_way", "column": name, "good": way} for name, way in ways.items()]
    made = replay(Rows.of_table(TABLE), parse_recipe({"steps": steps}).steps)[-1].rows
    return replace(TABLE, frame=made.frame, columns=made.columns())


def colours(visual, column, table, options=None):
    measure = {"stat": "sum", "column": column, **({"then": "change"} if visual in ("waterfall", "table") else {})}
    found = ask({"measures": [measure], "per": [{"column": "Day", "by": "month"}]}, table)
    scene = draw(visual, found, options or {}, Box(500, 300), STYLE)
    return {shape.fill for shape in scene.shapes if hasattr(shape, "fill")} & GOOD_OR_BAD, scene


CASES = [("kpi", {}), ("kpi_row", {}), ("waterfall", {}), ("table", {"cells": "arrows"})]


@pytest.mark.parametrize(("visual", "options"), CASES)
@pytest.mark.parametrize("column", ["Cost", "Visits"])
def test_a_name_says_nothing_about_good_and_bad(visual, options, column):
    assert colours(visual, column, TABLE, options)[0] == set()


@pytest.mark.parametrize(("visual", "options"), CASES)
def test_a_fall_of_cost_is_good_once_somebody_said_so(visual, options):
    assert colours(visual, "Cost", said(Cost="down"), options)[0] == {STYLE.rise}
    assert colours(visual, "Cost", said(Cost="up"), options)[0] == {STYLE.fall}


def test_what_a_tile_sets_itself_comes_first_and_unsaid_ways_are_asked_for():
    assert colours("kpi", "Cost", said(Cost="down"), {"good": "up"})[0] == {STYLE.fall}
    assert "which way of “Total Cost” is good" in colours("kpi", "Cost", TABLE)[1].hints[0]
    assert not colours("kpi", "Cost", said(Cost="down"))[1].hints


def test_a_ratio_has_the_way_of_what_is_divided():
    ratio = {"ratio": [{"stat": "sum", "column": "Cost"}, {"stat": "sum", "column": "Visits"}]}
    found = ask({"measures": [ratio], "per": [{"column": "Day", "by": "month"}]}, said(Cost="down"))
    assert found.of("measure")[0].good == "down"
