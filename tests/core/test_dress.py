"""A house style worn by many: what it is, where a report departs from it, and what is done to its colours."""

import hashlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_palettes import png
from tests.core.test_templates import fitting, made
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.oklch import to_oklch
from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.drawing.scene import Line, Path, Rect
from ypsil.core.errors import EditRefused
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.report.document import Band
from ypsil.core.report.dress import Dress, departures, dress_of, worn
from ypsil.core.style.cards import CardManner
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.manners import ChartManner
from ypsil.core.style.palettes import SHIPPED
from ypsil.core.tiles import Context
from ypsil.core.tiles.sources import SourcesTile

TABLE = fitting("month-in-figures")
PLAIN = ReportBody(title="Ours")


def restyled(body=PLAIN, **said):
    return parse_edit({"type": "restyle", **said}).apply(body)


def test_a_report_in_a_dress_departs_in_nothing_and_keeps_all_that_it_says():
    before = made("meeting").body
    dress = Dress(name="House", style=HouseStyle().dressed("night"), cards=CardManner(corner=3), locale="de")
    after = worn(before, dress)
    assert departures(after, dress) == [] and dress_of(after, "House") == dress
    assert (after.bands, after.page, after.title) == (before.bands, before.page, before.title)


@pytest.mark.parametrize(
    ("said", "departs"),
    [
        ({"palette": "night"}, ["its colours"]),
        ({"heading_family": "Fraunces"}, ["the type of its headings"]),
        ({"body_family": "Rubik"}, ["the type of its text"]),
        ({"heading_size": 1.2, "body_size": 1.1}, ["the type of its headings", "the type of its text"]),
        ({"charts": {"corner": 4}}, ["how its charts are drawn"]),
        ({"logo": f"picture:{'a' * 64}", "logo_room": 0.25}, ["its logo"]),
        ({"palette": "night", "charts": {"grid": "none"}}, ["its colours", "how its charts are drawn"]),
    ],
)
def test_where_it_departs_is_said(said, departs):
    assert departures(restyled(**said), dress_of(PLAIN, "House")) == departs


def test_type_is_as_large_as_the_style_says_and_never_too_small_to_read():
    context = Context(style=HouseStyle(heading_size=1.2, body_size=0.9))
    assert context.font("title").size == pytest.approx(1.2 * Context().font("title").size)
    for named in PAGE_FORMATS.values():
        small = Context(style=HouseStyle(body_size=0.9), page=named.page)
        assert min(small.font(role).size for role in ("body", "note", "label")) >= 12 / 17 * named.page.text_size


def test_what_holds_for_the_whole_report_belongs_to_it():
    body = PLAIN.model_copy(update={"locale": "fr", "cards": CardManner(corner=1)})
    said = ["how its cards look", "its language and how numbers are written"]
    assert departures(body, dress_of(PLAIN, "House")) == said


def test_styles_of_earlier_documents_keep_their_names():
    style = HouseStyle(ink="#112233")
    before = style.model_dump_json(exclude={"charts", "logo", "logo_room", "heading_size", "body_size"})
    assert style.digest() == hashlib.sha256(before.encode()).hexdigest()
    assert style.model_copy(update={"charts": ChartManner(corner=2)}).digest() != style.digest()


@pytest.mark.parametrize("palette", SHIPPED)
@pytest.mark.parametrize("what", ["series", "all"])
def test_shuffled_roles_can_be_read_and_others_come_each_time(palette, what):
    body = restyled(palette=palette)
    seen = [body.style.accent]
    for _ in range(4):
        body = restyled(body, shuffle=what)
        style = body.style
        assert style.accent == style.palette[0]
        for colour in (style.ink, style.muted, style.accent, *style.palette):
            assert contrast_ratio(colour, style.paper) >= 4.49
        seen.append(style.accent)
    assert len(set(seen)) >= 3
    if what == "series":
        assert style.paper == SHIPPED[palette].paper and set(style.palette) == set(
            restyled(palette=palette).style.palette
        )


@given(st.floats(-180, 180), st.floats(-0.1, 0.1), st.floats(-0.05, 0.05))
def test_colours_move_together_and_stay_readable(hue, lightness, chroma):
    style = HouseStyle().moved(hue, lightness, chroma)
    assert all(contrast_ratio(colour, style.paper) >= 4.49 for colour in (style.ink, style.accent, *style.palette))


def test_a_turn_of_the_hue_turns_all_of_them():
    before, after = HouseStyle(), restyled(move={"hue": 60}).style
    for one, other in zip(before.palette, after.palette, strict=True):
        if to_oklch(one)[1] > 0.05:
            turned = (to_oklch(other)[2] - to_oklch(one)[2]) % 360
            assert 40 <= turned <= 80, (one, other)
    assert to_oklch(restyled(move={"chroma": -0.2}).style.accent)[1] < 0.02


@pytest.mark.parametrize(
    "said",
    [
        {"charts": {"corner": 40}}, {"charts": {"grid": "thick"}}, {"logo": "a.png"}, {"logo_room": 7},
        {"colours": {"ink": "blue"}}, {"colours": {"palette": []}}, {"heading_size": 3}, {"body_size": 0.5},
    ],
)  # fmt: skip
def test_what_cannot_be_worn_is_refused(said):
    with pytest.raises(EditRefused):
        restyled(**said)


def shapes(charts):
    body = made("month-in-figures").body
    style = body.style.model_copy(update={"charts": charts})
    page = compose(body.model_copy(update={"style": style}), {"t": TABLE.table})
    return [shape for view in page.tiles() for shape in view.scene.shapes]


def only_bars(some):
    return [shape for shape in some if isinstance(shape, Rect) and shape.title]


def test_charts_follow_the_manner_of_the_style():
    plain, ours = shapes(ChartManner()), shapes(ChartManner(grid="none", corner=6, line=2))
    square = [place for place, shape in enumerate(only_bars(plain)) if not shape.radius]
    assert any(0 < only_bars(ours)[place].radius <= 6 for place in square)
    grid = [sum(isinstance(shape, Line) for shape in some) for some in (ours, plain)]
    assert grid[0] < grid[1]
    widths = [{shape.stroke_width for shape in some if isinstance(shape, Path)} for some in (ours, plain)]
    assert {2.5, 2.0} <= widths[1] and {5.0, 4.0} <= widths[0]


def test_the_logo_of_the_style_stands_by_the_sources_with_its_room():
    picture = read_picture(png("#cc3366"), "logo.png")
    name = f"picture:{'a' * 64}"
    tile = SourcesTile(id="s1", made_by="Ours")
    body = PLAIN.model_copy(update={"bands": (Band(id="b1", tiles=(tile,)),)})
    for room in (0.0, 0.5):
        dressed = restyled(body, logo=name, logo_room=room)
        assert dressed.pictures() == [name]
        (view,) = compose(dressed, {}, pictures={name: picture}).tiles()
        logo = next(shape for shape in view.scene.shapes if isinstance(shape, Path) and shape.motif is not None)
        assert logo.x == pytest.approx(44 * room)
        assert view.scene.height >= 44 * (1 + 2 * room)
    own = tile.model_copy(update={"logo": f"picture:{'b' * 64}"})
    assert restyled(body.model_copy(update={"bands": (Band(id="b1", tiles=(own,)),)}), logo=name).pictures() == [
        own.logo
    ]
    assert restyled(logo=name).pictures() == [], "where nothing shows it, it is not given to readers"
