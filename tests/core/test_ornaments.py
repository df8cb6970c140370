"""Ornaments: they stay in their room, are never too many parts, take nothing from what is read, and say nothing."""

import io
import re

import numpy as np
import pytest
from PIL import Image

from tests.factories import DRAWN_FORMATS
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.ornaments import ORNAMENTS, PATTERNS
from ypsil.core.drawing.scene import Path
from ypsil.core.export import FORMATS, page_to_png, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.style import HouseStyle
from ypsil.core.style.grounds import on, pattern_colour, tone

ROOMS = [(736, 32), (736, 400), (60, 60), (12, 8), (3000, 2000), (20, 900)]


@pytest.mark.parametrize("name", ORNAMENTS)
@pytest.mark.parametrize("room", ROOMS)
def test_an_outline_stays_in_its_room_and_is_no_longer_than_need_be(name, room):
    outline = ORNAMENTS[name].outline(*room)
    numbers = [float(one) for one in re.findall(r"-?\d+(?:\.\d+)?", outline)]
    across, down = numbers[::2], numbers[1::2]
    # A curve lies within its handles, and handles may stand out a little.
    air = 14
    assert min(across) >= -air and max(across) <= room[0] + air
    assert min(down) >= -air and max(down) <= room[1] + air
    assert len(outline) < 400_000 and outline.startswith("M")


def test_there_are_a_dozen_and_some_divide():
    assert len(ORNAMENTS) >= 12
    assert 0 < sum(one.divides for one in ORNAMENTS.values()) < len(ORNAMENTS)
    assert not any(one.divides for one in PATTERNS.values())


def page(ground=None, **tile):
    shown = {"type": "ornament", "place": {"column": 0, "row": 0, "width": 24, "height": 20}, **tile}
    band = {"id": "b", "tiles": [shown], **({"ground": ground} if ground else {})}
    return compose(ReportBody.model_validate({"title": "T", "bands": [band]}), {})


@pytest.mark.parametrize("name", ORNAMENTS)
def test_it_is_drawn_in_its_colour_and_says_nothing(name):
    made = page(ornament=name, colour="#0000ff")
    assert made.tiles()[0].scene.name == "" and made.tiles()[0].tile.lacks_words() is False
    with Image.open(io.BytesIO(page_to_png(made, scale=1))) as opened:
        seen = np.asarray(opened.convert("RGB")).astype(int)
    assert ((seen[:, :, 2] - seen[:, :, 0]) > 90).sum() > 100


@pytest.mark.parametrize("ending", DRAWN_FORMATS)
def test_it_is_in_every_file(ending):
    assert FORMATS[ending].page(page({"colour": "tint", "pattern": "dots"}, ornament="hills"))


@pytest.mark.parametrize("colour", ["paper", "wash", "tint", "accent", "deep", "ink", "second", "#f2e600", "#7f7f7f"])
def test_text_is_read_on_a_pattern_as_on_its_ground(colour):
    style = HouseStyle()
    ground = tone(style, colour)
    shown = on(style, ground)
    # WCAG 2.2, 1.4.3, on the ground and on what lies on it.
    assert contrast_ratio(shown.ink, ground) >= 4.5
    assert contrast_ratio(shown.ink, pattern_colour(ground, style)) >= 4.5


@pytest.mark.parametrize("pattern", PATTERNS)
def test_a_band_has_a_pattern_on_its_colour_and_none_on_its_picture(pattern):
    made = page({"colour": "tint", "pattern": pattern})
    plain = page({"colour": "tint"})
    shapes = made.bands[0].ground.scene.shapes
    assert len(shapes) == len(plain.bands[0].ground.scene.shapes) + 1
    assert all(isinstance(one, Path) for one in shapes)
    assert page_to_svg(made) != page_to_svg(plain)


def test_a_pattern_that_there_is_not_is_left_out():
    assert len(page({"colour": "tint", "pattern": "nothing such"}).bands[0].ground.scene.shapes) == 1
