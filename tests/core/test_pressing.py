"""What readers press: details that unfold, films and sounds, framed pages, buttons; and what they become in files."""

import io

import pytest
from pypdf import PdfReader

from tests.factories import DRAWN_FORMATS
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.scene import Path
from ypsil.core.errors import EditRefused
from ypsil.core.export import FORMATS, page_to_pdf, page_to_svg
from ypsil.core.proof import findings_of
from ypsil.core.render import compose
from ypsil.core.render.page import draw_narrow
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.tiles import KINDS, TO_PRESS, offered

PLACE = {"column": 0, "row": 0, "width": 12, "height": 6}
LONG = "One paragraph after another that says how it was counted, and by whom. " * 12
FILM = "https://films.example.org/tour.mp4"


def page(kind, *more_tiles, is_opened=False, **more):
    tile = {"id": "it", "type": kind, "place": PLACE, **more}
    body = ReportBody.model_validate({"title": "T", "bands": [{"id": "b", "tiles": [tile, *more_tiles]}]})
    return compose(body, {}, is_opened=is_opened)


def it(made):
    return next(one for one in made.tiles() if one.tile.id == "it")


def said(made):
    return " ".join(text.text for text in it(made).scene.texts())


class TestDetails:
    def test_closed_on_the_page_and_open_in_files_where_it_takes_the_room_it_needs(self):
        below = {"id": "below", "type": "text", "text": "Below", "place": {**PLACE, "row": 7}}
        closed = page("details", below, head="How we counted", says=LONG)
        opened = page("details", below, is_opened=True, head="How we counted", says=LONG)
        assert said(closed) == "How we counted"
        assert "by whom" in said(opened) and said(opened).startswith("How we counted")
        last = max(text.y for text in it(opened).scene.texts())
        assert last < it(opened).scene.height
        # What stands below makes room.
        after = next(one for one in opened.tiles() if one.tile.id == "below")
        assert after.y >= it(opened).y + it(opened).scene.height

    @pytest.mark.parametrize("colour", ["tint", "deep", "accent", "#f0f000", "ink"])
    def test_its_words_can_be_read_on_whatever_it_stands(self, colour):
        made = page("details", is_opened=True, head="How", says=f"{LONG}\nSee https://example.org/how", colour=colour)
        ground = next(one.fill for one in it(made).scene.shapes if isinstance(one, Path))
        assert all(contrast_ratio(text.fill, ground) >= 4.5 for text in it(made).scene.texts())
        assert {text.link for text in it(made).scene.texts()} == {"", "https://example.org/how"}

    def test_in_a_pdf_it_is_text(self):
        made = page("details", is_opened=True, head="How we counted", says="By hand, twice.")
        text = PdfReader(io.BytesIO(page_to_pdf(made))).pages[0].extract_text()
        assert "How we counted" in text and "By hand, twice." in text

    def test_a_long_head_is_wrapped_beside_its_sign_and_an_empty_one_asks(self):
        made = page("details", head="A head " * 28)
        lines = it(made).scene.texts()
        assert len(lines) > 3 and it(made).scene.height >= lines[-1].y
        assert page("details").tiles()[0].tile.hints()

    def test_on_a_phone_it_is_drawn_for_its_width(self):
        narrow = draw_narrow(page("details", head="A head that is longer than a phone is wide, by some words"))
        assert narrow["it"].scene.width == 328 and len(narrow["it"].scene.texts()) > 1


class TestPlayed:
    @pytest.mark.parametrize(
        ("address", "is_sound"),
        [(FILM, False), ("https://example.org/a/talk.MP3?x=1", True), ("https://example.org/watch?v=1", None)],
    )
    def test_files_are_played_and_pages_are_led_to(self, address, is_sound):
        tile = KINDS["played"].model_validate({"type": "played", "address": address})
        assert tile.leads() == address
        played = tile.plays()
        assert (None if played is None else played.is_sound) == is_sound

    @pytest.mark.parametrize("address", ["javascript:alert(1)", "file:///etc/passwd", "nothing", "data:video/mp4,x"])
    def test_what_is_no_address_says_so_and_is_neither_played_nor_led_to(self, address):
        for kind in ("played", "framed"):
            made = page(kind, address=address)
            tile = it(made).tile
            assert it(made).drawn.problem and not tile.leads() and tile.plays() is None and not tile.frames()
            assert address not in page_to_svg(made)

    def test_what_is_said_in_it_is_its_text_for_those_who_cannot_hear(self):
        made = page("played", address=FILM, title="A tour", alt="Rooms are shown.", words="Welcome to the library.")
        scene = it(made).scene
        assert scene.name == "A tour"
        assert "Rooms are shown." in scene.description and "Welcome to the library." in scene.description
        assert it(made).tile.lacks_words() is False
        assert it(page("played", address=FILM)).tile.lacks_words() is True

    @pytest.mark.parametrize("ending", DRAWN_FORMATS)
    def test_in_files_a_picture_stands_for_it(self, ending):
        assert FORMATS[ending].page(page("played", address=FILM, title="A tour", alt="Rooms"))

    def test_in_svg_and_pdf_it_leads_to_the_film(self):
        made = page("played", address=FILM, title="A tour", alt="Rooms")
        assert f'<a href="{FILM}">' in page_to_svg(made)
        links = [one.get_object() for one in PdfReader(io.BytesIO(page_to_pdf(made))).pages[0]["/Annots"]]
        assert [link["/A"]["/URI"] for link in links] == [FILM]


class TestFramed:
    def test_it_becomes_a_card_that_says_where_it_leads(self):
        made = page("framed", address="https://maps.example.org/branches", title="Where we are", alt="A map")
        assert "Where we are" in said(made) and "maps.example.org" in said(made)
        assert 'href="https://maps.example.org/branches"' in page_to_svg(made)

    def test_only_pages_that_come_safely_are_framed(self):
        tile = KINDS["framed"].model_validate({"type": "framed", "address": "http://example.org/"})
        assert tile.frames() == "" and tile.leads() == "http://example.org/"


def test_they_are_offered_together_a_button_first():
    labels = [offer.label for _, offer in offered(TO_PRESS)]
    assert labels == ["A button", "Details on demand", "A film or a sound", "A framed page", "A filter for readers"]


def test_what_lacks_words_is_found_when_the_report_is_proofed():
    found = findings_of(page("framed", address="https://example.org/"))
    assert any(one.tile == "it" and "in words" in one.said for one in found)


class TestPolygon:
    CORNERS = ((0, 0), (1, 0), (1, 1))

    def test_its_area_is_that_of_the_shoelace_formula(self):
        # Elementary geometry: half of the sum of x1 y2 - x2 y1.
        made = page("shape", form="own", corners=self.CORNERS, fill="#000000")
        outline = next(one.d for one in it(made).scene.shapes if isinstance(one, Path))
        points = [tuple(map(float, pair.split())) for pair in outline.strip("MZ").split("L")]
        pairs = zip(points, [*points[1:], points[0]], strict=True)
        area = abs(sum(x1 * y2 - x2 * y1 for (x1, y1), (x2, y2) in pairs)) / 2
        assert area == pytest.approx(it(made).scene.width * it(made).scene.height / 2, rel=0.01)

    @pytest.mark.parametrize("corners", [[[0, 0], [1, 1]], [[0, 0], [1, 2], [0, 1]], [[0, 0]] * 41])
    def test_what_is_no_polygon_is_refused(self, corners):
        with pytest.raises(EditRefused):
            parse_edit({"type": "change_tile", "tile": "it", "changes": {"corners": corners}}).apply(
                page("shape", form="own").report
            )

    def test_until_corners_are_set_it_has_some(self):
        assert len(it(page("shape", form="own")).tile.polygon()) == 4
        assert it(page("shape", form="star")).tile.polygon() == ()
