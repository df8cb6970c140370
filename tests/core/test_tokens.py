"""A house style as design tokens, there and back, and from those of other programs."""

import json
from contextlib import suppress

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.errors import YpsilError
from ypsil.core.style import HouseStyle
from ypsil.core.style.cards import CardManner
from ypsil.core.style.palettes import SHIPPED
from ypsil.core.style.tokens import style_from, tokens_of

PLAIN = HouseStyle()


def read(tokens):
    return style_from(json.dumps(tokens).encode(), PLAIN)


@pytest.mark.parametrize("palette", SHIPPED)
def test_there_and_back_it_is_the_same(palette):
    style = HouseStyle(heading_family="Fraunces", body_family="Nunito").dressed(palette)
    found = read(tokens_of(style, CardManner(corner=22)))
    for part in (
        "ink",
        "paper",
        "accent",
        "muted",
        "rise",
        "watch",
        "fall",
        "palette",
        "heading_family",
        "body_family",
    ):
        assert getattr(found.style, part) == getattr(style, part), part
    assert found.corner == 22 and found.notes == ()


def test_every_token_has_a_type_and_a_value_as_the_format_says():
    """W3C Design Tokens Community Group, Design Tokens Format Module 2025.10: types may come from the group."""

    def walk(tree, kind=""):
        kind = tree.get("$type", kind)
        if "$value" in tree:
            yield kind, tree["$value"]
        for name, below in tree.items():
            if isinstance(below, dict) and not name.startswith("$"):
                assert not set(name) & set("{}."), "letters that names may not have"
                yield from walk(below, kind)

    found = list(walk(tokens_of(PLAIN, CardManner())))
    assert {kind for kind, _ in found} == {"color", "fontFamily", "dimension"}
    for kind, value in found:
        if kind == "color":
            assert value["colorSpace"] == "srgb" and all(0 <= one <= 1 for one in value["components"])


# In the manner of the examples of the format's own text: aliases, other colour spaces, codes, groups with types.
ELSEWHERE = {
    "color": {
        "$type": "color",
        "brand": {"500": {"$value": {"colorSpace": "oklch", "components": [0.5, 0.15, 300]}}},
        "primary": {"$value": "{color.brand.500}"},
        "background": {"$value": "#fffdf8"},
        "text": {"default": {"$value": "#1d1b20"}, "muted": {"$value": "#665"}},
        "success": {"$value": {"colorSpace": "srgb", "components": [0, 0.5, 0.2]}},
    },
    "type": {
        "heading": {"$type": "fontFamily", "$value": ["Made Up Sans", "Work Sans"]},
        "body": {"$type": "fontFamily", "$value": "Literata, serif"},
    },
    "shadow": {"$type": "shadow", "$value": {"blur": "3px"}},
    "radius": {"card": {"$type": "dimension", "$value": {"value": 7, "unit": "px"}}},
}


def test_those_of_others_are_understood_by_their_names():
    found = read(ELSEWHERE)
    assert (found.style.paper, found.style.ink) == ("#fffdf8", "#1d1b20")
    assert (found.style.heading_family, found.style.body_family) == ("Work Sans", "Literata")
    assert found.style.accent == found.style.palette[0] and found.corner == 7
    assert found.notes == ("Passed over, as a style here has nothing like it: shadow.",)


def test_what_cannot_be_had_is_said_and_the_rest_is_taken():
    found = read(
        {
            "ink": {"$type": "color", "$value": {"colorSpace": "dreams", "components": [1, 2, 3]}},
            "accent": {"$type": "color", "$value": "#8e1f5b"},
            "text": {"$type": "fontFamily", "$value": "Scrawl"},
        }
    )
    assert found.style.accent == "#8e1f5b" and found.style.body_family == PLAIN.body_family
    assert any("“ink” cannot be read" in note for note in found.notes)
    assert any("“Scrawl” is not among the families" in note for note in found.notes)


def test_a_style_from_elsewhere_never_makes_a_page_unreadable():
    found = read(
        {
            "$type": "color",
            "text": {"$value": "#eeeeee"},
            "paper": {"$value": "#ffffff"},
            "accent": {"$value": "#ffff00"},
        }
    ).style
    # WCAG 2.2, 1.4.3.
    assert min(contrast_ratio(one, found.paper) for one in (found.ink, found.muted, *found.palette)) >= 4.5


def test_names_that_stand_for_each_other_in_a_ring_are_passed_over():
    found = read({"$type": "color", "a": {"$value": "{b}"}, "b": {"$value": "{a}"}, "ink": {"$value": "#112233"}})
    assert found.style.ink == "#112233" and len(found.notes) == 2


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"not json", "this is not JSON"),
        (b"[" * 100_000, "this is not JSON"),
        (b"[]", "no groups of tokens"),
        (b"{}", "no colours and no families"),
        (json.dumps({"a": {"$type": "duration", "$value": "3ms"}}).encode(), "no colours and no families"),
        (b" " * 1_000_001, "larger than 1 MB"),
    ],
)
def test_what_holds_no_tokens_is_refused_in_words(data, said):
    with pytest.raises(YpsilError, match=said):
        style_from(data, PLAIN)


@given(
    st.recursive(
        st.none() | st.booleans() | st.floats() | st.text(max_size=8) | st.sampled_from(["#fff", "{a}", "color"]),
        lambda below: (
            st.lists(below, max_size=3)
            | st.dictionaries(
                st.sampled_from(["$type", "$value", "a", "ink", "colorSpace", "components", "hex"]), below
            )
        ),
        max_leaves=12,
    )
)
def test_any_json_is_read_or_refused(tree):
    with suppress(YpsilError):
        assert isinstance(read(tree).style, HouseStyle)
