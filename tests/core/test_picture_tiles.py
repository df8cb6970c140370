"""Pictures in a place of the page: filling it or whole, with round corners, turned, in every kind of file."""

import io
import math

import numpy as np
import pytest
from PIL import Image

from tests.factories import DRAWN_FORMATS
from ypsil.core.drawing.colour import channels
from ypsil.core.drawing.icons import icons
from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.errors import EditRefused
from ypsil.core.export import FORMATS, page_to_png, page_to_svg
from ypsil.core.proof import findings_of
from ypsil.core.render import compose, heading_levels
from ypsil.core.report import ReportBody, parse_edit

PLACE = {"column": 0, "row": 0, "width": 24, "height": 46}
RED, BLUE = (214, 30, 40), (30, 60, 200)


def halves(width=400, height=200):
    """A picture whose left half is red and whose right half is blue."""
    image = Image.new("RGB", (width, height), RED)
    image.paste(BLUE, (width // 2, 0, width, height))
    file = io.BytesIO()
    image.save(file, "PNG")
    return read_picture(file.getvalue(), "halves.png")


PICTURE = halves()


def report_with(*tiles):
    return ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "tiles": [*tiles]}]})


def test_a_picture_goes_into_letters_and_out_again_and_what_led_there_still_does():
    letters = {"id": "big", "type": "text", "role": "big", "text": "42", "place": PLACE, "card": {"fill": "wash"}}
    letters |= {"leads_to": "https://example.org/", "turn": 5, "cites": [{"table": "t"}]}
    far = {"id": "far", "type": "text", "text": "x" * 30, "place": {**PLACE, "row": 60}}
    line = {"id": "line", "type": "connector", "from_tile": "big", "to_tile": "far"}
    before = report_with(letters, far, line)
    fill = parse_edit({"type": "fill_tile", "tile": "big", "picture": PICTURE.name, "aspect": 2})
    filled = fill.apply(before)
    put = filled.bands[0].tiles[0]
    assert (put.type, put.letters, put.place, put.card) == (
        "picture",
        "42",
        before.tile("big").place,
        letters_card(before),
    )
    kept = ("leads_to", "turn", "cites")
    assert [getattr(put, name) for name in kept] == [getattr(before.tile("big"), name) for name in kept]
    assert filled.tile("line").joins() == (put.id, "far")
    back = parse_edit({"type": "empty_tile", "tile": put.id}).apply(filled)
    again = back.bands[0].tiles[0]
    assert (again.type, again.role, again.plain) == ("text", "big", "42")
    assert back.tile("line").joins() == (again.id, "far")
    with pytest.raises(EditRefused, match="does not go into"):
        parse_edit({"type": "fill_tile", "tile": "far", "picture": PICTURE.name}).apply(before)
    with pytest.raises(EditRefused, match="no letters"):
        parse_edit({"type": "empty_tile", "tile": "far"}).apply(before)


def letters_card(report):
    return report.tile("big").card


def test_a_picture_takes_the_place_of_another_and_of_the_motif_in_digits():
    other = "picture:" + "f" * 64
    tile = {"id": "p1", "type": "picture", "picture": PICTURE.name, "frame": "arch", "place": PLACE}
    question = {"measures": [{"stat": "share", "column": "Open"}]}
    digits = {
        "id": "v1",
        "type": "visual",
        "table": "t",
        "question": question,
        "visual": "filled_numerals",
        "place": PLACE,
    }
    before = report_with(tile, digits)
    found = parse_edit({"type": "fill_tile", "tile": "p1", "picture": other, "aspect": 3}).apply(before)
    assert (found.tile("p1").picture, found.tile("p1").aspect, found.tile("p1").frame) == (other, 3, "arch")
    found = parse_edit({"type": "fill_tile", "tile": "v1", "picture": other}).apply(before)
    assert found.tile("v1").options == {"picture": other}


def page(picture=PICTURE, **more):
    tile = {"id": "p1", "type": "picture", "picture": PICTURE.name, "aspect": 2, "place": PLACE, **more}
    report = ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "tiles": [tile]}]})
    return compose(report, {}, pictures={PICTURE.name: picture} if picture else {})


def pixels(made):
    view = made.tiles()[0]
    with Image.open(io.BytesIO(page_to_png(made, scale=1))) as opened:
        box = [round(one) for one in (view.x, view.y, view.x + view.scene.width, view.y + view.scene.height)]
        return np.asarray(opened.convert("RGB").crop(box)).astype(int)


def is_like(pixel, colour):
    return np.abs(pixel - colour).max() < 12


def test_one_that_fills_its_place_covers_all_of_it_and_is_cut_evenly():
    found = pixels(page())
    height, width, _ = found.shape
    # 2:1 in a place of about 2:1, cut by nothing or little: the halves meet in the middle.
    assert is_like(found[height // 2, 4], RED) and is_like(found[height // 2, width - 5], BLUE)
    assert is_like(found[4, width // 2 - 6], RED) and is_like(found[4, width // 2 + 6], BLUE)


@pytest.mark.parametrize(("height", "margins"), [(20, "sides"), (80, "above and below")])
def test_one_that_is_seen_whole_keeps_its_proportions_and_stands_in_the_middle(height, margins):
    made = page(fits="whole", place={**PLACE, "height": height})
    found = pixels(made)
    inked = np.abs(found - 255).max(axis=2) > 20
    rows, columns = np.flatnonzero(inked.any(axis=1)), np.flatnonzero(inked.any(axis=0))
    wide, high = columns[-1] - columns[0] + 1, rows[-1] - rows[0] + 1
    assert wide / high == pytest.approx(PICTURE.width / PICTURE.height, rel=0.02)
    left, right = columns[0], found.shape[1] - 1 - columns[-1]
    above, below = rows[0], found.shape[0] - 1 - rows[-1]
    assert abs(left - right) <= 2 and abs(above - below) <= 2
    assert (left > 20) == (margins == "sides") and (above > 20) == (margins != "sides")


def test_round_corners_let_the_page_be_seen():
    found = pixels(page(corner=40))
    assert is_like(found[1, 1], (255, 255, 255)) and is_like(found[60, 60], RED)


def test_the_left_of_a_picture_that_is_turned_by_180_degrees_is_at_the_right():
    found = pixels(page(turn=180))
    height, width, _ = found.shape
    assert is_like(found[height // 2, 20], BLUE) and is_like(found[height // 2, width - 20], RED)


@pytest.mark.parametrize("ending", DRAWN_FORMATS)
def test_each_kind_of_file_holds_it(ending):
    assert FORMATS[ending].page(page(alt="Red and blue")) != FORMATS[ending].page(
        page(alt="x", fits="whole", corner=90)
    )


def test_what_it_shows_is_told_and_an_ornament_is_passed_over():
    told = page_to_svg(page(alt="A red half and a blue one"))
    assert "<title>A red half and a blue one</title>" in told and 'role="img"' in told
    passed = page(is_ornament=True, alt="never told")
    assert 'role="img"' not in page_to_svg(passed) and "never told" not in page_to_svg(passed)
    assert heading_levels(passed) == {}


def test_the_proof_asks_for_words_unless_it_only_decorates():
    def asked(made):
        return any("no description" in one.said for one in findings_of(made))

    assert asked(page()) and asked(page(alt="   "))
    assert not asked(page(alt="Two halves")) and not asked(page(is_ornament=True))


def test_one_that_is_gone_says_so():
    made = page(picture=None)
    assert "no longer there" in made.problems()[0][1]


@pytest.mark.parametrize(("aspect", "rows"), [(2.0, 23), (0.001, None), (50.0, 6), (0.02, 90)])
def test_its_usual_place_has_its_proportions_within_bounds(aspect, rows):
    data = {"type": "picture", "picture": PICTURE.name, "aspect": aspect}
    if rows is None:
        with pytest.raises(ValueError, match="aspect"):
            ReportBody.model_validate({"title": "T", "bands": [{"tiles": [data]}]})
        return
    tile = ReportBody.model_validate({"title": "T", "bands": [{"tiles": [data]}]}).tiles()[0]
    assert tile.usual_size() == (12, rows)


def ink_of(found):
    """How many pixels are not the page's white."""
    return int((np.abs(found - 255).max(axis=2) > 20).sum())


@pytest.mark.parametrize(
    ("frame", "part"),
    [
        # Parts of the square round it, by elementary geometry.
        ("circle", math.pi / 4),
        ("ellipse", math.pi / 4),
        ("hexagon", 0.75),
        ("arch", 0.5 + math.pi / 8),
        ("rectangle", 1.0),
    ],
)
def test_a_frame_covers_what_geometry_says(frame, part):
    square = {"column": 0, "row": 0, "width": 12, "height": 45}
    made = page(frame=frame, place=square)
    scene = made.tiles()[0].scene
    found = pixels(made)
    side = min(scene.width, scene.height)
    whole = side * side if frame == "circle" else scene.width * scene.height
    if frame == "arch":
        rise = scene.width / 2
        part = (whole - scene.width * rise + math.pi * rise * rise / 2) / whole
    assert ink_of(found) == pytest.approx(part * whole, rel=0.02)


@pytest.mark.parametrize("frame", ["blob", *sorted(icons())[::23]])
def test_soft_shapes_and_icons_are_filled_and_stay_in_their_place(frame):
    made = page(frame=frame)
    found = pixels(made)
    covered = ink_of(found) / found[:, :, 0].size
    assert 0.02 < covered < 0.99
    with Image.open(io.BytesIO(page_to_png(made, scale=1))) as opened:
        everywhere = np.asarray(opened.convert("RGB")).astype(int)
    assert ink_of(everywhere) <= ink_of(found) + 0.02 * ink_of(found)


def test_a_picture_fills_the_letters_of_a_number():
    found = pixels(page(letters="81%"))
    covered = ink_of(found) / found[:, :, 0].size
    assert 0.1 < covered < 0.6
    # Both halves of it are seen, and nothing but it.
    colours = {tuple(pixel) for pixel in found.reshape(-1, 3)}
    assert any(is_like(np.array(one), RED) for one in colours) and any(is_like(np.array(one), BLUE) for one in colours)


@pytest.mark.parametrize(("across", "left", "right"), [(0, RED, RED), (1, BLUE, BLUE), (0.5, RED, BLUE)])
def test_the_point_that_is_to_stay_in_sight_does(across, left, right):
    tall = {"column": 0, "row": 0, "width": 6, "height": 60}
    found = pixels(page(across=across, place=tall))
    height, width, _ = found.shape
    assert is_like(found[height // 2, 4], left) and is_like(found[height // 2, width - 5], right)


def test_one_that_is_made_larger_shows_less_of_itself():
    found = pixels(page(zoom=2, across=0))
    assert is_like(found[20, found.shape[1] - 6], RED)


def test_two_colours_of_the_style_stand_for_dark_and_light():
    """Red has 21 % of the lightness of white, blue 7 % (Rec. 709, coded values as they are): so far each is from the
    dark colour to the light one."""
    made = page(colours="two")
    found = pixels(made)
    style = made.context.style
    dark, light = np.array(channels(style.accent)), np.array(channels(style.paper))
    for x, colour in ((10, RED), (-10, BLUE)):
        lightness = np.dot(colour, (0.2126, 0.7152, 0.0722)) / 255
        assert np.abs(found[50, x] - (dark + (light - dark) * lightness)).max() < 6
    grey = pixels(page(colours="grey"))[50, 10]
    assert max(grey) - min(grey) <= 2


def test_one_that_is_dimmed_lets_the_paper_through():
    plain, dim = pixels(page()), pixels(page(dimmed="by half"))
    assert np.abs(dim[50, 10] - (plain[50, 10] + 255) / 2).max() < 4


def test_a_caption_stands_below_and_a_credit_among_the_sources():
    made = page(caption="The hall after the new paint, seen from the gallery " * 3, credit="Ann Reader")
    scene = made.tiles()[0].scene
    cover = scene.shapes[0].motif
    lines = scene.texts()
    assert len(lines) > 1
    assert all(cover.y + cover.height + scene.shapes[0].y < line.y - line.font.size * 0.7 for line in lines)
    assert all(line.y < scene.height for line in lines)
    assert [one.words for one in made.context.sources] == ["Ann Reader"]


def test_whoever_is_to_be_thanked_is_named_once():
    tiles = [
        {"id": f"p{place}", "type": "picture", "picture": PICTURE.name, "credit": credit}
        for place, credit in enumerate(("Ann", "Bo", " Ann ", ""))
    ]
    report = ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "tiles": tiles}]})
    made = compose(report, {}, pictures={PICTURE.name: PICTURE})
    assert [one.words for one in made.context.sources] == ["Ann", "Bo"]
