"""Palettes from a colour or a picture: harmony, roles that can be read, pairs that are too close."""

import io
import json
from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from ypsil.cli import main
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.oklch import to_oklch
from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.style.from_pictures import colours_in
from ypsil.core.style.harmony import ANGLES, HARMONIES, harmonious, roles_of
from ypsil.core.style.seen import SEEN_AS, TOO_CLOSE, close_pairs, difference, nearest_safe

colours = st.integers(0, (1 << 24) - 1).map(lambda number: f"#{number:06x}")


def png(*fills, size=(60, 20), mode="RGB"):
    """Return a picture of fields of equal width."""
    image = Image.new(mode, size)
    wide = size[0] // len(fills)
    for place, fill in enumerate(fills):
        image.paste(fill, (place * wide, 0, (place + 1) * wide, size[1]))
    kept = io.BytesIO()
    image.save(kept, "PNG")
    return kept.getvalue()


@pytest.mark.parametrize("harmony", HARMONIES)
def test_hues_stand_at_the_angles_of_the_harmony(harmony):
    first = "#14697f"
    hue = to_oklch(first)[2]
    angles = {round((to_oklch(one)[2] - hue + 180) % 360 - 180) for one in harmonious(first, harmony, 6)}
    wanted = {(angle + 180) % 360 - 180 for angle in ANGLES[harmony]}
    assert all(any(abs((one - other + 180) % 360 - 180) <= 4 for other in wanted) for one in angles)
    assert all(any(abs((one - other + 180) % 360 - 180) <= 4 for other in angles) for one in wanted)


@given(colours, st.sampled_from(HARMONIES), st.integers(1, 12))
def test_any_colour_gives_a_palette_that_begins_with_it(colour, harmony, count):
    found = harmonious(colour, harmony, count)
    assert found[0] == colour and len(found) == len(set(found)) <= count


@given(colours)
def test_parts_of_a_style_can_be_read_on_its_paper(colour):
    roles = roles_of(colour)
    for name in ("ink", "emphasis", "quiet", "good", "bad"):
        assert contrast_ratio(roles[name], roles["paper"]) >= 4.5, name


def test_a_red_and_a_green_are_told_to_be_too_close_with_a_safe_one_instead():
    (found,) = close_pairs(["#b3343f", "#5f7a1f", "#1a1a2e"])
    assert set(found.pair) == {"#b3343f", "#5f7a1f"} and found.difference < TOO_CLOSE
    others = [one for one in ("#b3343f", "#5f7a1f", "#1a1a2e") if one != found.pair[1]]
    assert all(difference(found.instead, other, kind) >= TOO_CLOSE for other in others for kind in (*SEEN_AS, None))


def test_colours_that_are_far_apart_are_not_warned_of():
    assert list(close_pairs(["#000000", "#888888", "#ffffff"])) == []


def test_what_is_all_the_same_comes_with_the_best_there_is():
    found = list(close_pairs(["#808080", "#818181", "#828282"]))
    assert len(found) == 3 and all(one.instead not in ("#808080", "#818181", "#828282") for one in found)
    assert nearest_safe("#808080", ["#818181"]) != "#808080"


def test_the_colours_of_a_logo_are_found_and_none_twice():
    found = colours_in(read_picture(png("#14697f", "#15697f", "#b86e00", "#ffffff"), "logo.png"), 5)
    assert len(found) == 3 and found[-1] == "#ffffff", "white paper comes last"
    assert all(difference(one, other) >= 12 for one, other in combinations(found, 2))
    assert min(difference(one, "#14697f") for one in found) < 2 > min(difference(one, "#b86e00") for one in found)


def test_a_picture_of_one_pixel_has_one_colour():
    assert colours_in(read_picture(png("#12806c", size=(1, 1)), "dot.png"), 5) == ["#12806c"]


def test_a_clear_picture_has_none():
    assert colours_in(read_picture(png((1, 2, 3, 0), mode="RGBA"), "clear.png"), 5) == []


def test_the_colours_of_a_drawing_with_a_script_in_it_are_found_without_it():
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>x()</script>'
    svg = f'{head}<rect width="9" height="9" fill="#b83264"/></svg>'.encode()
    assert colours_in(read_picture(svg, "logo.svg"), 3) == ["#b83264"]


def said(capsys, *arguments):
    assert not main(["palette", *arguments])
    return json.loads(capsys.readouterr().out)


def test_the_command_makes_one_of_a_colour(capsys):
    found = said(capsys, "#14697f", "--harmony", "triad", "--count", "3")
    assert found["colours"][0] == "#14697f" and len(found["colours"]) == 3
    assert set(found["roles"]) == {"ink", "paper", "emphasis", "quiet", "good", "bad"}
    assert {"pair", "seen_as", "difference", "instead"} == set(found["warnings"][0])
    assert said(capsys, "14697F", "--harmony", "triad", "--count", "3") == found
    assert said(capsys, "crimson")["colours"][0] == "#dc143c"


def test_the_command_makes_one_of_a_picture(tmp_path, capsys):
    path = tmp_path / "logo.png"
    path.write_bytes(png("#14697f", "#b86e00"))
    assert set(said(capsys, str(path))["colours"]) == {"#14697f", "#b86e00"}
    assert len(said(capsys, str(path), "--harmony", "opposite", "--count", "4")["colours"]) == 4


@pytest.mark.parametrize(
    ("arguments", "problem"),
    [
        (["mud"], "ypsil: mud: this is neither a colour nor a file; "),
        (["gone.png"], "ypsil: gone.png: no such file or directory; "),
        (["#14697f", "--count", "99"], "ypsil: #14697f: a palette has 1 to 12 colours; "),
    ],
)
def test_the_command_says_what_is_wrong_in_one_line(capsys, arguments, problem):
    assert main(["palette", *arguments]) == 1
    said = capsys.readouterr().err
    assert said.startswith(problem) and said.count("\n") == 1


def test_a_clear_logo_is_told_in_words(tmp_path, capsys):
    path = tmp_path / "clear.png"
    path.write_bytes(png((0, 0, 0, 0), mode="RGBA"))
    assert main(["palette", str(path)]) == 1 and "all of it is clear" in capsys.readouterr().err
