"""Colours against what is published of them, and against a second library."""

import random

import numpy as np
import pytest
from coloraide import Color

from tests.reference.test_statistics_of_drawings import DEFICIENT
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.oklch import from_oklch, to_oklch
from ypsil.core.style.seen import difference, seen

# Sharma, Wu and Dalal, "The CIEDE2000 Color-Difference Formula: Implementation Notes, Supplementary Test Data, and
# Mathematical Observations" (2005), table 1: L*, a*, b* of two colours and their difference. The values are from memory
# (the paper could not be had here); an independent implementation gives the same.
SHARMA = [
    (50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425), (50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615),
    (50, 2.8361, -74.0200, 50, 0, -82.7485, 3.4412), (50, -1.3802, -84.2814, 50, 0, -82.7485, 1.0),
    (50, -1.1848, -84.8006, 50, 0, -82.7485, 1.0), (50, -0.9009, -85.5211, 50, 0, -82.7485, 1.0),
    (50, 0, 0, 50, -1, 2, 2.3669), (50, -1, 2, 50, 0, 0, 2.3669),
    (50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792), (50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792),
    (50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195), (50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195),
    (50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045), (50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045),
    (50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461), (50, 2.5, 0, 50, 0, -2.5, 4.3065),
    (50, 2.5, 0, 73, 25, -18, 27.1492), (50, 2.5, 0, 61, -5, 29, 22.8977), (50, 2.5, 0, 56, -27, -3, 31.9030),
    (50, 2.5, 0, 58, 24, 15, 19.4535), (50, 2.5, 0, 50, 3.1736, 0.5854, 1.0), (50, 2.5, 0, 50, 3.2972, 0, 1.0),
    (50, 2.5, 0, 50, 1.8634, 0.5757, 1.0), (50, 2.5, 0, 50, 3.2592, 0.3350, 1.0),
    (60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644),
    (63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.2630),
    (61.2901, 3.7196, -5.3901, 61.4292, 2.2480, -4.9620, 1.8731),
    (35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645),
    (22.7233, 20.0904, -46.6940, 23.0331, 14.9730, -42.5619, 2.0373),
    (36.4612, 47.8580, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146),
    (90.8027, -2.0831, 1.4410, 91.1528, -1.6435, 0.0447, 1.4441),
    (90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381),
    (6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377),
    (2.0776, 0.0795, -1.1350, 0.9033, -0.0636, -0.5514, 0.9082),
]  # fmt: skip


@pytest.mark.parametrize("pair", SHARMA)
def test_differences_are_those_that_were_published(pair):
    first, second = Color("lab-d65", pair[:3]), Color("lab-d65", pair[3:6])
    assert first.delta_e(second, method="2000") == pytest.approx(pair[6], abs=0.00006)


COLOURS = [f"#{random.Random(place).randrange(1 << 24):06x}" for place in range(200)]


def test_our_difference_is_that_of_the_formula_for_colours_of_a_screen():
    for first, second in zip(COLOURS, reversed(COLOURS), strict=True):
        expected = Color(first).convert("lab-d65").delta_e(Color(second).convert("lab-d65"), method="2000")
        assert difference(first, second) == pytest.approx(expected, abs=1e-6)


def test_lightness_chroma_and_hue_are_those_of_a_second_library():
    for colour in COLOURS:
        ours, theirs = to_oklch(colour), Color(colour).convert("oklch").coords()
        assert ours[:2] == pytest.approx(theirs[:2], abs=0.0005)
        if theirs[1] > 0.01:
            assert (ours[2] - theirs[2] + 180) % 360 - 180 == pytest.approx(0, abs=0.3)
        assert from_oklch(*ours) == colour


@pytest.mark.parametrize("kind", ["protan", "deutan", "tritan"])
def test_deficiencies_are_simulated_with_the_matrices_of_machado(kind):
    for colour in COLOURS:
        channels = np.array([int(colour[place : place + 2], 16) / 255 for place in (1, 3, 5)])
        linear = np.where(channels <= 0.04045, channels / 12.92, ((channels + 0.055) / 1.055) ** 2.4)
        changed = np.clip(np.array(DEFICIENT[kind]) @ linear, 0, 1)
        encoded = np.where(changed <= 0.0031308, changed * 12.92, 1.055 * changed ** (1 / 2.4) - 0.055)
        found = seen(colour, kind)
        ours = [int(found[place : place + 2], 16) for place in (1, 3, 5)]
        assert ours == pytest.approx((encoded * 255).tolist(), abs=1.01), colour


# WCAG 2.2, Understanding success criterion 1.4.3 and the definition of contrast ratio: black on white has 21:1; greys
# that are often named as just enough, or not (the last two are common practice, no source).
@pytest.mark.parametrize(
    ("ink", "ratio"), [("#000000", 21.0), ("#ffffff", 1.0), ("#767676", 4.54), ("#777777", 4.48), ("#949494", 3.03)]
)
def test_contrast_is_that_of_the_guidelines(ink, ratio):
    assert contrast_ratio(ink, "#ffffff") == pytest.approx(ratio, abs=0.01)
