"""The strip at the head of a card: an icon and words on a colour of the style, in every file, with room below it."""

import io

import pytest
from pypdf import PdfReader

from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.icons import icons
from ypsil.core.drawing.scene import Path
from ypsil.core.errors import EditRefused
from ypsil.core.export import page_to_pdf, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.style.grounds import TONES

PLACE = {"column": 0, "row": 0, "width": 12, "height": 12}
LONG = "What readers of every age told us about the rooms in autumn"


def body(card, text="Words below the strip. " * 8, manner=None):
    tile = {"id": "t1", "type": "text", "text": text, "place": PLACE, "card": card}
    data = {"title": "T", "bands": [{"id": "b1", "tiles": [tile]}]}
    return ReportBody.model_validate(data | ({} if manner is None else {"cards": manner}))


def view(card, **more):
    return compose(body(card, **more), {}).tiles()[0]


def test_a_strip_takes_room_of_its_own_and_the_text_stands_below_it():
    without, with_one = view({}), view({"says": "Loans"})
    assert with_one.y - without.y == pytest.approx(with_one.header.height)
    assert with_one.card.scene.height >= without.card.scene.height + with_one.header.height - 8
    first = with_one.scene.texts()[0]
    assert with_one.y + first.y - first.font.size > with_one.header.y + with_one.header.height


@pytest.mark.parametrize("colour", [*TONES, ""])
def test_what_stands_on_a_strip_can_be_read_whatever_its_colour(colour):
    """4.5:1 for words (WCAG 2.2, success criterion 1.4.3), which holds the icon's 3:1 (1.4.11) as well."""
    for fill in ("paper", "ink", "accent", ""):
        shown = view({"says": "Loans", "icon": "book", "header": colour, "fill": fill})
        ground = shown.header.colour or (shown.card.scene.shapes[0].fill if shown.card.scene.shapes else "#ffffff")
        inks = {shape.fill for shape in shown.header.scene.shapes}
        assert len(shown.header.scene.shapes) == 2
        assert all(contrast_ratio(ink, ground) >= 4.5 for ink in inks), (colour, fill)


def test_words_that_are_too_long_end_in_dots_within_the_strip_and_are_told_whole():
    shown = view({"says": LONG, "icon": "book"})
    [words] = shown.header.scene.texts()
    assert words.text.endswith("…") and LONG.startswith(words.text[:-1])
    assert shown.header.words == LONG


@pytest.mark.parametrize("name", sorted(icons())[::7])
def test_an_icon_stays_within_its_strip(name):
    shown = view({"icon": name})
    [mark] = shown.header.scene.shapes
    assert isinstance(mark, Path) and mark.y > 0
    assert mark.y < shown.header.height / 2 and mark.x < shown.header.height


def test_an_icon_of_a_later_ypsil_is_left_out_and_the_strip_stays():
    shown = view({"icon": "no such icon", "says": "Loans"})
    assert [text.text for text in shown.header.scene.texts()] == ["Loans"]


def test_files_say_the_words_as_text_before_the_tile():
    page = compose(body({"says": "Loans of the month"}), {})
    read = PdfReader(io.BytesIO(page_to_pdf(page))).pages[0].extract_text()
    assert read.index("Loans of the month") < read.index("Words below")
    svg = page_to_svg(page)
    assert svg.index("Loans of the month") < svg.index("Words below")


def test_the_colour_of_all_strips_is_changed_in_one_move_and_one_card_may_differ():
    assert view({"says": "A"}, manner={"header": "ink"}).header.colour == "#22212b"
    assert view({"says": "A", "header": "accent"}, manner={"header": "ink"}).header.colour != "#22212b"


def test_one_thing_of_a_card_is_changed_and_the_rest_stays():
    made = body({"says": "Loans", "corner": 4})
    changed = parse_edit({"type": "change_cards", "tiles": ["t1"], "changes": {"icon": "book"}}).apply(made)
    card = changed.tile("t1").card
    assert (card.says, card.corner, card.icon) == ("Loans", 4, "book")
    usual = parse_edit({"type": "change_cards", "tiles": ["t1"], "changes": {"corner": None}}).apply(changed)
    assert usual.tile("t1").card.corner is None
    first = parse_edit({"type": "change_cards", "tiles": ["t1"], "changes": {"line": "ink"}}).apply(body(None))
    assert first.tile("t1").card.line == "ink"


@pytest.mark.parametrize(
    "changes", [{"icon": "no such icon"}, {"says": "x" * 61}, {"fill": "no colour"}, {"corner": -1}, {"unknown": 1}]
)
def test_what_no_card_can_have_is_refused(changes):
    with pytest.raises(EditRefused):
        parse_edit({"type": "change_cards", "tiles": ["t1"], "changes": changes}).apply(body({}))
