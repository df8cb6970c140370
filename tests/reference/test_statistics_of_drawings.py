"""Box statistics against matplotlib, regression on Anscombe's quartet and against scipy, density against scipy,
reduction of many points, and the palette under colour-vision deficiency."""

import json
from itertools import combinations
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import optimize, stats
from vega_datasets import local_data

from tests.factories import csv_table
from ypsil.core.answers import answer
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.questions import parse_question
from ypsil.core.style import HouseStyle
from ypsil.core.style.palettes import PALETTES, SHIPPED
from ypsil.core.visuals.relations.binned_scatter import cells
from ypsil.core.visuals.relations.scatter import trend_of
from ypsil.core.visuals.shared.curves import Curve, curves_of, reduced, spread
from ypsil.core.visuals.spreads.box import five_numbers
from ypsil.core.visuals.spreads.density import density

# Made by matplotlib's cbook.boxplot_stats (its own licence, BSD-compatible).
BOXES = json.loads((Path(__file__).parent / "matplotlib_boxes.json").read_text())["boxes"]


@pytest.mark.parametrize("wanted", BOXES)
def test_boxes_are_those_of_matplotlib(wanted):
    found = five_numbers(np.array(wanted["values"]))
    for ours, theirs in (("first", "q1"), ("median", "med"), ("third", "q3"), ("low", "whislo"), ("high", "whishi")):
        assert getattr(found, ours) == pytest.approx(wanted[theirs]), ours
    assert sorted(found.apart) == pytest.approx(wanted["fliers"])


def test_anscombes_quartet():
    """F. J. Anscombe, "Graphs in Statistical Analysis" (1973): mean of y 7.50, slope 0.500, r 0.816 in each set."""
    frame = local_data.anscombe()
    for _, one in frame.groupby("Series"):
        x, y = one["X"].to_numpy(float), one["Y"].to_numpy(float)
        found = trend_of(x, y)
        assert y.mean() == pytest.approx(7.50, abs=0.01)
        assert found.slope == pytest.approx(0.500, abs=0.001)
        assert np.sqrt(found.r2) == pytest.approx(0.816, abs=0.001)
        assert found.intercept == pytest.approx(3.00, abs=0.01)


def test_regression_is_that_of_scipy():
    frame = local_data.cars().dropna()
    x, y = frame["Horsepower"].to_numpy(float), frame["Miles_per_Gallon"].to_numpy(float)
    wanted = stats.linregress(x, y)
    found = trend_of(x, y)
    assert (found.slope, found.intercept, found.r2) == pytest.approx((wanted.slope, wanted.intercept, wanted.rvalue**2))


def test_no_line_goes_through_one_place():
    assert trend_of(np.array([2.0, 2.0]), np.array([1.0, 5.0])) is None
    assert trend_of(np.array([2.0]), np.array([1.0])) is None


@given(st.lists(st.floats(0, 400), min_size=1, max_size=20).map(sorted))
def test_labels_are_spread_as_isotonic_regression_has_it(wanted):
    found = spread(wanted, 15, -1e6, 1e6)
    steps = np.arange(len(wanted)) * 15
    assert found == pytest.approx(optimize.isotonic_regression(np.array(wanted) - steps).x + steps)


def test_density_is_that_of_scipy():
    values = np.random.default_rng(3).normal(size=400)
    places = np.linspace(-4, 4, 50)
    assert density(values, places) == pytest.approx(stats.gaussian_kde(values)(places), rel=1e-9)
    many = np.random.default_rng(4).gamma(3, size=50_000)
    places = np.linspace(0, 12, 40)
    assert density(many, places) == pytest.approx(stats.gaussian_kde(many)(places), abs=1e-4)


def test_cells_count_as_numpy_does():
    chance = np.random.default_rng(5)
    x, y = chance.uniform(0, 10, 5000), chance.uniform(-3, 3, 5000)
    wanted, _, _ = np.histogram2d(x, y, bins=(20, 12), range=((0, 10), (-3, 3)))
    assert cells(x, y, (0, 10), (-3, 3), 20, 12).tolist() == wanted.astype(int).tolist()


def test_a_million_points_keep_the_extremes_of_every_pixel():
    """As Steinarsson, "Downsampling Time Series for Visual Representation" (2013) asks of any method: peaks stay."""
    chance = np.random.default_rng(6)
    y = np.cumsum(chance.normal(size=1_000_000))
    y[123_456], y[654_321] = 1e5, -1e5
    places = np.linspace(0, 800, len(y))
    kept = reduced(Curve("", places, y), places)
    assert len(kept) <= 4 * 801
    assert {0, 123_456, 654_321, len(y) - 1} <= set(kept.tolist())
    pixel = places.astype(int)
    for column in (0, 17, 400, 799):
        inside, shown = y[pixel == column], y[kept][pixel[kept] == column]
        assert (shown.min(), shown.max()) == (inside.min(), inside.max())


def test_points_of_each_series_stand_at_their_time():
    table = csv_table("Day,Kind,Visits\n2026-01-01,a,1\n2026-02-01,b,2\n2026-03-01,a,3\n")
    question = {
        "measures": [{"stat": "sum", "column": "Visits"}],
        "per": [{"column": "Day", "by": "month"}],
        "split": {"column": "Kind"},
    }
    axis, curves = curves_of(answer(table.frame, table.columns, parse_question(question)))
    by_name = {curve.name: (np.diff(curve.x) / 86400).tolist() for curve in curves}
    assert by_name == {"a": [59.0], "b": []}
    assert (axis.high - axis.low) / 86400 == 59


# Machado, Oliveira and Fernandes, "A Physiologically-based Model for Simulation of Color Vision Deficiency" (2009),
# table of matrices at severity 1.0, applied to linear RGB.
DEFICIENT = {
    "none": [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]],
    "protan": [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]],
    "deutan": [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.011820, 0.042940, 0.968881]],
    "tritan": [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.303900]],
}


def _lab(rgb):
    """CIE 1976 L*a*b* of linear RGB, D65 (IEC 61966-2-1)."""
    xyz = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]) @ rgb
    scaled = xyz / np.array([0.9505, 1.0, 1.089])
    root = np.where(scaled > 0.008856, np.cbrt(scaled), 7.787 * scaled + 16 / 116)
    return np.array([116 * root[1] - 16, 500 * (root[0] - root[1]), 200 * (root[1] - root[2])])


@pytest.mark.parametrize("palette", PALETTES)
@pytest.mark.parametrize("kind", DEFICIENT)
def test_all_colours_of_a_palette_stay_apart_for_every_reader(kind, palette):
    seen = []
    for colour in PALETTES[palette]:
        channels = np.array([int(colour[place : place + 2], 16) / 255 for place in (1, 3, 5)])
        linear = np.where(channels <= 0.04045, channels / 12.92, ((channels + 0.055) / 1.055) ** 2.4)
        seen.append(_lab(np.clip(np.array(DEFICIENT[kind]) @ linear, 0, 1)))
    assert min(float(np.linalg.norm(a - b)) for a, b in combinations(seen, 2)) > 10


@pytest.mark.parametrize("palette", PALETTES)
def test_every_colour_of_a_palette_can_carry_text_on_its_ground(palette):
    # WCAG 2.2, 1.4.3: 4.5:1 for text.
    found = SHIPPED[palette]
    style = HouseStyle().dressed(palette)
    carried = (*found.series, found.ink, style.muted, style.rise, style.watch, style.fall)
    assert min(contrast_ratio(colour, found.paper) for colour in carried) >= 4.5


def test_palettes_are_calm_and_loud_light_and_dark_for_print_and_for_children():
    manners = {manner for one in SHIPPED.values() for manner in one.manners}
    assert manners == {"calm", "loud", "dark", "for print", "for children"} and len(SHIPPED) >= 14


@pytest.mark.parametrize("palette", PALETTES)
def test_a_visual_with_a_palette_of_its_own_can_be_read_on_any_paper(palette):
    for paper in SHIPPED:
        style = HouseStyle().dressed(paper)
        assert min(contrast_ratio(colour, style.paper) for colour in style.coloured(palette).palette) >= 4.5
