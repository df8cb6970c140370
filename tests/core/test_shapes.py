"""Shapes: their outlines against elementary geometry, room for words in them, fills, lines, in every kind of file."""

import io
import math

import numpy as np
import pytest
from PIL import Image

from tests.factories import DRAWN_FORMATS
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.forms import FORMS
from ypsil.core.drawing.measure import text_width
from ypsil.core.export import FORMATS, page_to_png, page_to_svg
from ypsil.core.proof import findings_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.style.grounds import TONES

PLACE = {"column": 0, "row": 0, "width": 10, "height": 30}
FILLED = [name for name, form in FORMS.items() if not form.is_line]
LINES = [name for name, form in FORMS.items() if form.is_line]


def page(**more):
    tile = {"id": "s1", "type": "shape", "fill": "#102030", "place": PLACE, **more}
    return compose(ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "tiles": [tile]}]}), {})


def dark(made):
    """Which pixels of a page are dark, and the room of its only tile in whole pixels."""
    view = made.tiles()[0]
    with Image.open(io.BytesIO(page_to_png(made, scale=1))) as opened:
        found = np.asarray(opened.convert("L")) < 128
    room = [round(one) for one in (view.x, view.y, view.x + view.scene.width, view.y + view.scene.height)]
    return found, room


# The part of the room that each covers. A star with the corners of a regular one: its area over that of the box that
# it touches (its width 2 sin 72°, its height 1 + cos 36° for a circle of radius 1).
STAR = 5 * math.sin(math.radians(36)) * 0.381966 / (2 * math.sin(math.radians(72)) * (1 + math.cos(math.radians(36))))
AREAS = {
    "rectangle": 1.0,
    "ellipse": math.pi / 4,
    "triangle": 0.5,
    "diamond": 0.5,
    "hexagon": 0.75,
    "arrow": 0.66 * 0.52 + 0.34 / 2,
    "chevron": 0.82,
    "star": STAR,
}


@pytest.mark.parametrize("form", AREAS)
def test_a_form_covers_what_geometry_says(form):
    found, (left, top, right, foot) = dark(page(form=form))
    part = found[top:foot, left:right].mean()
    assert part == pytest.approx(AREAS[form], abs=0.012)


@pytest.mark.parametrize("form", FORMS)
def test_a_form_reaches_to_its_sides_and_not_beyond(form):
    found, (left, top, right, foot) = dark(page(form=form, line_width=4))
    rows, columns = np.flatnonzero(found.any(axis=1)), np.flatnonzero(found.any(axis=0))
    assert columns[0] >= left - 3 and columns[-1] <= right + 2
    assert rows[0] >= top - 3 and rows[-1] <= foot + 2
    if form not in (*LINES, "soft"):
        assert abs(columns[0] - left) <= 8 and abs(columns[-1] - right) <= 8 and rows[-1] - rows[0] > 0.9 * (foot - top)


@pytest.mark.parametrize("form", FILLED)
def test_words_stand_within_a_form_whatever_it_is(form):
    made = page(form=form, text="Words", role="note")
    view = made.tiles()[0]
    found, _ = dark(page(form=form))
    for text in view.scene.texts():
        wide = text_width(text.text, text.font)
        left = text.x - {"start": 0, "middle": 0.5, "end": 1}[text.anchor] * wide
        for x in (left, left + wide):
            for y in (text.y - text.font.size * 0.7, text.y):
                assert found[int(view.y + y), int(view.x + x)], (form, x, y)


@pytest.mark.parametrize("fill", TONES)
def test_words_can_be_read_on_every_fill_and_fading(fill):
    """4.5:1 (WCAG 2.2, success criterion 1.4.3) with both ends; of a fading only as far as any ink can have it."""
    view = page(fill=fill, text="Words").tiles()[0]
    ground = view.scene.shapes[0].fill
    assert all(contrast_ratio(text.fill, ground) >= 4.5 for text in view.scene.texts())


def test_a_form_grows_with_its_words_and_they_stand_in_its_middle():
    short, long = (page(text=text, role="body").tiles()[0] for text in ("Word", "Some words " * 60))
    assert long.scene.height > short.scene.height
    [line] = short.scene.texts()
    assert abs(line.y - line.font.size * 0.35 - short.scene.height / 2) < line.font.size * 0.4
    assert line.anchor == "middle" or abs(line.x + text_width(line.text, line.font) / 2 - short.scene.width / 2) < 2


def test_fading_line_dash_and_shadow_are_drawn():
    svg = page_to_svg(page(fill="accent", to="second", line="ink", line_width=3, dash="dashed", has_shadow=True))
    assert "linearGradient" in svg and 'stroke-width="3"' in svg and "stroke-dasharray" in svg
    plain = page_to_svg(page())
    assert "linearGradient" not in plain and "stroke-dasharray" not in plain


@pytest.mark.parametrize("form", LINES)
def test_lines_are_lines_and_nothing_is_typed_into_them(form):
    view = page(form=form).tiles()[0]
    [shape] = view.scene.shapes
    assert shape.fill == "none" and shape.stroke == "#102030"
    assert view.tile.writes(view.context) is None


@pytest.mark.parametrize("ending", DRAWN_FORMATS)
def test_each_kind_of_file_holds_it(ending):
    assert FORMATS[ending].page(page(form="star")) != FORMATS[ending].page(page(form="arrow"))


def test_a_form_without_words_is_no_fault_and_says_nothing():
    made = page()
    assert not [one for one in findings_of(made) if one.tile == "s1"]
    assert 'role="img"' not in page_to_svg(made)


def test_a_form_of_a_later_ypsil_is_a_rounded_rectangle():
    assert page(form="cloudlet").tiles()[0].scene.shapes[0].d == page(form="rounded").tiles()[0].scene.shapes[0].d


@pytest.mark.parametrize("wrong", [{"fill": "pinkish"}, {"line_width": 0}, {"dash": "wavy"}, {"to": "#12"}])
def test_what_it_cannot_have_is_refused(wrong):
    with pytest.raises(ValueError, match=next(iter(wrong))):
        page(**wrong)
