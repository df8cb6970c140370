"""Layout: from frames to rectangles, growth of text, groups, tiles over others, the ends of pages."""

import io
from itertools import combinations, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError
from pypdf import PdfReader

from tests.factories import report_table, total
from ypsil.core.document import Frame, PageFormat, differences
from ypsil.core.document.grid import overlap
from ypsil.core.export import page_to_pdf, page_to_svg
from ypsil.core.layout import BandItems, Item, lay_out
from ypsil.core.render import compose
from ypsil.core.report import Band, Group, ReportBody, SourcesTile, TextTile, VisualTile, parse_edit
from ypsil.core.report.edits import ChangeTile, RemoveTile
from ypsil.core.report.nodes import document_of, report_of

OPEN = PageFormat()
# DIN A4 at 96 px an inch, upright.
A4 = PageFormat(width=794, height=1123, columns=12, margins={"top": 48, "right": 48, "bottom": 48, "left": 48})


def frame(column=0, row=0, width=6, height=10, layer=0):
    return Frame(column=column, row=row, width=width, height=height, layer=layer)


frames = st.builds(
    frame, st.integers(0, 40), st.integers(0, 60), st.integers(1, 40), st.integers(1, 90), st.sampled_from([0, 0, 0, 1])
)
bands = st.lists(st.lists(st.tuples(frames, st.floats(0, 900)), max_size=6), max_size=5)


def laid(found, page):
    made = [
        BandItems(f"b{row}", tuple(Item(f"t{row}{place}", one, high) for place, (one, high) in enumerate(tiles)))
        for row, tiles in enumerate(found)
    ]
    return made, lay_out(made, page)


@given(bands, st.sampled_from([OPEN, A4, PageFormat(columns=6, width=400, height=700, row=10)]))
def test_nothing_overlaps_or_leaves_the_page_and_nothing_is_lost(found, page):
    made, layout = laid(found, page)
    assert set(layout.placed) == {item.id for band in made for item in band.items}
    for band, wanted in zip(layout.bands, made, strict=True):
        items = wanted.items
        flat = [layout.placed[item.id] for item in items if not item.frame.layer]
        assert not any(overlap(one.frame, other.frame) for one, other in combinations(flat, 2))
        for item in items:
            at = layout.placed[item.id].rectangle
            assert page.margins.left <= at.x + 0.01
            assert at.x + at.width <= page.width - page.margins.right + 0.01
            assert at.height >= item.least_height
            assert at.y >= band.y and at.y + at.height <= band.y + band.height + 0.01
    feet = [(band.y, band.y + band.height) for band in layout.bands]
    assert all(after[0] >= before[1] - 0.01 for before, after in pairwise(feet))
    assert layout.height >= max([foot for _, foot in feet], default=0) - 0.01


@given(bands)
def test_no_tile_stands_over_the_end_of_a_page_unless_it_is_longer_than_one(found):
    made, layout = laid(found, A4)
    for wanted in made:
        for item in wanted.items:
            at = layout.placed[item.id].rectangle
            page = next(one for one in layout.pages if one.y <= at.y < one.y + one.height)
            if not item.frame.layer:
                assert at.y + at.height <= page.y + page.height + 0.01
                is_lengthened = page.height > A4.height + 0.01
                assert is_lengthened or at.y + at.height <= page.y + A4.height - A4.margins.bottom + 0.01


def test_a_tile_is_where_its_frame_says():
    layout = lay_out([BandItems("b", (Item("t", frame(6, 2, 12, 5)),))], OPEN)
    at = layout.placed["t"].rectangle
    # 24 columns of 736 px in all with 12 px between them, margins of 32 px, rows of 8 px, 3 of them above.
    column = (736 - 23 * 12) / 24
    assert (at.x, at.y, at.width, at.height) == pytest.approx(
        (32 + 6 * (column + 12), 5 * 8, 12 * (column + 12) - 12, 40)
    )
    assert (layout.bands[0].rows, layout.height) == (2 + 5 + 6, 13 * 8)


def test_text_grows_and_pushes_down_what_is_below_but_not_what_is_beside_or_over_it():
    items = [
        Item("text", frame(0, 0, 6, 4), least_height=100),
        Item("below", frame(0, 7, 6, 4)),
        Item("beside", frame(8, 0, 6, 4)),
        Item("over", frame(2, 6, 3, 3, layer=2)),
    ]
    placed = lay_out([BandItems("b", tuple(items))], OPEN).placed
    assert placed["text"].frame.height == 13
    assert [placed[name].frame.row for name in ("below", "beside", "over")] == [16, 0, 6]
    assert placed["over"].frame.layer == 2


def test_what_is_in_a_group_lies_by_the_groups_origin_and_makes_it_grow():
    inner = (Item("a", frame(1, 2, 4, 5)), Item("b", frame(1, 9, 4, 5), least_height=80, below=()))
    group = Item("g", frame(10, 4, 6, 8, layer=1), below=inner)
    placed = lay_out([BandItems("b", (group,))], OPEN).placed
    assert (placed["a"].frame.column, placed["a"].frame.row, placed["a"].frame.layer) == (11, 6, 1)
    assert placed["g"].frame.height == 9 + 10
    assert placed["b"].frame.row + placed["b"].frame.height == placed["g"].frame.row + placed["g"].frame.height


def test_what_is_wider_than_the_page_becomes_as_wide_as_that():
    placed = lay_out(
        [
            BandItems(
                "b",
                (
                    Item("t", frame(20, 0, 12, 4)),
                    Item("u", frame(0, 20, 24, 4)),
                ),
            )
        ],
        A4,
    ).placed
    assert [(placed[name].frame.column, placed[name].frame.width) for name in "tu"] == [(0, 12), (0, 12)]


def test_a_band_that_does_not_fit_starts_the_next_page_and_says_what_is_left_above_it():
    rows = (A4.height - 96) / A4.row
    high = int(rows * 0.6)
    layout = lay_out([BandItems(name, (Item(name + "t", frame(height=high)),)) for name in ("b1", "b2")], A4)
    assert [band.page for band in layout.bands] == [0, 1]
    assert layout.bands[1].y == A4.height + 48
    assert layout.bands[1].above == layout.bands[1].y - layout.bands[0].height - 48
    assert [(page.y, page.height) for page in layout.pages] == [(0, 1123), (1123, 1123)]


def test_a_page_is_as_long_as_what_cannot_be_parted():
    layout = lay_out(
        [BandItems("b1", (Item("t", frame(height=200)),)), BandItems("b2", (Item("u", frame(height=4)),))], A4
    )
    assert layout.pages[0].height == pytest.approx(48 + (200 + 6) * 8 + 48)
    assert [band.page for band in layout.bands] == [0, 1]


def test_a_page_must_have_room():
    with pytest.raises(ValidationError, match="no room for the columns"):
        PageFormat(width=300, columns=24)
    with pytest.raises(ValidationError, match="no room on the page"):
        PageFormat(height=120, margins={"top": 60, "bottom": 60})


CHART = VisualTile.model_validate(
    {"id": "c1", "table": "t", "question": total(per=[{"column": "Branch"}]), "visual": "bar", "title": "By branch"}
)
GROUP = Group(
    id="g1",
    place=frame(0, 10, 12, 20),
    tiles=(TextTile(id="h1", role="note", text="Within", place=frame(0, 0, 4, 4)), CHART),
)


def report(page=OPEN, **more):
    title = TextTile(id="x1", role="title", text="Visits", place=frame(0, 0, 12, 8))
    over = TextTile(id="o1", role="note", text="Over it", place=frame(2, 12, 4, 4, layer=3))
    top, foot = Band(id="b1", tiles=(title, GROUP, over)), Band(id="b2", tiles=(SourcesTile(id="s1"),))
    return ReportBody(title="Visits", page=page, bands=(top, foot), **more)


def test_groups_and_layers_are_kept_in_the_document_and_drawn():
    document = document_of(report())
    assert (document.nodes["c1"].parent, document.nodes["g1"].kind, document.nodes["o1"].frame.layer) == (
        "g1",
        "group",
        3,
    )
    read = report_of(document, report().style)
    assert document_of(read, document, read).as_json() == document.as_json()
    page = compose(read, {"t": report_table()})
    assert page.problems() == []
    assert [view.tile.id for view in page.tiles()] == ["x1", "h1", "c1", "o1", "s1"]
    assert [view.tile.id for view in page.painted()][-1] == "o1"
    assert page.tiles()[1].place.row == 10


def test_edits_reach_into_groups():
    document = document_of(report())
    read = report_of(document, report().style)
    changed = ChangeTile(tile="c1", changes={"title": "Other"}).apply(read)
    batch = differences(document, document_of(changed, document, read))
    assert [(one.type, one.id, one.path) for one in batch.changes] == [("set", "c1", ("title",))]
    without = document_of(RemoveTile(tile="g1").apply(read), document, read)
    assert set(document.nodes) - set(without.nodes) == {"g1", "h1", "c1"}
    copied = parse_edit({"type": "duplicate_tiles", "tiles": ["g1"]}).apply(read)
    assert len({one.id for one in copied.everything()}) == len(list(read.everything())) + 3


def test_the_filters_of_a_page_reach_every_table_that_has_their_column():
    only = {"column": "Branch", "test": "in", "values": ["Market Square"]}
    none = {"column": "Planet", "test": "in", "values": ["Mars"]}
    table = report_table()
    branches = table.answer(CHART.question).frame.height
    page = compose(report(filters=(only, none)), {"t": table})
    assert page.problems() == []
    filtered = next(view.drawn.answer for view in page.tiles() if view.tile.id == "c1")
    assert filtered.frame.height == 1 < branches


def test_type_follows_the_page_also_in_drawings():
    small = PageFormat(text_size=8.5)
    texts = [
        {
            text.text: text.font.size
            for view in compose(report(page), {"t": report_table()}).tiles()
            for text in view.scene.texts()
        }
        for page in (OPEN, small)
    ]
    for said in ("Visits", "By branch", "Within"):
        assert texts[1][said] == pytest.approx(texts[0][said] / 2)
    svg = page_to_svg(compose(report(small), {"t": report_table()}))
    assert 'font-size="8.5"' in svg


def test_a_printed_format_makes_a_page_of_a_pdf_for_each_of_its_pages():
    tall = [TextTile(id=f"p{place}", text=f"Part {place}", place=frame(height=50)) for place in range(4)]
    made = ReportBody(title="Parts", page=A4, bands=tuple(Band(tiles=(tile,)) for tile in tall))
    pages = PdfReader(io.BytesIO(page_to_pdf(compose(made, {})))).pages
    assert [page.extract_text().split() for page in pages] == [["Part", "0", "Part", "1"], ["Part", "2", "Part", "3"]]
    # ISO 216: A4 is 210 mm by 297 mm.
    assert [float(page.mediabox.width) * 25.4 / 72 for page in pages] == pytest.approx([210] * 2, abs=0.2)
    assert [float(page.mediabox.height) * 25.4 / 72 for page in pages] == pytest.approx([297] * 2, abs=0.2)
