"""Grounds and cards: on every colour, gradient and picture, what is written and drawn can be read."""

import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from tests.factories import report_table, total
from ypsil.core.drawing.colour import channels, contrast_ratio, mix
from ypsil.core.drawing.oklch import from_oklch, to_oklch
from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.drawing.scene import Text
from ypsil.core.export import page_to_pdf, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import Band, ReportBody, TextTile, VisualTile
from ypsil.core.style import HouseStyle
from ypsil.core.style.cards import Card, CardManner
from ypsil.core.style.grounds import TONES, Ground, colours_of, on, tone, veil_over

STYLE = HouseStyle()
DRAWN = ("ink", "muted", "accent", "rise", "watch", "fall")
colours = st.builds("#{:02x}{:02x}{:02x}".format, *[st.integers(0, 255)] * 3)


class TestColour:
    # W3C, CSS Color Module Level 4, 9.2 and its examples: the sRGB primaries in OKLCH.
    @pytest.mark.parametrize(
        ("colour", "oklch"),
        [
            ("#ff0000", (0.62796, 0.25768, 29.234)),
            ("#00ff00", (0.86644, 0.29483, 142.495)),
            ("#0000ff", (0.45201, 0.31321, 264.052)),
        ],
    )
    def test_primaries_as_the_standard_has_them(self, colour, oklch):
        assert to_oklch(colour) == pytest.approx(oklch, abs=0.002)

    @given(colours)
    def test_there_and_back(self, colour):
        back = channels(from_oklch(*to_oklch(colour)))
        assert max(abs(one - other) for one, other in zip(back, channels(colour), strict=True)) <= 1

    @given(st.floats(0, 1), st.floats(0, 0.5), st.floats(0, 360))
    def test_any_lightness_and_hue_is_some_colour_of_that_lightness(self, lightness, chroma, hue):
        assert to_oklch(from_oklch(lightness, chroma, hue))[0] == pytest.approx(lightness, abs=0.02)


class TestGrounds:
    @given(colours)
    def test_on_any_colour_text_marks_and_palette_have_the_contrast_of_text(self, colour):
        there = on(STYLE, colour)
        for name in DRAWN:
            assert contrast_ratio(getattr(there, name), colour) >= 4.5, name
        assert all(contrast_ratio(one, colour) >= 4.5 for one in there.palette)

    @pytest.mark.parametrize("name", TONES)
    def test_every_tone_of_the_style_can_be_stood_on(self, name):
        ground = tone(STYLE, name)
        assert contrast_ratio(on(STYLE, ground).ink, ground) >= 4.5

    def test_on_its_own_paper_a_style_is_itself(self):
        assert on(STYLE, STYLE.paper) == STYLE

    def test_hues_are_kept(self):
        dark = on(STYLE, "#22212b")
        for before, now in zip(STYLE.palette[:5], dark.palette[:5], strict=True):
            turn = abs(to_oklch(before)[2] - to_oklch(now)[2])
            assert min(turn, 360 - turn) < 8

    @given(st.sampled_from(sorted(TONES)), st.sampled_from(sorted(TONES)))
    def test_a_fading_ends_where_one_colour_of_text_can_still_be_read(self, first, last):
        ends = colours_of(Ground(colour=first, to=last), STYLE)
        ink = on(STYLE, *ends).ink
        halfway = [mix(ends[0], ends[-1], part / 8) for part in range(9)]
        assert min(contrast_ratio(ink, one) for one in ends) >= 4.5
        assert min(contrast_ratio(ink, one) for one in halfway) >= 4.4

    @pytest.mark.parametrize("light", [(255, 255, 255), (120, 130, 140), (0, 0, 0)])
    def test_a_picture_is_dimmed_until_text_on_all_of_it_can_be_read(self, light):
        image = Image.new("RGB", (60, 40), (20, 40, 60))
        image.paste(light, (30, 0, 60, 40))
        buffer = io.BytesIO()
        image.save(buffer, "PNG")
        picture = read_picture(buffer.getvalue(), "p.png")
        for name in ("ink", "paper", "accent"):
            colour = tone(STYLE, name)
            part = veil_over(picture, colour, STYLE)
            ink = on(STYLE, *colours_of(Ground(colour=name, picture=picture.name), STYLE, picture)).ink
            for px in ((20, 40, 60), light):
                seen = mix("#{:02x}{:02x}{:02x}".format(*px), colour, part)
                assert contrast_ratio(ink, seen) >= 4.5, (name, px)


CHART = VisualTile(id="c", table="t", question=total(per=[{"column": "Branch"}]), visual="column", title="Visits")


def page(**more):
    band = Band(id="b", message="Where people go", says_it=True, tiles=(CHART, TextTile(id="w", text="Words " * 30)))
    report = ReportBody(title="Dark", bands=(band.model_copy(update=more),))
    return compose(report, {"t": report_table()})


class TestPages:
    @pytest.mark.parametrize("name", ["ink", "deep", "accent", "tint"])
    def test_nothing_on_a_band_is_left_dark_on_dark(self, name):
        composed = page(ground=Ground(colour=name))
        ground = tone(STYLE, name)
        for view in composed.tiles():
            fills = {shape.fill for shape in view.scene.shapes if isinstance(shape, Text)}
            # Words within bars stand on these.
            assert any(contrast_ratio(fill, ground) >= 4.5 for fill in fills)
            outside = [shape.fill for shape in view.scene.shapes if isinstance(shape, Text) and shape.y < 40]
            assert all(contrast_ratio(fill, ground) >= 4.5 for fill in outside)

    def test_a_band_shows_what_it_says_above_its_tiles(self):
        composed = page()
        first, *others = composed.tiles()
        assert first.drawn.scene.texts()[0].text == "Where people go"
        assert all(view.y > first.y for view in others)
        assert [view.tile.id for view in page(says_it=False).tiles()] == ["c", "w"]

    def test_a_card_leaves_room_within_and_its_text_follows_its_fill(self):
        tiles = tuple(
            one.model_copy(update={"card": Card(fill="ink")}) for one in (CHART, TextTile(id="w", text="Words"))
        )
        composed = page(tiles=tiles)
        plain = {view.tile.id: view for view in page().tiles()}
        for view in composed.tiles()[1:]:
            assert view.card is not None and view.scene.width < plain[view.tile.id].scene.width
            assert view.scene.texts()[0].fill == "#ffffff"

    def test_the_manner_of_all_cards_is_changed_in_one_move(self):
        tiles = (CHART.model_copy(update={"card": Card()}),)
        report = ReportBody(title="Cards", bands=(Band(tiles=tiles),), cards=CardManner(fill="accent", padding=40))
        view = compose(report, {"t": report_table()}).tiles()[0]
        assert view.padding == 40 and view.scene.texts()[0].fill == "#ffffff"

    def test_grounds_and_cards_are_in_every_file_and_say_nothing(self):
        tiles = (CHART.model_copy(update={"card": Card(edge="second", line="ink", has_shadow=True)}),)
        composed = page(tiles=tiles, ground=Ground(colour="deep", to="accent", way="slope"), is_inset=True)
        drawn = page_to_svg(composed)
        assert "linearGradient" in drawn and drawn.count('aria-hidden="true"') == 2
        assert page_to_pdf(composed).startswith(b"%PDF")
