"""Percentage figures: what they say, that their filled areas are the share, and what they refuse."""

import io
import math
import re

import pytest
from fontTools.pens.boundsPen import BoundsPen
from fontTools.svgLib.path import parse_path
from PIL import Image

from tests.factories import ask, csv_table
from ypsil.core.drawing import Font, Line, Path, Rect, Scene, scene_to_svg
from ypsil.core.drawing.contours import level, mapped
from ypsil.core.drawing.icons import find_icons, icon_path, icons
from ypsil.core.drawing.letters import letters
from ypsil.core.drawing.scene import Part
from ypsil.core.errors import DrawingRefused
from ypsil.core.export import scene_to_file
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import VISUALS, Box, draw
from ypsil.core.visuals.percentages.scale import span
from ypsil.core.visuals.percentages.shown import Shown

STYLE = HouseStyle()
BOX = Box(420, 300)
YES = {"stat": "share", "column": "Sundays", "values": ["Yes"]}
ONE = {"measures": [YES]}
WAVES = {"measures": [YES], "per": [{"column": "Wave"}]}
BUDGET = {"measures": [{"stat": "mean", "column": "Spent"}]}
FIGURES = ["ring", "gauge", "percent_bar", "percent_grid", "icon_row", "filled_icon", "filled_numerals"]
IN_A_WHOLE = [name for name in FIGURES if name not in ("gauge", "percent_bar")]


def survey(spring=36, autumn=41, of=100, spent="112%"):
    """A table of two waves with so many who said yes."""
    rows = [f"Spring,{'yes' if place < spring else 'no'},{spent}\n" for place in range(of)]
    rows += [f"Autumn,{'yes' if place < autumn else 'no'},{spent}\n" for place in range(of)]
    return csv_table("Wave,Sundays,Spent\n" + "".join(rows))


def drawn(name, question=ONE, table=None, box=BOX, **options):
    return draw(name, ask(question, table or survey()), options, box, STYLE)


def texts(scene):
    return [text.text for text in scene.texts()]


@pytest.mark.parametrize("name", FIGURES)
def test_each_says_its_share_its_base_and_how_people_say_it(name):
    scene = drawn(name, table=survey(70, 70), label="would come on Sundays")
    assert scene.description == "would come on Sundays: 70% (seven in ten, n = 200)."
    assert "n = 200" in texts(scene)
    assert "would come on Sundays" in texts(scene)


@pytest.mark.parametrize("name", FIGURES)
def test_several_stand_side_by_side_in_one_size(name):
    scene = drawn(name, WAVES, label="Would come on Sundays")
    assert {"Would come on Sundays", "Spring", "Autumn", "n = 100"} <= set(texts(scene))
    figures = [text for text in scene.texts() if text.text in ("36%", "41%")]
    if name == "filled_numerals":
        outlines = [shape for shape in scene.shapes if isinstance(shape, Path) and shape.part]
        assert len(outlines) == 2
    else:
        assert len({text.font.size for text in figures}) == 1
        assert len(figures) == 2
    assert "Spring: 36%" in scene.description
    assert "Autumn: 41%" in scene.description


@pytest.mark.parametrize("name", FIGURES)
@pytest.mark.parametrize("box", [Box(90, 90), Box(1136, 160), Box(160, 700)])
def test_each_is_drawn_inside_any_box(name, box):
    scene = drawn(name, WAVES, box=box)
    for shape in scene.shapes:
        if isinstance(shape, Rect):
            assert shape.x >= -0.01
            assert shape.x + shape.width <= box.width + 0.01
            assert shape.y + shape.height <= box.height + 0.01


@pytest.mark.parametrize("name", FIGURES)
def test_a_number_typed_by_hand_is_said_to_be(name):
    scene = drawn(name, typed=58, label="of pupils")
    assert "typed by hand" in texts(scene)
    assert scene.description == "of pupils: 58% (nearly six in ten, typed by hand)."


@pytest.mark.parametrize("name", IN_A_WHOLE)
@pytest.mark.parametrize(("typed", "why"), [(112, "112% is more than the whole"), (-3, "−3% is less than nothing")])
def test_what_fills_a_whole_refuses_what_lies_beyond_with_the_reason(name, typed, why):
    said = drawn(name, typed=typed).description
    assert said.startswith(why)
    assert "A percentage bar or a gauge shows it." in said


@pytest.mark.parametrize("name", IN_A_WHOLE)
def test_data_beyond_the_whole_get_advice(name):
    assert "it needs a share, from 0% to 100%. Choose " in drawn(name, BUDGET).description


@pytest.mark.parametrize("name", ["gauge", "percent_bar"])
@pytest.mark.parametrize(("typed", "said"), [(112, "112%"), (-3, "−3%"), (0, "0%"), (100, "100%"), (250, "250%")])
def test_scales_reach_what_lies_beyond(name, typed, said):
    scene = drawn(name, typed=typed)
    assert said in texts(scene)
    assert "typed by hand" in scene.description


def bars(scene):
    track = next(shape for shape in scene.shapes if isinstance(shape, Rect) and shape.fill == STYLE.grid)
    filled = [shape for shape in scene.shapes if isinstance(shape, Rect) and shape.fill == STYLE.accent]
    return track, filled[0] if filled else None


@pytest.mark.parametrize("typed", [0, 12.5, 58, 100, 112, 250, -3, -40])
def test_a_bar_is_as_long_as_its_share_of_the_track(typed):
    track, bar = bars(drawn("percent_bar", typed=typed))
    assert (bar.width if bar else 0) == pytest.approx(abs(typed) / 100 * track.width, abs=0.01)
    if bar:
        zero = bar.x if typed > 0 else bar.x + bar.width
        assert zero == pytest.approx(track.x, abs=0.01)


def test_bars_of_several_groups_share_one_scale():
    scene = drawn("percent_bar", WAVES)
    found = [shape.width for shape in scene.shapes if isinstance(shape, Rect) and shape.fill == STYLE.accent]
    assert found[1] / found[0] == pytest.approx(41 / 36)


@pytest.mark.parametrize("typed", [0, 1, 36, 41.5, 99.9, 100])
def test_hundred_cells_are_filled_by_area(typed):
    cells = [shape for shape in drawn("percent_grid", typed=typed).shapes if isinstance(shape, Rect)]
    side = max(cell.width for cell in cells)
    filled = sum(cell.width**2 for cell in cells if cell.fill == STYLE.accent)
    assert filled / side**2 == pytest.approx(typed, abs=1e-3)


def test_a_row_of_icons_is_exact_or_rounded_and_said():
    exact = drawn("icon_row", table=survey(73, 73))
    filled = [shape for shape in exact.shapes if isinstance(shape, Path) and shape.fill == STYLE.accent]
    assert len(filled) == 8
    assert [shape.part is not None for shape in filled] == [False] * 7 + [True]
    whole = drawn("icon_row", table=survey(73, 73), filling="whole icons")
    assert {"7 in 10", "rounded from 73%, n = 200"} <= set(texts(whole))
    assert not [shape for shape in whole.shapes if isinstance(shape, Path) and shape.part]
    assert "rounded" not in drawn("icon_row", table=survey(70, 70), filling="whole icons").description


@pytest.mark.parametrize(("yes", "said"), [(0, "0%"), (1, "0.5%"), (100, "50%"), (199, "99.5%"), (200, "100%")])
def test_a_ring_shows_every_share_from_none_to_all(yes, said):
    table = csv_table("N,Sundays\n" + "".join(f"{index},{'yes' if index < yes else 'no'}\n" for index in range(200)))
    scene = drawn("ring", table=table)
    assert {said, "n = 200"} <= set(texts(scene))
    arcs = [shape for shape in scene.shapes if isinstance(shape, Path) and shape.stroke == STYLE.accent]
    assert len(arcs) == (1 if yes else 0)
    if 0 < yes < 200:
        x1, y1, radius, *_, x2, y2 = (float(number) for number in re.findall(r"-?[\d.]+", arcs[0].d))
        turn = math.atan2(x2 - x1, y1 + radius - y2) % (2 * math.pi)
        assert turn / (2 * math.pi) == pytest.approx(yes / 200, abs=1e-3)


def test_a_gauge_says_its_state_and_its_mark():
    scene = drawn("gauge", on_track=0.6, act=0.3, mark=0.5, mark_name="Target")
    assert "Watch, Target 50%, n = 200" in texts(scene)
    zones = [shape.stroke for shape in scene.shapes if isinstance(shape, Path) and shape.stroke_width == 5]
    assert zones == [STYLE.fall, STYLE.watch, STYLE.rise]
    assert any(isinstance(shape, Line) and shape.stroke == STYLE.ink for shape in scene.shapes)


def test_a_scale_is_longer_only_where_it_must_be():
    assert span([Shown("a", 0.5, "", None)]) == span([])
    assert (span([Shown("a", 1.0, "", None)]).high, span([], 1.01).high, span([], -0.01).low) == (1.0, 1.1, -0.1)


def test_a_share_without_answers_is_said_and_not_divided():
    table = csv_table("Wave,Sundays\nSpring,yes\nSpring,no\nAutumn,\nAutumn,n/a\n")
    for name in FIGURES:
        scene = drawn(name, WAVES, table)
        assert "Autumn: – (no answers)." in scene.description, name
        assert "no answers" in texts(scene)


def test_ratios_without_a_unit_are_shares_too():
    ratio = {"ratio": [{"stat": "sum", "column": "Answers"}, {"stat": "sum", "column": "Invited"}], "name": "Answered"}
    table = csv_table("Answers,Invited\n40,80\n2,4\n")
    assert "50%" in texts(drawn("ring", {"measures": [ratio]}, table))


def test_an_unknown_icon_is_refused_with_those_its_words_find():
    with pytest.raises(DrawingRefused, match=r"there is no icon “reader”; there are: .*person"):
        drawn("icon_row", icon="reader")


def test_icons_are_found_by_their_names_first_and_then_by_their_words():
    assert [icon.name for icon in find_icons("bo")][:2] == ["book", "book with a marker"]
    assert "person" in [icon.name for icon in find_icons("reader")]
    assert len(find_icons("")) == len(icons())


@pytest.mark.parametrize("name", sorted(icons()))
def test_every_icon_has_an_outline_within_its_bounds(name):
    icon = icons()[name]
    assert 0.2 < icon.aspect < 5
    pen = BoundsPen(None)
    parse_path(icon.d, pen)
    assert pen.bounds == pytest.approx(icon.bounds, abs=0.002)


@pytest.mark.parametrize("name", ["heart", "book", "person", "lightbulb", "clock"])
@pytest.mark.parametrize("axis", ["up", "right"])
@pytest.mark.parametrize("share", [0.1, 0.5, 0.73])
def test_an_icon_filled_in_part_has_that_share_of_its_area_in_colour(name, axis, share):
    """Counted on the pixels that typst sets."""
    shape = icon_path(name, 10, 10, 180, "#000000")
    shape.part = Part(level(shape.d, share, axis), "#ff0000", axis)
    scene = Scene(260, 200, (Rect(0, 0, 260, 200, "#ffffff"), shape), "Icon", "An icon")
    image = Image.open(io.BytesIO(scene_to_file(scene, "png"))).convert("RGB")
    colours = {colour: count for count, colour in image.getcolors(1_000_000)}
    black, red = colours.get((0, 0, 0), 0), colours.get((255, 0, 0), 0)
    assert black / (black + red) == pytest.approx(share, abs=0.012)


def test_outlines_are_moved_point_by_point():
    assert mapped("M0 0C1 1 2 2 3 3Q4 4 5 5Z", lambda x, y: (x + 1, -y)) == "M1 0C2 -1 3 -2 4 -3Q5 -4 6 -5Z"


def test_letters_are_as_wide_as_they_are_set():
    font = Font("Atkinson Hyperlegible Next", 100, 700)
    left, top, right, bottom = letters("73%", font).bounds
    assert 0 <= left < right
    assert top < -60
    assert abs(bottom) < 3


def test_a_strip_adds_up_to_100_and_names_its_parts():
    table = csv_table("Age\n" + "a\n" * 1 + "b\n" * 1 + "c\n" * 1)
    scene = drawn("share_strip", {"measures": [{"stat": "count"}], "per": [{"column": "Age"}]}, table)
    named = [text for text in texts(scene) if text in ("a", "b", "c", "34%", "33%")][-6:]
    assert named == ["a", "34%", "b", "33%", "c", "33%"]
    strips = [shape for shape in scene.shapes if isinstance(shape, Rect) and shape.title]
    assert [shape.title for shape in strips] == ["a, 34%", "b, 33%", "c, 33%"]


PARTS = csv_table("Comes,Reads\n" + "yes,paper\n" * 30 + "yes,e-book\n" * 10 + "no,paper\n" * 40 + "no,e-book\n" * 20)
COMES = {"measures": [{"stat": "count"}], "per": [{"column": "Comes"}, {"column": "Reads"}]}


def test_a_part_of_a_part_gives_both_shares_with_both_bases():
    scene = drawn("part_of_part", COMES, PARTS, part="Yes", inner="e-book", inner_label="read e-books")
    assert {"40%", "Yes (n = 100)", "25%", "read e-books (n = 40)"} <= set(texts(scene))
    assert "Yes 40% of 100; of these, read e-books 25% of 40" in scene.description
    strips = [shape for shape in scene.shapes if isinstance(shape, Rect)]
    assert strips[1].width / strips[0].width == pytest.approx(0.4)
    assert strips[3].width / strips[2].width == pytest.approx(0.25)


def test_a_part_of_a_part_names_what_there_is():
    assert "There is no “maybe” in Comes. There are: " in drawn("part_of_part", COMES, PARTS, part="maybe").description
    said = drawn("part_of_part", COMES, PARTS, inner="audio").description
    assert "There is no “audio” in Reads. There are: " in said


COMMON = {
    "palette": "sea", "decimals": 2, "label": "People", "sub_label": "of all", "colour": "third", "typed": 12,
    "interval": True, "population": 210,
}  # fmt: skip
SETTINGS = {
    "ring": COMMON | {"thickness": 0.1},
    "gauge": COMMON
    | {"thickness": 0.1, "mark": 0.5, "mark_name": "Goal", "on_track": 0.5, "act": 0.5, "good": "down"},
    "percent_bar": COMMON | {"thickness": 40, "mark": 0.5, "mark_name": "Goal"},
    "percent_grid": COMMON | {"cells": "dots"},
    "icon_row": COMMON | {"icon": "book", "count": 5, "filling": "whole icons"},
    "filled_icon": COMMON | {"icon": "book", "filled_from": "left"},
    "filled_numerals": COMMON | {"picture": "book"},
    "share_strip": {
        "palette": "sea", "decimals": 2, "rounding": "each by itself", "patterns": True, "label": "People",
        "thickness": 20,
    },
    "part_of_part": {
        "palette": "sea", "decimals": 2, "part": "Yes", "inner": "e-book", "label": "come", "inner_label": "read",
        "thickness": 20,
    },
}  # fmt: skip
NEEDED = {"population": {"interval": True}, "mark_name": {"mark": 0.5}, "good": {"on_track": 0.5}}
THIRDS = csv_table("Age\na\nb\nc\n")
ASKED = {
    "share_strip": ({"measures": [{"stat": "count"}], "per": [{"column": "Age"}]}, THIRDS),
    "part_of_part": (COMES, PARTS),
}


@pytest.mark.parametrize(("name", "field"), [(name, field) for name, fields in SETTINGS.items() for field in fields])
def test_no_setting_of_a_percentage_is_without_effect(name, field):
    question, table = ASKED.get(name, (ONE, survey(37, 37)))
    extra = NEEDED.get(field, {})
    with_it, without = (
        scene_to_svg(drawn(name, question, table, **extra, **more)) for more in ({field: SETTINGS[name][field]}, {})
    )
    assert with_it != without


def test_every_setting_of_a_percentage_is_tried_here():
    for name, fields in SETTINGS.items():
        assert {*fields, "locale"} == set(VISUALS[name].options.model_fields)
        options = {"locale": "de_DE", "decimals": 1}
        question, table = ASKED.get(name, (ONE, survey(37, 37)))
        assert "37,0" in drawn(name, question, table, **options).description or name in ASKED


def test_a_picture_fills_the_digits_again_and_again():
    scene = drawn("filled_numerals", picture="book")
    svg = scene_to_svg(scene)
    assert svg.count("<pattern id=") == 1
    assert "url(#scene-book-" in svg
    plain, pictured = (io.BytesIO(scene_to_file(one, "png")) for one in (drawn("filled_numerals"), scene))
    assert Image.open(plain).tobytes() != Image.open(pictured).tobytes()
