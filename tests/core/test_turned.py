"""Tiles that are turned: the same on the page, in SVG, in PNG and in PDF; what is read off axes stays straight."""

import io
import math
import re

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from pypdf import PdfReader

from tests.factories import report_table, total
from ypsil.core.errors import EditRefused
from ypsil.core.export import page_to_pdf, page_to_png, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.report.edits.places import half_turns

PLACE = {"column": 8, "row": 14, "width": 8, "height": 10}
INK = {"fill": "#102030", "corner": 0}


def body(turn=0.0, **more):
    text = {"id": "t1", "type": "text", "text": "Turned words", "place": PLACE, "card": INK, "turn": turn, **more}
    roomy = {"id": "r1", "type": "spot", "place": {"column": 0, "row": 40, "width": 2, "height": 2}}
    return ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "tiles": [text, roomy]}]})


def dark_box(picture):
    """The bounds of the dark card in a picture of one pixel for a px: left, top, right, foot."""
    with Image.open(io.BytesIO(picture)) as opened:
        dark = np.asarray(opened.convert("L")) < 90
    rows, columns = np.flatnonzero(dark.any(axis=1)), np.flatnonzero(dark.any(axis=0))
    return columns[0], rows[0], columns[-1] + 1, rows[-1] + 1


@pytest.mark.parametrize("turn", [0, 1, 15, 45, 90, -30, 120, 180, -179.5])
def test_what_is_turned_covers_what_trigonometry_says(turn):
    """The bounds of a rectangle that is turned about its middle: w |cos| + h |sin| wide, w |sin| + h |cos| high."""
    page = compose(body(turn), {})
    card = page.tiles()[0].card
    angle = math.radians(turn)
    wide = abs(card.scene.width * math.cos(angle)) + abs(card.scene.height * math.sin(angle))
    high = abs(card.scene.width * math.sin(angle)) + abs(card.scene.height * math.cos(angle))
    x, y = card.x + card.scene.width / 2, card.y + card.scene.height / 2
    expected = (x - wide / 2, y - high / 2, x + wide / 2, y + high / 2)
    assert dark_box(page_to_png(page, scale=1)) == pytest.approx(expected, abs=1.6)
    assert page.tiles()[0].middle == pytest.approx((x, y))


def test_an_svg_file_turns_about_the_same_middle():
    page = compose(body(30), {})
    x, y = page.tiles()[0].middle
    said = re.search(r'transform="rotate\(30 ([\d.]+) ([\d.]+)\)"', page_to_svg(page))
    assert [float(one) for one in said.groups()] == pytest.approx([x, y], abs=0.01)
    assert "rotate" not in page_to_svg(compose(body(0), {}))


def test_turned_words_are_words_in_a_pdf_and_its_heading_is_one():
    page = compose(body(-20, role="heading"), {})
    read = PdfReader(io.BytesIO(page_to_pdf(page)))
    assert "Turned words" in read.pages[0].extract_text()
    assert b"/H1" in page_to_pdf(page)


def test_what_is_read_off_axes_is_not_turned():
    chart = {"id": "c1", "type": "visual", "table": "visits", "question": total(), "visual": "kpi", "turn": 30}
    made = ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "tiles": [{**chart, "place": PLACE}]}]})
    page = compose(made, {"visits": report_table()})
    assert page.tiles()[0].turn == 0
    assert "rotate(30" not in page_to_svg(page)
    with pytest.raises(EditRefused, match="cannot be turned"):
        parse_edit({"type": "turn_tiles", "tiles": ["c1"], "by": 15}).apply(made)


@given(st.floats(-180, 180), st.floats(-360, 360))
def test_a_turn_is_the_same_angle_between_half_a_turn_and_half_a_turn(turn, by):
    turned = half_turns(turn + by)
    assert -180 < turned <= 180
    away = (turned - turn - by) % 360
    assert min(away, 360 - away) < 0.06


def test_tiles_are_turned_each_from_how_it_stands_and_locked_ones_are_not():
    made = body(170)
    turned = parse_edit({"type": "turn_tiles", "tiles": ["t1"], "by": 30}).apply(made)
    assert turned.tile("t1").turn == -160
    locked = body(0, is_locked=True)
    with pytest.raises(EditRefused, match="locked"):
        parse_edit({"type": "turn_tiles", "tiles": ["t1"], "by": 30}).apply(locked)


@pytest.mark.parametrize("turn", [181, -200, float("nan"), float("inf")])
def test_other_turns_are_refused(turn):
    with pytest.raises(ValueError, match="turn"):
        body(turn)
