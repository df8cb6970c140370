"""Codes to scan, read back by another reader, and tiles that lead somewhere, on the page and in files."""

import io

import numpy as np
import pytest
import zxingcpp
from PIL import Image
from pypdf import PdfReader

from ypsil.core.errors import EditRefused
from ypsil.core.export import page_to_pdf, page_to_png, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.edits import parse_edit
from ypsil.core.tiles.leading import address_problem

PLACE = {"column": 0, "row": 0, "width": 8, "height": 30}


def page(*tiles, **report):
    tiles = [{"id": f"t{place}", "place": PLACE | {"row": 40 * place}, **tile} for place, tile in enumerate(tiles)]
    return compose(ReportBody.model_validate({"title": "T", **report, "bands": [{"id": "b1", "tiles": tiles}]}), {})


def seen(made):
    with Image.open(io.BytesIO(page_to_png(made, scale=2))) as opened:
        return np.asarray(opened.convert("RGB"))


# Read back with zxing-cpp (Apache 2.0), a reader of its own of ISO/IEC 18004.
@pytest.mark.parametrize("level", ["low", "medium", "quartile", "high"])
@pytest.mark.parametrize(
    "address", ["https://example.org/r/x7", "https://example.org/?q=Straße%20und%20mehr&n=1", "mailto:desk@example.org"]
)
def test_a_code_is_read_back_as_it_was_typed(level, address):
    found = zxingcpp.read_barcodes(seen(page({"type": "code", "address": address, "level": level})))
    assert [one.text for one in found] == [address]


@pytest.mark.parametrize("style", [{"paper": "#22212b", "ink": "#ffffff"}, {"paper": "#f4d35e"}, {}])
@pytest.mark.parametrize("colour", ["ink", "paper", "accent", "wash"])
def test_it_is_read_in_every_colour_and_on_every_paper(style, colour):
    made = page({"type": "code", "address": "https://example.org/visits", "colour": colour}, style=style)
    assert [one.text for one in zxingcpp.read_barcodes(seen(made))] == ["https://example.org/visits"]


def test_with_part_of_it_covered_a_strong_code_is_read_all_the_same():
    made = page({"type": "code", "address": "https://example.org/visits", "level": "high"})
    picture = seen(made).copy()
    view = made.tiles()[0]
    x, y, side = (round(2 * one) for one in (view.x, view.y, min(view.scene.width, view.scene.height)))
    picture[y + side * 45 // 100 : y + side * 60 // 100, x + side * 45 // 100 : x + side * 60 // 100] = 255
    assert [one.text for one in zxingcpp.read_barcodes(picture)] == ["https://example.org/visits"]


def test_four_modules_are_left_free_round_it():
    scene = page({"type": "code", "address": "https://example.org"}).tiles()[0].scene
    plate, modules = scene.shapes
    first = float(modules.d[1:].split()[0])
    assert first == pytest.approx(4 * plate.width / (25 + 8), rel=0.001)


@pytest.mark.parametrize(
    "address", ["javascript:alert(1)", "example", "https://", "ftp://example.org", "https://a b.org"]
)
def test_what_leads_nowhere_is_said_and_not_drawn(address):
    assert "leads nowhere" in address_problem(address)
    assert "leads nowhere" in page({"type": "code", "address": address}).tiles()[0].drawn.problem
    body = page({"type": "text", "text": "Go"}).report
    edit = {"type": "change_tile", "tile": "t0", "changes": {"leads_to": address}}
    with pytest.raises(EditRefused, match="leads nowhere"):
        parse_edit(edit).apply(body)


def test_more_than_a_code_can_hold_is_said():
    drawn = page({"type": "code", "address": "https://example.org/" + "x" * 1_900, "level": "high"}).tiles()[0].drawn
    assert "more than a code can hold" in drawn.problem


def test_an_empty_code_says_to_its_author_what_belongs_there():
    view = page({"type": "code"}).tiles()[0]
    assert view.scene.shapes == () and "address" in view.tile.hints()


def test_a_tile_leads_to_an_address_in_files():
    made = page({"type": "shape", "text": "To the survey", "leads_to": "https://example.org/survey"})
    assert '<a href="https://example.org/survey">' in page_to_svg(made)
    pages = PdfReader(io.BytesIO(page_to_pdf(made))).pages
    links = [one.get_object() for one in pages[0]["/Annots"]]
    assert [link["/A"]["/URI"] for link in links] == ["https://example.org/survey"]
    left, foot, right, top = (float(one) for one in links[0]["/Rect"])
    view = made.tiles()[0]
    assert right - left == pytest.approx(view.scene.width * 0.75, abs=1)
    assert top - foot == pytest.approx(view.scene.height * 0.75, abs=1)


def test_a_band_that_there_is_not_is_led_to_by_nothing_in_a_pdf():
    made = page({"type": "shape", "text": "Down", "leads_to": "#gone"})
    assert "<rect id=" not in page_to_svg(made)
    assert "/Annots" not in PdfReader(io.BytesIO(page_to_pdf(made))).pages[0]
