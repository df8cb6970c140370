"""Lines of several looks, and of scripts that run to the left."""

import random

import pytest
from bidi import get_display
from hypothesis import given, settings
from hypothesis import strategies as st

from ypsil.core.drawing.bidi import levels, seen_order
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font
from ypsil.core.drawing.typeset import Piece, set_lines
from ypsil.core.drawing.wrap import wrap

PLAIN, BOLD, ITALIC = Font("Source Sans 3", 16), Font("Source Sans 3", 16, 700), Font("Source Sans 3", 16, 400, True)
WORDS = st.text(st.sampled_from("abcdefgh klmnop ,."), max_size=120)


def piece(text, font=PLAIN, fill="#000"):
    return Piece(text, font, fill)


@given(WORDS, st.floats(20, 400))
def test_text_in_one_look_breaks_as_plain_text_does(text, width):
    assert [line.text for line in set_lines([piece(text)], width)] == wrap(text, width, PLAIN)


@settings(max_examples=60)
@given(st.lists(st.tuples(WORDS, st.sampled_from([PLAIN, BOLD, ITALIC])), max_size=8), st.floats(30, 400))
def test_no_line_is_wider_than_its_place_and_no_letter_is_lost(parts, width):
    lines = set_lines([piece(text, font) for text, font in parts], width)
    assert all(line.width <= width + 1e-6 or len(line.text) <= 2 for line in lines)
    typed = "".join("".join(text for text, _ in parts).split())
    # Words that are broken have a hyphen more.
    assert "".join(line.text for line in lines).replace(" ", "").replace("-", "") == typed.replace("-", "")


def test_a_line_ends_behind_a_hyphen_and_never_at_a_no_break_space_or_a_minus():
    assert set_lines([piece("well-known readers")], text_width("well-k", PLAIN))[0].text == "well-"
    kept = set_lines([piece("up to 5\u00a0000 and −3 or -3 then")], text_width("up to 5\u00a0", PLAIN))
    assert any("5\u00a0000" in line.text for line in kept)
    assert any("−3" in line.text for line in kept) and any("-3" in line.text for line in kept)


def test_a_space_has_the_look_that_it_was_typed_in():
    linked = Piece("survey", PLAIN, "#00f", is_underlined=True, link="https://example.org")
    (line,) = set_lines([piece("the "), linked, piece(" says")], 400)
    assert [one.text for one in line.pieces] == ["the ", "survey", " says"]


# python-bidi (MeirKriheli, MIT) gives what the Unicode Bidirectional Algorithm makes of a line; it turns no brackets.
@pytest.mark.parametrize("rightwards", [True, False])
def test_letters_are_seen_in_the_order_of_the_unicode_bidirectional_algorithm(rightwards):
    chance = random.Random(7)
    for _ in range(1500):
        text = "".join(chance.choice("abcאבגשע12 3.,-%£") for _ in range(chance.randint(1, 16))).strip()
        ours = "".join(text[at] for at in seen_order(levels(text, rightwards=rightwards)))
        assert ours == get_display(text, base_dir="L" if rightwards else "R"), text


def test_a_hebrew_line_ends_at_the_left_with_its_full_stop_and_its_brackets_open_to_the_left():
    (line,) = set_lines([piece("שלום (Visits)."), piece("!", BOLD)], 400)
    assert not line.rightwards
    seen = [one.text for _, one in sorted(line.placed(), key=lambda placed: placed[0])]
    assert seen[0] == "!" and seen[1] == "." and "שלום" in seen[-1]
    assert "".join(seen).index("(") < "".join(seen).index("Visits") < "".join(seen).index(")")


def test_what_is_read_first_comes_first_wherever_it_stands():
    (line,) = set_lines([piece("שלום"), piece(" עולם", BOLD)], 400)
    placed = line.placed()
    assert placed[0][1].text == "שלום" and placed[0][0] > placed[-1][0]
