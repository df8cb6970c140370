"""Time ticks, stacks, sectors and treemaps against d3 (d3-scale 4, d3-shape 3, d3-hierarchy 3; ISC licence), whose
results vendoring/d3_drawing.mjs wrote down; the treemap also against the example of the paper."""

import datetime as dt
import json
import re
from pathlib import Path

import numpy as np
import pytest

from ypsil.core.drawing.arcs import sector
from ypsil.core.drawing.stacks import shares, stack
from ypsil.core.drawing.time_ticks import time_ticks
from ypsil.core.drawing.treemap import squarified

D3 = json.loads((Path(__file__).parent / "d3_drawing.json").read_text())


def moment(text):
    return dt.datetime.fromisoformat(text.rstrip("Z").removesuffix(".000"))


@pytest.mark.parametrize("case", D3["times"], ids=lambda case: f"{case['start'][:10]}-{case['stop'][:10]}")
def test_time_ticks(case):
    found = time_ticks(moment(case["start"]), moment(case["stop"]), case["count"])
    assert found == [moment(tick) for tick in case["ticks"]]


def test_weeks_start_on_monday():
    """ISO 8601; d3's start on Sunday."""
    found = time_ticks(dt.date(2026, 3, 1), dt.date(2026, 4, 12), 6)
    assert [tick.weekday() for tick in found] == [0] * 6


def test_stacks_of_values_on_both_sides_of_zero():
    for ours, theirs in zip(stack(D3["rows"]), D3["stacks"], strict=True):
        assert [list(span) for span in ours] == theirs


def test_parts_of_each_group_add_up_to_one():
    assert np.array(shares([[1, 2], [3, 2]])).sum(axis=0).tolist() == [1, 1]


@pytest.mark.parametrize("case", D3["slices"])
def test_sectors(case):
    def numbers(path):
        return [float(number) for number in re.findall(r"-?\d+(?:\.\d+)?(?:e-?\d+)?", path)]

    ours = numbers(sector(0, 0, 40, 100, case["start"], case["stop"]))
    assert ours == pytest.approx(numbers(case["path"]), abs=0.006)


@pytest.mark.parametrize("case", D3["treemaps"])
def test_treemaps(case):
    found = squarified(case["values"], (0, 0, case["width"], case["height"]))
    assert np.array(found) == pytest.approx(np.array(case["rooms"]))


def test_the_treemap_of_the_paper():
    """Bruls, Huizing and van Wijk (2000), figure 4: areas 6, 6, 4, 3, 2, 2, 1 in a room of 6 by 4."""
    found = squarified([6, 6, 4, 3, 2, 2, 1], (0, 0, 6, 4))
    assert found[0][2:] == pytest.approx((3, 2))
    assert found[1][2:] == pytest.approx((3, 2))
    # The third row: 4 and 3 side by side, 7/3 high.
    assert found[2][2:] == pytest.approx((12 / 7, 7 / 3))
    assert found[3][2:] == pytest.approx((9 / 7, 7 / 3))
    assert [width * height for _, _, width, height in found] == pytest.approx([6, 6, 4, 3, 2, 2, 1])
