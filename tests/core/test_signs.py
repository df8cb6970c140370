"""Signs: found by what they mean, in their sets, drawn as outlines that stay on their plane."""

import re
import time
from dataclasses import replace

import pytest

from ypsil.core.drawing.colour import relative_luminance
from ypsil.core.drawing.scene import Path
from ypsil.core.drawing.signs import CATEGORIES, SignManner, find_signs, is_sign, sign_named, sign_shapes
from ypsil.core.drawing.signs.markup import sign_svg
from ypsil.core.drawing.signs.shipped import coloured, line_icons
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit

# What people look for in a report about a library, a school or a town, and a name that is right for it.
WANTED = {
    "money": "coin",
    "cost": "coin",
    "budget": "coin",
    "people": "users",
    "reading": "book",
    "waiting": "clock",
    "school": "school",
    "rain": "cloud rain",
    "warning": "alert triangle",
    "idea": "bulb",
    "bus": "bus",
    "environment": "leaf",
    "prize": "trophy",
}
PLAIN = SignManner("#102030")


def test_there_are_enough_of_both_sets_and_no_sign_of_a_maker():
    assert len(line_icons()) >= 1_500 and len(coloured()) >= 500
    makers = {"ipad", "imac", "iphone", "xbox", "playstation", "android", "microsoft", "adobe", "excel"}
    for found in (line_icons(), coloured()):
        said = {word for name, one in found.items() for word in (*name.split(), *one.words.split())}
        assert not said & makers
    assert {sign.category for of in ("line", "coloured") for sign in find_signs("", of)} <= set(CATEGORIES)


@pytest.mark.parametrize(("word", "name"), WANTED.items())
def test_a_sign_is_found_by_what_it_means(word, name):
    labels = [sign.label for sign in find_signs(word)[:40]]
    assert name in labels


def test_what_is_called_so_comes_first_and_every_word_narrows():
    assert find_signs("bus")[0].label == "bus" and find_signs("fox", "coloured")[0].label == "fox"
    assert 0 < len(find_signs("arrow right")) < len(find_signs("arrow"))
    assert {sign.category for sign in find_signs("", "line", "Food")} == {"Food"}


def test_where_no_sign_has_all_words_those_with_some_are_found():
    assert "leaf" in [sign.label for sign in find_signs("xqxq leaf")]
    assert find_signs("xqxq qqq") == []


def test_searching_takes_less_than_50_ms():
    find_signs("warm"), find_signs("warm", "coloured")
    began = time.perf_counter()
    for word in ("money", "a", "people who wait", ""):
        find_signs(word)
        find_signs(word, "coloured")
    assert (time.perf_counter() - began) / 8 < 0.05


@pytest.mark.parametrize("of", ["line", "coloured"])
def test_every_sign_is_drawn_within_its_square(of):
    for sign in find_signs("", of):
        shapes = sign_shapes(sign.name, 10, 20, 48, PLAIN)
        assert shapes, sign.name
        numbers = [[float(one) for one in re.findall(r"-?\d*\.?\d+(?:e-?\d+)?", shape.d)] for shape in shapes]
        assert all(-10 <= number <= 58 for found in numbers for number in found), sign.name
        assert all(shape.x == 10 and shape.y == 20 for shape in shapes)


def test_a_plate_is_behind_and_the_sign_smaller():
    manner = SignManner("#ffffff", plate="circle", plate_colour="#104050")
    plate, *drawn = sign_shapes("line:home", 0, 0, 40, manner)
    assert (plate.width, plate.radius, plate.fill) == (40, 20, "#104050")
    assert drawn[-1].stroke == "#ffffff" and drawn[-1].stroke_width < 2 * 40 / 24


def test_two_tones_fill_what_is_closed_lightly():
    closed = next(name for name, icon in line_icons().items() if icon.closed and not icon.filled)
    one, two = (
        sign_shapes(f"line:{closed}", 0, 0, 24, SignManner("#104050", look=look)) for look in ("line", "two tones")
    )
    assert [shape.fill for shape in one] == ["none"] and [shape.opacity for shape in two] == [0.22, 1]


def test_coloured_ones_become_shades_of_one_colour_and_keep_what_is_light_and_dark():
    shades = ("#0c2a33", "#e6f0f2")
    own = sign_shapes("coloured:fox", 0, 0, 24, PLAIN)
    made = sign_shapes("coloured:fox", 0, 0, 24, replace(PLAIN, shades=shades))
    assert len(made) == len(own) and [one.d for one in made] == [one.d for one in own]
    pairs = sorted(
        (relative_luminance(one.fill), relative_luminance(other.fill)) for one, other in zip(own, made, strict=True)
    )
    assert [light for _, light in pairs] == sorted(light for _, light in pairs)
    ends = [relative_luminance(shade) for shade in shades]
    assert all(ends[0] - 0.01 <= light <= ends[1] + 0.01 for _, light in pairs)


@pytest.mark.parametrize("name", ["line:home", "coloured:fox", "book"])
def test_all_are_made_smaller_about_their_middles(name):
    small = sign_shapes(name, 10, 20, 40, replace(PLAIN, scale=0.5))
    plain = sign_shapes(name, 20, 30, 20, PLAIN)
    assert [(one.d, one.x, one.y) for one in small] == [(one.d, one.x, one.y) for one in plain]


def test_a_report_says_how_all_of_its_icons_look():
    tile = {
        "id": "s1",
        "type": "sign",
        "sign": "coloured:fox",
        "place": {"column": 0, "row": 0, "width": 4, "height": 12},
    }
    told = {"id": "p1", "type": "points", "entries": [{"head": "One", "sign": "coloured:fox"}]}
    body = ReportBody.model_validate({"title": "T", "bands": [{"id": "b", "tiles": [tile, told]}]})
    edit = {"type": "change_report", "changes": {"icons": {"coloured": "style", "size": 0.8}}}
    before, after = compose(body, {}), compose(parse_edit(edit).apply(body), {})

    def fills(made, at):
        return {one.fill for one in made.tiles()[at].scene.shapes if isinstance(one, Path)}

    for at in (0, 1):
        assert fills(before, at) and not fills(before, at) & fills(after, at)


def test_a_name_that_is_gone_is_none_and_draws_nothing():
    assert sign_named("line:no such icon") is None and not is_sign("coloured:nobody") and not is_sign("")
    assert sign_shapes("line:no such icon", 0, 0, 24, PLAIN) == [] and sign_svg("coloured:nobody", 20) == ""
    assert is_sign("book") and sign_shapes("book", 0, 0, 24, PLAIN)
