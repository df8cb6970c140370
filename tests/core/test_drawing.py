"""Measuring, wrapping, scales, ticks and SVG."""

import math
import xml.etree.ElementTree as ET
from dataclasses import fields
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsil.core.drawing import Font, Line, Path, Rect, Scene, Text, scene_to_svg, shorten, text_width, wrap
from ypsil.core.drawing.colour import channels, mix, readable_on
from ypsil.core.drawing.faces import FAMILIES, HUMANIST
from ypsil.core.drawing.scene import Hatch, Motif, Part
from ypsil.core.drawing.ticks import nice_domain, ticks
from ypsil.core.figures import decimals_for, format_change, format_compact, format_number
from ypsil.core.style import HouseStyle

FONT = Font(HUMANIST, 16)
# Where the breaks of a word are told, those of one face.
NOTO = Font("Noto Sans", 16)
finite = st.integers(-(10**12), 10**12).map(lambda number: number / 1000)


MOVED = [
    Rect(1, 2, 3, 4, "#111", 5, "a", 0.5, Hatch("dots", "#222")),
    Line(1, 2, 3, 4, "#111", 2, "a", "4 2"),
    Path("M0 0", "#111", "#222", 2, "a", 3, 4, 0.5, "4 2", Hatch("grid", "#333"), Part(0.5, "#444"),
         Motif("m", "M1 1", 8, "#555")),
    Text(1, 2, "a", FONT, "#111", "end", "b"),
]  # fmt: skip


@pytest.mark.parametrize("shape", MOVED, ids=lambda shape: type(shape).__name__)
def test_a_moved_shape_keeps_everything_but_its_place(shape):
    moved = shape.moved(10, 20)
    changed = {field.name for field in fields(shape) if getattr(moved, field.name) != getattr(shape, field.name)}
    assert changed == ({"x1", "y1", "x2", "y2"} if isinstance(shape, Line) else {"x", "y"})
    assert moved.moved(-10, -20) == shape


def test_a_larger_or_bolder_type_is_wider():
    assert text_width("Visits", FONT.sized(32)) == pytest.approx(2 * text_width("Visits", FONT))
    assert text_width("Visits", Font(FONT.family, 16, 700)) > text_width("Visits", FONT)


@pytest.mark.parametrize("text", ["Ελληνικά", "Русский", "ספרייה", "مكتبة", "Łódź"])
def test_scripts_that_a_family_lacks_are_measured_in_one_that_has_them(text):
    for family in FAMILIES:
        assert 4 < text_width(text, Font(family, 16)) < 16 * len(text)


@given(
    st.text(alphabet=st.characters(codec="utf-8", exclude_categories=["Cs", "Cc"]), max_size=80), st.integers(20, 400)
)
def test_wrapped_lines_fit_and_keep_every_letter(text, width):
    lines = wrap(text, width, FONT)
    assert all(text_width(line, FONT) <= width or len(line) == 1 for line in lines)
    # A hyphen is the only sign that is added, at the end of a line within a word.
    joined = "".join("".join(lines).split())
    assert joined.replace("-", "") == "".join(text.split()).replace("-", "")
    hyphens = sum(before.endswith("-") and before[-2:-1].isalpha() for before in lines[:-1])
    assert joined.count("-") - text.count("-") <= hyphens


@pytest.mark.parametrize(
    ("word", "wanted"),
    [("Sandwiches", ["Sandwi-", "ches"]), ("2026-000-111-222", ["2026-00", "0-111-2", "22"]), ("ספרייהעירונית", None)],
)
def test_a_word_wider_than_its_line_has_a_hyphen_only_between_letters_of_scripts_with_capitals(word, wanted):
    lines = wrap(word, 64, NOTO)
    assert lines == wanted if wanted else not any("-" in line for line in lines)


def test_a_broken_word_that_is_cut_reads_on_without_its_hyphens():
    assert wrap("Donaudampfschifffahrtsgesellschaft", 90, NOTO, most=2) == ["Donaudam-", "pfschifffa…"]


def test_the_last_line_allowed_is_cut_with_an_ellipsis():
    lines = wrap("one two three four five six", 60, FONT, most=2)
    assert len(lines) == 2
    assert lines[1].endswith("…")
    assert text_width(lines[1], FONT) <= 60


def test_a_word_wider_than_its_line_is_shortened_within_the_width():
    assert text_width(shorten("x" * 300, 100, FONT), FONT) <= 100


@given(finite, finite, st.integers(2, 12))
def test_ticks_are_evenly_spaced_round_numbers_inside_the_domain(start, stop, count):
    low, high = min(start, stop), max(start, stop)
    found = ticks(start, stop, count)
    # A part in a million of the span is far below what a screen can show.
    air = 1e-6 * (high - low)
    assert all(low - air <= tick <= high + air for tick in found)
    steps = [after - before for before, after in pairwise(found)]
    if steps:
        assert max(steps) == pytest.approx(min(steps), rel=1e-6)
        assert steps[0] / 10 ** math.floor(math.log10(steps[0]) + 1e-9) == pytest.approx(
            round(steps[0] / 10 ** math.floor(math.log10(steps[0]) + 1e-9))
        )


@given(finite, finite)
def test_a_nice_domain_holds_the_values(first, second):
    low, high = nice_domain(min(first, second), max(first, second))
    air = 1e-6 * (high - low)
    assert low - air <= min(first, second)
    assert high + air >= max(first, second)
    assert low < high


def test_an_svg_is_well_formed_and_escapes_what_people_wrote():
    nasty = '<script>alert("x")</script> & “quotes”'
    scene = Scene(
        100, 50, (Text(0, 10, nasty, FONT, "#000000"), Rect(0, 0, 1, 1, "#ffffff", title=nasty)), nasty, nasty
    )
    root = ET.fromstring(scene_to_svg(scene, label_id="t"))
    assert root.attrib["role"] == "graphics-document"
    assert [element.text for element in root.iter() if element.text] == [nasty] * 4
    assert "style" not in {name for element in root.iter() for name in element.attrib}


def test_a_moved_path_keeps_its_outline():
    assert 'transform="translate(3 4)"' in scene_to_svg(Scene(9, 9, (Path("M0 0L1 1", fill="#000000").moved(3, 4),)))


def test_colours_are_checked_mixed_and_chosen_for_contrast():
    assert mix("#000000", "#ffffff", 1) == "#ffffff"
    assert readable_on("#fdf1de", "#2a1a3e", "#ffffff") == "#2a1a3e"
    with pytest.raises(ValueError, match="not a colour"):
        channels("red;}")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (format_number(float("nan")), "–"),
        (format_number(1234567.891, decimals=1), "1,234,567.9"),
        (format_number(-2.5, unit="€", decimals=2), "−€2.50"),
        (format_number(12, unit="cm"), "12\u00a0cm"),
        (format_number(56.4, unit="£"), "£56.40"),
        (format_number(1234567, locale="fr_FR"), "1\u00a0234\u00a0567"),
        (format_compact(999_999), "999,999"),
        (format_compact(1_000_000, unit="£"), "£1M"),
        (format_change(-4, 4), None),
        (format_change(3, 2), "−33%"),
        (format_change(1000, 1004), "+0.4%"),
    ],
)
def test_numbers_are_written_for_readers(text, said):
    assert text == said


@given(st.lists(st.integers(-(10**6), 10**6), max_size=5))
def test_whole_numbers_need_no_decimals(values):
    assert decimals_for(values) == 0


@pytest.mark.parametrize(
    "wrong", [{"ink": 'red"/>'}, {"palette": ["#14697f", "url(x)"]}, {"palette": []}, {"body_family": "X"}]
)
def test_a_house_style_takes_only_colours_and_shipped_families(wrong):
    with pytest.raises(ValueError, match=r"colour|families"):
        HouseStyle.model_validate(wrong)
