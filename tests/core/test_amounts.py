"""Amounts as pictures: what an icon stands for, areas that are the amounts, hours, stars, places."""

import pytest
from fontTools.pens.areaPen import AreaPen
from fontTools.svgLib.path import parse_path
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import ask, csv_table, total
from ypsil.core.drawing import Path, Rect
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import Box, draw
from ypsil.core.visuals.amounts.pictogram import units_per_icon

STYLE = HouseStyle()
BOX = Box(560, 320)
PER_NAME = total("Amount", per=[{"column": "Name"}])


def amounts(*values):
    return csv_table("Name;Amount\n" + "".join(f"n{place};{value}\n" for place, value in enumerate(values)))


def drawn(name, *values, question=PER_NAME, box=BOX, **options):
    return draw(name, ask(question, amounts(*values)), options, box, STYLE)


def texts(scene):
    return [text.text for text in scene.texts()]


def icons_in(scene, row):
    """The icons of a row but the key's, from the top down."""
    rows = sorted({round(shape.y, 1) for shape in scene.shapes if isinstance(shape, Path) and shape.y > 2})
    return [shape for shape in scene.shapes if isinstance(shape, Path) and round(shape.y, 1) == rows[row]]


@given(st.floats(1e-6, 1e12))
def test_the_longest_row_holds_three_to_fifteen_icons(highest):
    assert 3 <= highest / units_per_icon(highest, whole=False) <= 15.000001


@given(st.integers(1, 10**12))
def test_whole_things_are_never_counted_in_parts_of_one(highest):
    each = units_per_icon(highest)
    assert each == int(each)
    assert highest / each <= 15


def test_a_row_has_as_many_icons_as_its_value_the_last_one_in_part():
    scene = drawn("pictogram", 1450, 600)
    assert "= 100, total Amount" in texts(scene)
    first, second = icons_in(scene, 0), icons_in(scene, 1)
    assert (len(first), len(second)) == (15, 6)
    assert [icon.part is None for icon in first] == [True] * 14 + [False]
    assert all(icon.part is None for icon in second)
    assert scene.description.endswith("Each icon stands for 100.")


def test_what_an_icon_stands_for_can_be_set_and_a_row_without_end_is_refused():
    assert len(icons_in(drawn("pictogram", 1450, 600, each=500), 0)) == 3
    assert "a row would hold 1,450 icons. Let one stand for 100." in drawn("pictogram", 1450, each=1).description


def test_nothing_and_missing_values_have_no_icons():
    scene = drawn("pictogram", 300, 0, "")
    assert len(icons_in(scene, 0)) == 15
    assert not [shape for shape in scene.shapes if isinstance(shape, Path) and shape.y > 200]


@pytest.mark.parametrize("shape", ["circle", "square"])
def test_the_area_of_a_shape_is_its_amount(shape):
    sides = sorted(one.width for one in drawn("sized_shapes", 100, 25, 4, shape=shape).shapes if isinstance(one, Rect))
    assert [side**2 / sides[-1] ** 2 for side in sides] == pytest.approx([0.04, 0.25, 1])


def test_the_area_of_an_icon_is_its_amount_measured_by_another_library():
    def area(path):
        pen = AreaPen()
        parse_path(path.d, pen)
        return abs(pen.value)

    icons = [one for one in drawn("sized_shapes", 90, 30, shape="icon").shapes if isinstance(one, Path)]
    assert area(icons[1]) / area(icons[0]) == pytest.approx(1 / 3, rel=0.02)


def test_size_by_height_is_said_to_exaggerate():
    scene = drawn("sized_shapes", 100, 50, sized_by="height")
    sides = [one.height for one in scene.shapes if isinstance(one, Rect)]
    assert sides[1] / sides[0] == pytest.approx(0.5)
    assert "twice the amount looks four times as large" in " ".join(texts(scene))
    assert "four times" in scene.description


HOURS = csv_table("Time,Visits\n2026-09-01 06:00,10\n2026-09-01 15:00,40\n2026-09-02 15:00,20\n")
PER_HOUR = total(per=[{"column": "Time", "by": "hour"}])


def test_midnight_stands_at_the_top_and_the_busiest_hour_in_the_middle():
    scene = draw("clock", ask(PER_HOUR, HOURS), {}, Box(400, 400), STYLE)
    assert texts(scene)[:8] == ["0", "3", "6", "9", "12", "15", "18", "21"]
    at = {text.text: (text.x, text.y) for text in scene.texts()}
    assert at["0"][0] == pytest.approx(200)
    assert at["0"][1] < 20
    assert at["6"][0] > 380
    assert texts(scene)[8:] == ["60", "at 15:00"]
    assert [shape.title for shape in scene.shapes if getattr(shape, "title", "")] == ["06:00, 10", "15:00, 60"]


def test_a_day_without_visits_is_an_empty_ring():
    empty = csv_table("Time,Visits\n2026-09-01 06:00,0\n2026-09-01 15:00,0\n")
    scene = draw("clock", ask(PER_HOUR, empty), {}, Box(400, 400), STYLE)
    assert not [shape for shape in scene.shapes if getattr(shape, "title", "")]


MEAN = {"measures": [{"stat": "mean", "column": "Rating"}]}


def stars(rating_text, **options):
    return draw("stars", ask(MEAN, csv_table(rating_text)), options, BOX, STYLE)


def test_stars_are_filled_by_their_area_and_said():
    scene = stars("Rating\n4\n4\n5\n1\n", label="of our readers")
    paths = [shape for shape in scene.shapes if isinstance(shape, Path)]
    assert len(paths) == 5
    assert [path.part is None for path in paths] == [True, True, True, False, True]
    assert paths[3].part.extent == pytest.approx(0.5, abs=0.02)
    assert scene.description == "of our readers: 3.5 of 5 (n = 4)."


def test_a_rating_beyond_the_stars_is_refused_and_fits_on_more():
    assert "does not fit on 5 stars" in stars("Rating\n8\n9\n7\n").description
    assert "8.0 of 10" in stars("Rating\n8\n9\n7\n", out_of=10).description


def test_stars_are_no_way_to_show_a_sum():
    assert "it needs a mean rating" in drawn("stars", 3, 4, question=total("Amount")).description


def test_equal_values_share_a_place_and_the_next_is_left_out():
    scene = drawn("ranked_list", 5, 9, 9, 1)
    places = [text.text for text in scene.texts() if text.anchor == "end" and text.x < 60]
    names = [text.text for text in scene.texts() if text.anchor == "start"]
    assert places == ["1", "1", "3", "4"]
    assert names == ["n1", "n2", "n0", "n3"]


def test_a_short_list_counts_the_rest():
    scene = drawn("ranked_list", *range(1, 41), box=Box(300, 200))
    assert any(text.startswith("and ") and text.endswith(" more") for text in texts(scene))
    shown = sum(text.anchor == "start" for text in scene.texts()) - 1
    assert f"and {40 - shown} more" in texts(scene)


def test_bars_of_the_list_are_as_long_as_the_values():
    bars = [shape.width for shape in drawn("ranked_list", 80, 20).shapes if isinstance(shape, Rect) and shape.title]
    assert bars[1] / bars[0] == pytest.approx(0.25)
