"""What is told in order: every kind in every look, typed and from a table, at every width, with awkward words."""

import datetime as dt
import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.factories import csv_table, report_table
from ypsil.core.document.model import Frame
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.drawing.colour import contrast_ratio, mix
from ypsil.core.drawing.contours import _commands
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Path, Rect, Text
from ypsil.core.render import compose
from ypsil.core.report import Band, ReportBody
from ypsil.core.style.grounds import Ground, on_ground
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles import KINDS, Context, ToldTile
from ypsil.core.tiles.told.circles import Circle, circles_for, lens_area, middle_of
from ypsil.core.tiles.told.entries import Entry, Feed, days_of
from ypsil.core.tiles.told.feeding import propose_feed
from ypsil.core.visuals import Box

TOLD = [kind for kind in KINDS.values() if issubclass(kind, ToldTile)]


def looks_of(kind):
    """Yield every look of a kind: all choices of the settings that change how it is laid out."""
    fields = kind.model_json_schema()["properties"]
    names = [name for name in ("look", "marked", "spacing", "stands", "meaning") if name in fields]
    for values in itertools.product(*(fields[name]["enum"] for name in names)):
        yield dict(zip(names, values, strict=True))


LOOKS = [(kind, look) for kind in TOLD for look in looks_of(kind)]
LOANS = """Branch,About,Since,Until,Loans,Sign
Old Mill,By the river,1998-03-01,2004-06-30,45210,line:book
Harbour Street,,2004-09-01,2010-01-31,38900,
Market Square,Next to the hall,2011-06-15,2020-12-31,21044,coloured:fox
"""
ENTRIES = [
    {"head": "Collect the slips", "text": "A box at each desk\nall week: 12", "figure": "1998", "sign": "line:inbox"},
    {"head": "Count by branch", "text": "Two people: 5", "figure": "2004-06"},
    {"head": "Tell the board", "figure": "2018 – 2019", "sign": "coloured:fox"},
]


def made(kind, **said):
    return kind(id="told1", **({"entries": ENTRIES} | said))


def drawn(tile, width, context=None):
    context = context or Context()
    height = tile.least_height(width, context)
    return tile.draws(Box(width, height), context), height


def extent(text):
    wide = text_width(text.text, text.font)
    left = text.x - {"start": 0, "middle": wide / 2, "end": wide}[text.anchor]
    return left, left + wide


def within(shape):
    if isinstance(shape, Text):
        return extent(shape)
    return (shape.x, shape.x + shape.width) if isinstance(shape, Rect) else None


@pytest.mark.parametrize(("kind", "look"), LOOKS)
@pytest.mark.parametrize("width", [328, 736])
def test_every_look_stays_in_its_width_and_says_all(kind, look, width):
    found, height = drawn(made(kind, **look), width)
    assert not found.problem and height > 20
    for shape in found.scene.shapes:
        ends = within(shape)
        assert ends is None or (ends[0] >= -1 and ends[1] <= width + 1), shape
        if isinstance(shape, Text):
            assert shape.y <= height + 1
    said = " ".join(text.text for text in found.scene.texts())
    for entry in ENTRIES[: 2 if look.get("look") in ("facing", "before and after", "do and don't") else 3]:
        assert all(word in said for word in entry["head"].split()), (entry["head"], said)
    assert "Collect the slips" in found.scene.description


@pytest.mark.parametrize(("kind", "look"), LOOKS)
def test_no_two_lines_of_text_lie_over_each_other(kind, look):
    for width in (328, 480, 736, 1100):
        texts = drawn(made(kind, **look), width)[0].scene.texts()
        for one, two in itertools.combinations(texts, 2):
            if one.text == "“" or two.text == "“":
                continue
            (a, b), (c, d) = extent(one), extent(two)
            meet = min(b, d) - max(a, c)
            over = min(one.y, two.y) - max(one.y - 0.6 * one.font.size, two.y - 0.6 * two.font.size)
            assert meet <= 1 or over <= 1, (width, one.text, two.text)


@pytest.mark.parametrize("kind", TOLD)
@settings(max_examples=8)
@given(
    entries=st.lists(
        st.builds(Entry, head=st.text(max_size=300), text=st.text(max_size=200), figure=st.text(max_size=60)),
        max_size=9,
    ),
    width=st.floats(min_value=30, max_value=1_500),
)
def test_whatever_is_typed_is_drawn(kind, entries, width):
    found, height = drawn(made(kind, entries=entries), width)
    assert math.isfinite(height)
    for shape in found.scene.shapes:
        if isinstance(shape, Text):
            assert math.isfinite(shape.x) and math.isfinite(shape.y)


@pytest.mark.parametrize("kind", TOLD)
def test_what_says_nothing_is_left_out_and_its_author_is_told(kind):
    empty = made(kind, entries=[{}, {}])
    assert empty.draws(Box(400, 100), Context()).scene.shapes == () and empty.hints()
    assert made(kind).hints() == ""


@pytest.mark.parametrize("kind", TOLD)
def test_a_table_gives_the_entries_in_its_order_and_they_follow_it(kind):
    table = report_table(csv_table(LOANS))
    feed = propose_feed(kind, "loans", table.columns)
    assert feed.head == "Branch"
    tile = made(kind, entries=(), feed=feed.model_copy(update={"by": "Loans", "descending": True, "most": 2}))
    context = Context(tables={"loans": table})
    told = tile.telling(context)
    assert [one.entry.head for one in told.told] == ["Old Mill", "Harbour Street"] and told.more == 1
    found = tile.draws(Box(700, tile.least_height(700, context)), context)
    assert "The table has 1 more row than is shown." in found.scene.hints
    assert [asked.table for asked in tile.questions()] == ["loans"]
    assert set(tile.questions()[0].question.columns()) >= {"Branch", "Loans"}


def test_a_feed_knows_amounts_dates_and_signs():
    table = report_table(csv_table(LOANS))
    context = Context(tables={"loans": table}, locale="en_GB")
    feed = Feed(table="loans", head="Branch", figure="Since", until="Until", sign="Sign", text="About", by="Since")
    first, _, third = made(KINDS["timeline"], entries=(), feed=feed).telling(context).told
    assert first.days == (dt.date(1998, 3, 1), dt.date(2004, 6, 30)) and first.is_period
    assert first.figure == "1 Mar 1998 – 30 Jun 2004" and third.entry.sign == "coloured:fox"
    amounts = Feed(table="loans", head="Branch", figure="Loans")
    assert made(KINDS["points"], entries=(), feed=amounts).telling(context).told[0].figure == "45,210"


@pytest.mark.parametrize("kind", TOLD)
def test_a_table_or_a_column_that_is_gone_is_said_in_words(kind):
    feed = Feed(table="loans", head="Branch", figure="No such column")
    tile = made(kind, entries=(), feed=feed)
    assert "no longer there" in tile.draws(Box(400, 100), Context()).problem
    context = Context(tables={"loans": report_table(csv_table(LOANS))})
    assert "No such column" in tile.draws(Box(400, 100), context).problem
    assert tile.least_height(400, context) == 0


def test_dates_are_heard_alone_and_as_periods():
    assert days_of("1998") == (dt.date(1998, 1, 1), dt.date(1998, 12, 31))
    assert days_of("2019-2022") == (dt.date(2019, 1, 1), dt.date(2022, 12, 31))
    assert days_of("Mar 2026 to May 2026") == (dt.date(2026, 3, 1), dt.date(2026, 5, 31))
    assert days_of("soon") is None and days_of("") is None


def test_true_distances_are_those_between_the_dates():
    entries = [{"head": str(year), "figure": str(year)} for year in (2000, 2001, 2011, 2021)]
    found, _ = drawn(made(KINDS["timeline"], entries=entries, spacing="true"), 900)
    dots = sorted(shape.x + shape.width / 2 for shape in found.scene.shapes if isinstance(shape, Rect))
    days = [(dt.date(year, 1, 1) - dt.date(2000, 1, 1)).days for year in (2000, 2001, 2011, 2021)]
    for one, two in itertools.pairwise(range(1, 4)):
        assert (dots[two] - dots[one]) / (dots[1] - dots[0]) == pytest.approx(
            (days[two] - days[one]) / days[1], rel=0.01
        )


def test_without_a_date_for_each_distances_are_even_and_that_is_said():
    entries = [{"head": "One", "figure": "2001"}, {"head": "Two", "figure": "some day"}]
    found, _ = drawn(made(KINDS["timeline"], entries=entries, spacing="true"), 900)
    assert "“Two” has no date" in found.scene.hints[0]


@pytest.mark.parametrize(("first", "second", "distance"), [(1, 1, 0.8), (2, 1, 1.7), (3, 2.5, 4), (1, 1, 1.99)])
def test_shared_areas_are_those_that_are_counted_on_a_raster(first, second, distance):
    step = 0.002
    xs, ys = np.meshgrid(np.arange(-first, first, step), np.arange(-first, first, step))
    inside = (np.hypot(xs, ys) < first) & (np.hypot(xs - distance, ys) < second)
    assert lens_area(first, second, distance) == pytest.approx(inside.sum() * step**2, rel=0.01, abs=0.003)


@given(
    st.lists(st.floats(min_value=1, max_value=1e6), min_size=2, max_size=2),
    st.floats(min_value=0.01, max_value=0.99),
)
def test_two_circles_are_true_to_their_amounts_and_to_what_they_share(amounts, part):
    shared = part * min(amounts)
    one, two = circles_for(amounts, {frozenset({0, 1}): shared}).circles
    assert [math.pi * one.radius**2, math.pi * two.radius**2] == pytest.approx(amounts)
    assert lens_area(one.radius, two.radius, math.hypot(two.x - one.x, two.y - one.y)) == pytest.approx(
        shared, rel=1e-3
    )


def test_three_circles_share_pairwise_what_is_said_or_it_is_said_that_they_cannot():
    pairs = {frozenset({0, 1}): 31, frozenset({0, 2}): 12, frozenset({1, 2}): 9}
    solved = circles_for([62, 81, 30], pairs)
    assert solved.problem == ""
    for key, amount in pairs.items():
        one, two = (solved.circles[place] for place in sorted(key))
        area = lens_area(one.radius, two.radius, math.hypot(one.x - two.x, one.y - two.y))
        assert area == pytest.approx(amount, rel=1e-3)
    assert "more than the smaller" in circles_for([10, 5], {frozenset({0, 1}): 7}).problem
    assert circles_for([100, 100, 100], {frozenset({0, 1}): 99, frozenset({0, 2}): 99, frozenset({1, 2}): 0}).problem


def test_a_figure_stands_in_the_part_that_it_counts():
    circles = [Circle(0, 0, 2), Circle(2.5, 0, 2)]
    x, y = middle_of(circles, frozenset({0, 1}))
    assert all(math.hypot(x - one.x, y - one.y) < one.radius for one in circles)
    assert middle_of([Circle(0, 0, 1), Circle(5, 0, 1)], frozenset({0, 1})) is None


def test_widths_of_narrowing_levels_are_true():
    entries = [{"head": "Saw it", "figure": "4,000"}, {"head": "Came", "figure": "1,000"}]
    found, _ = drawn(made(KINDS["levels"], entries=entries, look="narrowing"), 736)
    tops = [shape.d.split("L")[:2] for shape in found.scene.shapes if isinstance(shape, Path) and shape.fill != "none"]
    wide = [float(right.split()[0]) - float(left[1:].split()[0]) for left, right in tops]
    assert wide[1] / wide[0] == pytest.approx(0.25, rel=0.01)


@pytest.mark.parametrize(("kind", "look"), LOOKS)
@pytest.mark.parametrize("paper", ["#ffffff", "#22212b", "#f4d35e"])
def test_words_are_read_on_what_they_stand_on(kind, look, paper):
    """4.5:1 (WCAG 2.2, 1.4.3) against the plain fills behind the middle of each line; 3:1 for type of 24 px or bold."""
    style = on_ground(HouseStyle(), Ground(colour=paper))
    for colours in ("one", "each", "shades"):
        tile = made(kind, **look, **({"colours": colours} if kind.__name__ != "CalloutTile" else {}))
        shapes = drawn(tile, 736, Context(style=style))[0].scene.shapes
        for place, text in enumerate(shapes):
            if not isinstance(text, Text) or text.text in ("“", "?"):
                continue
            left, right = extent(text)
            x, y = (left + right) / 2, text.y - text.font.size * 0.35
            ground = style.paper
            for shape in shapes[:place]:
                if _holds(shape, x, y):
                    ground = mix(ground, shape.fill, shape.opacity)
            least = 3 if text.font.size >= 24 or (text.font.weight == 700 and text.font.size >= 18.66) else 4.5
            assert contrast_ratio(text.fill, ground) >= least - 0.01, (text.text, text.fill, ground)


def _holds(shape, x, y):
    """Tell whether a point is in a filled shape, its curves taken as the lines between their ends."""
    if isinstance(shape, Rect):
        return shape.x <= x <= shape.x + shape.width and shape.y <= y <= shape.y + shape.height
    if not isinstance(shape, Path) or shape.fill == "none":
        return False
    points = [points[-1] for _, points in _commands(shape.d) if points]
    x, y, inside = x - shape.x, y - shape.y, False
    for (x1, y1), (x2, y2) in itertools.pairwise([*points, points[0]]):
        if (y1 > y) != (y2 > y) and x < (x2 - x1) * (y - y1) / (y2 - y1) + x1:
            inside = not inside
    return inside


@pytest.mark.parametrize("name", ["tall", "a5", "slide-16x9"])
def test_no_type_is_smaller_than_the_page_allows(name):
    page = PAGE_FORMATS[name].page
    least = 12 / 17 * page.text_size
    for kind in TOLD:
        tile = made(kind, size="smaller", place=Frame(column=0, row=0, width=page.columns, height=4))
        view = compose(ReportBody(title="T", page=page, bands=(Band(tiles=(tile,)),)), {}).tiles()[0]
        assert view.drawn.scene.texts() and min(text.font.size for text in view.drawn.scene.texts()) >= least - 0.01


def test_a_tile_grows_with_what_is_typed_into_it():
    short = made(KINDS["steps"], place=Frame(column=0, row=0, width=24, height=4))
    long = made(KINDS["steps"], entries=[*ENTRIES, {"head": "wordy " * 50}], place=short.place)
    rows = [compose(ReportBody(title="T", bands=(Band(tiles=(one,)),)), {}).bands[0].rows for one in (short, long)]
    assert rows[1] > rows[0] > 4


HEBREW = [
    {"head": "לאסוף", "text": "בכל סניף", "sign": "line:inbox", "figure": "1998"},
    {"head": "לספור", "figure": "2004"},
    {"head": "לספר", "figure": "2010"},
]


@pytest.mark.parametrize(("kind", "look"), LOOKS)
def test_what_runs_to_the_left_is_laid_out_from_the_right(kind, look):
    found, _ = drawn(made(kind, entries=HEBREW, **look), 736)
    same, _ = drawn(made(kind, entries=[one | {"head": one["head"] and "x"} for one in HEBREW], **look), 736)
    for text in found.scene.texts():
        left, right = extent(text)
        assert left >= -1 and right <= 737, text
    assert len(found.scene.shapes) > 0 and same.scene.shapes != found.scene.shapes


def test_steps_begin_at_the_right_and_their_signs_are_not_turned_over():
    shapes = drawn(made(KINDS["steps"], entries=HEBREW), 736)[0].scene.shapes
    nodes = [shape for shape in shapes if isinstance(shape, Rect)]
    assert [node.x for node in nodes] == sorted((node.x for node in nodes), reverse=True)
    signs = [shape for shape in shapes if isinstance(shape, Path) and shape.side]
    first = nodes[0]
    assert signs and all(shape.x == pytest.approx(first.x + (first.width - shape.side) / 2) for shape in signs)
    plain = [
        shape.d for shape in drawn(made(KINDS["steps"]), 736)[0].scene.shapes if isinstance(shape, Path) and shape.side
    ]
    assert signs[0].d in plain


def test_rows_that_go_wrong_do_not_take_the_page_with_them(monkeypatch):
    monkeypatch.setattr("ypsil.core.tiles.told.base.fed", lambda feed, context: 1 / 0)
    tile = made(KINDS["steps"], entries=(), feed=Feed(table="loans", head="Branch"))
    found = tile.draws(Box(400, 100), Context())
    assert "cannot be told" in found.problem and tile.least_height(400, Context()) == 0
