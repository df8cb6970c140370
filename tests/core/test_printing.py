"""PDF on paper: read back with pikepdf and pypdf. Boxes by ISO 32000-2, 14.11.2; structure by ISO 14289-1."""

import io
from itertools import pairwise

import pikepdf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from tests.core.test_drafts import subject
from tests.core.test_templates import MONTHS, fitting, made
from ypsil.core.document.model import Frame
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.export import file_format
from ypsil.core.export.base import Delivery
from ypsil.core.export.sheets import px_of, sheets_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.document import Band
from ypsil.core.style.grounds import Ground
from ypsil.core.templates import templates
from ypsil.core.tiles import TextTile

TABLE = subject(MONTHS)


def page_of(body, about=TABLE):
    return compose(body, {about.key: about.table}, is_opened=True)


def pdf_of(body, about=TABLE, **wanted):
    return file_format("pdf").page(page_of(body, about), Delivery(**wanted))


def at(row, rows, word="x"):
    return TextTile(text=word, place=Frame(column=0, row=row, width=24, height=rows))


def kinds_in(node, found):
    """Collect the elements of a structure tree by their kind."""
    if isinstance(node, pikepdf.Array):
        for child in node:
            kinds_in(child, found)
    elif isinstance(node, pikepdf.Dictionary):
        if "/S" in node:
            found.setdefault(str(node.S), []).append(node)
        if "/K" in node:
            kinds_in(node.K, found)
    return found


@pytest.mark.parametrize("name", templates())
@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_bands_stand_on_paper_in_their_order_and_nothing_is_cut_through(name, paper):
    page = page_of(made(name).body, fitting(name))
    sheets = sheets_of(page, paper)
    pieces = [piece for sheet in sheets for piece in sheet.pieces]
    assert [piece.band.band.id for piece in pieces] == sorted(
        (piece.band.band.id for piece in pieces), key=[band.band.id for band in page.bands].index
    )
    for view in page.tiles():
        place = page.layout.placed[view.tile.id].rectangle
        holding = [one for one in pieces if view in one.band.tiles and one.holds(view, page)]
        assert len(holding) == 1
        assert holding[0].top - 0.01 <= place.y and place.y + place.height <= holding[0].foot + 0.01
    for sheet in sheets:
        assert sheet.pieces[0].y in (0.0, px_of(13))
        foots = [piece.y + piece.height for piece in sheet.pieces]
        assert foots[-1] <= sheet.height - px_of(13) + 0.1
        assert all(later.y >= foot - 0.01 for foot, later in zip(foots, sheet.pieces[1:], strict=False))


@settings(max_examples=60, deadline=None)
@given(st.lists(st.lists(st.integers(2, 160), min_size=1, max_size=6), min_size=1, max_size=8))
def test_any_bands_fill_sheets_without_losing_or_cutting_anything(heights):
    bands = []
    for tall in heights:
        tiles, row = [], 0
        for rows in tall:
            tiles.append(at(row, rows))
            row += rows + 2
        bands.append(Band(tiles=tuple(tiles)))
    page = page_of(ReportBody(title="T", bands=tuple(bands)))
    pieces = [piece for sheet in sheets_of(page, "A4") for piece in sheet.pieces]
    for band in page.bands:
        own = [piece for piece in pieces if piece.band is band]
        assert own[0].top == band.place.y and own[-1].foot == band.place.y + band.place.height
        assert all(one.foot == following.top for one, following in pairwise(own))
        held = [view.tile.id for piece in own for view in band.tiles if piece.holds(view, page)]
        assert sorted(held) == sorted(view.tile.id for view in band.tiles)


def test_a_sheet_for_a_line_is_spared_where_all_can_be_a_little_smaller():
    body = ReportBody(title="T", bands=(Band(tiles=(at(0, 122),)), Band(tiles=(at(0, 3),))))
    page = page_of(body)
    sheets = sheets_of(page, "A4")
    assert len(sheets) == 1 and 0.88 <= sheets[0].pieces[0].scale * page.width / sheets[0].width < 1


def test_pages_say_the_title_again_and_their_number():
    body = made("month-in-figures").body
    pages = PdfReader(io.BytesIO(pdf_of(body, paper="A4"))).pages
    texts = [" ".join(one.extract_text().split()) for one in pages]
    assert len(pages) > 1 and all(f"{number} / {len(pages)}" in text for number, text in enumerate(texts, 1))
    assert all(body.title in text for text in texts[1:])
    assert [round(float(side)) for side in pages[0].mediabox[2:]] == [595, 842]
    letter = PdfReader(io.BytesIO(pdf_of(body, paper="Letter"))).pages[0]
    assert [round(float(side)) for side in letter.mediabox[2:]] == [612, 792]
    across = body.model_copy(update={"page": PAGE_FORMATS["dashboard-16x9"].page})
    assert float(PdfReader(io.BytesIO(pdf_of(across, paper="A4"))).pages[0].mediabox.width) > 800


def test_a_page_a_band_is_as_high_as_its_band():
    body = made("month-in-figures").body
    page = page_of(body)
    pages = PdfReader(io.BytesIO(pdf_of(body, paper="band"))).pages
    assert [float(one.mediabox.height) for one in pages] == pytest.approx(
        [0.75 * band.place.height for band in page.bands], abs=0.1
    )


@pytest.mark.parametrize("wanted", [{"paper": "A4"}, {"paper": "Letter", "has_bleed": True}, {"has_numbers": True}])
def test_what_is_printed_keeps_its_tags_order_and_descriptions(wanted):
    body = made("month-in-figures").body
    page = page_of(body)
    with pikepdf.open(io.BytesIO(pdf_of(body, **wanted))) as file:
        root = file.Root
        assert bool(root.MarkInfo.Marked) and str(root.Lang) == "en" and bool(root.ViewerPreferences.DisplayDocTitle)
        assert "pdfuaid" in file.Root.Metadata.read_bytes().decode()
        found = kinds_in(root.StructTreeRoot.K, {})
        said = [str(node.Alt) for node in found["/Figure"]]
        wanted_alt = [view.scene.name for view in page.tiles() if view.scene.name]
        assert [text.split(". ")[0] for text in said[: len(wanted_alt)]] == [name.split(". ")[0] for name in wanted_alt]
        assert len(found["/H1"]) == 1


def test_numbers_at_the_end_are_tables_with_headings():
    body = made("month-in-figures").body
    content = pdf_of(body, paper="A4", has_numbers=True)
    without = pdf_of(body, paper="A4")
    text = " ".join(" ".join(one.extract_text() for one in PdfReader(io.BytesIO(content)).pages).split())
    with pikepdf.open(io.BytesIO(content)) as file, pikepdf.open(io.BytesIO(without)) as plain:
        found, before = (kinds_in(one.Root.StructTreeRoot.K, {}) for one in (file, plain))
        assert len(found["/Table"]) > len(before.get("/Table", []))
        assert found["/TH"]
    for view in page_of(body).tiles():
        if view.drawn.answer is not None and view.drawn.answer.height > 1:
            assert " ".join(view.drawn.answer.sentence.split()[:2]) in text or getattr(view.tile, "title", "") in text


def test_ink_goes_beyond_the_edge_and_boxes_say_where_it_is_cut():
    body = ReportBody(title="T", bands=(Band(tiles=(TextTile(text="On it"),), ground=Ground(colour="accent")),))
    content = pdf_of(body, paper="A4", has_bleed=True)
    with pikepdf.open(io.BytesIO(content)) as file:
        sheet = file.pages[0]
        boxes = [[float(side) for side in box] for box in (sheet.mediabox, sheet.bleedbox, sheet.trimbox)]
    (media, bleed, trim), mm = boxes, 72 / 25.4
    assert trim[2] - trim[0] == pytest.approx(210 * mm, abs=0.1) and trim[3] - trim[1] == pytest.approx(
        297 * mm, abs=0.1
    )
    assert [trim[0] - bleed[0], bleed[2] - trim[2]] == pytest.approx([3 * mm, 3 * mm], abs=0.05)
    assert media[2] > bleed[2] > trim[2]
    # The ground's picture begins where the bleed does, and the page itself where it is cut.
    assert content == pdf_of(body, paper="A4", has_bleed=True)


def test_bands_and_addresses_are_led_to_on_paper():
    goal = Band(tiles=(TextTile(text="There"),))
    out = TextTile(text="out", leads_to="https://example.org/a")
    on = TextTile(text="on", leads_to=f"#{goal.id}")
    fill = [Band(tiles=(at(0, 100),)) for _ in range(2)]
    body = ReportBody(title="T", bands=(Band(tiles=(out, on)), *fill, goal))
    reader = PdfReader(io.BytesIO(pdf_of(body, paper="A4")))
    notes = [note.get_object() for note in reader.pages[0].get("/Annots", [])]
    assert [note["/A"]["/URI"] for note in notes if "/URI" in note.get("/A", {})] == ["https://example.org/a"]
    leaps = [note for note in notes if "/URI" not in note.get("/A", {})]
    goal_page = (leaps[0].get("/Dest") or leaps[0]["/A"]["/D"])[0].get_object()
    assert goal_page == reader.pages[len(reader.pages) - 1].get_object()
