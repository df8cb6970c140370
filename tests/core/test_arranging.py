"""Where tiles stand: lined up, tidied, moved, resized, grouped, and on another page. Frames are made by chance."""

from itertools import combinations, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsil.core.document import Frame, PageFormat
from ypsil.core.document.grid import overlap
from ypsil.core.document.page_formats import PAGE_FORMATS, name_of
from ypsil.core.errors import EditRefused
from ypsil.core.layout import BandItems, Item, lay_out
from ypsil.core.layout.arrange import arrange, extent_across, extent_down
from ypsil.core.layout.reflow import reflow
from ypsil.core.layout.tidy import Thing, tidy
from ypsil.core.report import Band, Group, ReportBody, TextTile, parse_edit

PAGE = PageFormat()


def at(column=0, row=0, width=6, height=10, layer=0):
    return Frame(column=column, row=row, width=width, height=height, layer=layer)


@st.composite
def frames_on(draw, columns=24, most=9):
    found = []
    for _ in range(draw(st.integers(1, most))):
        width = draw(st.integers(1, columns))
        column = draw(st.integers(0, columns - width))
        layer = draw(st.sampled_from([0, 0, 0, 0, 2]))
        found.append(at(column, draw(st.integers(0, 60)), width, draw(st.integers(1, 50)), layer))
    return found


def rows_of(cells):
    """A text that takes so many cells, whatever its width."""
    return lambda columns: -(-cells // columns)


class TestTidy:
    @given(frames_on(), st.lists(st.booleans(), min_size=9, max_size=9))
    def test_nothing_overlaps_leaves_the_band_or_is_lost(self, frames, texts):
        found = tidy(
            [Thing(one, rows_of(9) if text else None) for one, text in zip(frames, texts[: len(frames)], strict=True)],
            PAGE,
        )
        assert len(found) == len(frames)
        flat = [one for one in found if not one.layer]
        assert not any(overlap(one, other) for one, other in combinations(flat, 2))
        assert all(one.column >= 0 and one.column + one.width <= 24 and one.row >= 0 for one in found)
        assert [one for one in found if one.layer] == [one for one in frames if one.layer]

    @given(frames_on())
    def test_what_is_tidy_stays_so(self, frames):
        once = tidy([Thing(one) for one in frames], PAGE)
        twice = tidy([Thing(one) for one in once], PAGE)
        flat = [one for one in twice if not one.layer]
        assert not any(overlap(one, other) for one, other in combinations(flat, 2))
        assert max(one.row + one.height for one in twice) <= max(one.row + one.height for one in once)

    @pytest.mark.parametrize(
        ("before", "after"),
        [
            # Three figures put there by eye become thirds with level tops and feet.
            ([at(0, 2, 7, 18), at(9, 0, 6, 20), at(16, 1, 7, 19)], [(0, 0, 8, 20), (8, 0, 8, 20), (16, 0, 8, 20)]),
            # A chart beside two figures, one over the other, is twice as wide as they.
            (
                [at(0, 0, 15, 41), at(16, 1, 7, 18), at(16, 22, 7, 18)],
                [(0, 0, 16, 41), (16, 0, 8, 18), (16, 21, 8, 20)],
            ),
            # In a row the largest comes first.
            ([at(0, 0, 8, 20), at(8, 0, 16, 20)], [(16, 0, 8, 20), (0, 0, 16, 20)]),
            # Five have equal gaps between them, though 24 columns cannot be shared out evenly.
            ([at(5 * n, 0, 4, 9) for n in range(5)], [(5 * n, 0, 4, 9) for n in range(5)]),
            # What stands alone keeps its share of the row, and the side that it stands at.
            ([at(13, 4, 11, 12)], [(12, 0, 12, 12)]),
        ],
    )
    def test_as_people_mean_it(self, before, after):
        found = tidy([Thing(one) for one in before], PAGE)
        assert [(one.column, one.row, one.width, one.height) for one in found] == after

    def test_text_is_never_made_higher_to_match(self):
        found = tidy([Thing(at(0, 0, 12, 30), rows_of(72)), Thing(at(12, 0, 12, 30))], PAGE)
        assert [one.height for one in found] == [6, 30]

    def test_a_text_takes_the_rows_of_its_new_width(self):
        frames = [at(0, 0, 4, 40), at(12, 0, 12, 30)]
        wide = tidy([Thing(frames[0], rows_of(96)), Thing(frames[1])], PAGE)[0]
        assert wide.width * wide.height == 96


class TestLiningUp:
    @given(frames_on(most=6), st.sampled_from(["left", "centre", "right", "top", "middle", "foot"]))
    def test_edges_and_middles_are_the_same_to_a_hundredth_of_a_px(self, frames, way):
        found = arrange(frames, way, PAGE)
        measure = extent_across if way in ("left", "centre", "right") else extent_down
        extents = [measure(one, PAGE) for one in found]
        place = {"left": 0, "top": 0, "centre": 0.5, "middle": 0.5, "right": 1, "foot": 1}[way]
        lines = [one.start + place * one.length for one in extents]
        assert max(lines) - min(lines) < 0.02
        assert [(one.width, one.height) for one in found] == [(one.width, one.height) for one in frames]

    @given(frames_on(most=6), st.sampled_from(["across", "down"]))
    def test_spread_gaps_are_alike_and_the_room_is_as_before(self, frames, way):
        measure = extent_across if way == "across" else extent_down
        before = [measure(one, PAGE) for one in frames]
        found = [measure(one, PAGE) for one in arrange(frames, way, PAGE)]
        assert min(one.start for one in found) == pytest.approx(min(one.start for one in before), abs=0.02)
        assert max(one.end for one in found) <= max(one.end for one in before) + 0.02
        order = sorted(range(len(before)), key=lambda place: (before[place].start, place))
        if sum(one.length for one in before) > max(one.end for one in before) - min(one.start for one in before):
            assert found == before
            return
        gaps = [found[after].start - found[one].end for one, after in pairwise(order)]
        assert not gaps or max(gaps) - min(gaps) < 0.05

    def test_sizes_go_by_the_first(self):
        found = arrange([at(0, 0, 5, 8), at(20, 0, 4, 3)], "same_size", PAGE)
        assert [(one.column, one.width, one.height) for one in found] == [(0, 5, 8), (19, 5, 8)]


class TestOtherPages:
    @given(st.lists(frames_on(), min_size=1, max_size=3), st.sampled_from(sorted(PAGE_FORMATS)))
    def test_there_and_back_everything_is_there_in_the_same_order_and_nothing_overlaps(self, bands, name):
        there = PAGE_FORMATS[name].page
        for frames in bands:
            moved = reflow(frames, PAGE, there)
            back = reflow(moved, there, PAGE)
            assert len(moved) == len(back) == len(frames)
            for some, page in ((moved, there), (back, PAGE)):
                assert all(one.column + one.width <= page.columns for one in some)
                items = tuple(Item(str(place), one) for place, one in enumerate(some))
                placed = lay_out([BandItems("b", items)], page).placed
                flat = [placed[item.id].frame for item in items if not item.frame.layer]
                assert not any(overlap(one, other) for one, other in combinations(flat, 2))

    def test_the_smallest_type_can_be_read_on_every_format(self):
        # 12 px of 17 is the least that drawings are labelled with; 8 pt is 10.67 px (CSS Values and Units 4, 6.2).
        for one in PAGE_FORMATS.values():
            least = 12 * one.page.text_size / 17
            assert least >= (8 * 96 / 72 if one.group == "Printed page" else 12) - 1e-9

    def test_sizes_of_paper(self):
        # ISO 216 and ANSI/ASME Y14.1, at 96 px an inch.
        inches = {name: PAGE_FORMATS[name].page for name in ("a4", "a3-across", "letter", "slide-4x3")}
        sizes = {name: (round(page.width / 96, 2), round(page.height / 96, 2)) for name, page in inches.items()}
        assert sizes == {"a4": (8.27, 11.7), "a3-across": (16.53, 11.7), "letter": (8.5, 11.0), "slide-4x3": (10, 7.5)}
        assert name_of(PAGE_FORMATS["a5"].page) == "a5"


def text(name, frame, **more):
    return TextTile(id=name, text=name, place=frame, **more)


@pytest.fixture
def report():
    return ReportBody(
        title="Bench",
        bands=(
            Band(id="b1", tiles=(text("a", at(0, 0)), text("b", at(6, 0)), text("c", at(12, 0)))),
            Band(id="b2", tiles=(text("d", at(0, 0)),)),
        ),
    )


def after(report, **edit):
    return parse_edit(edit).apply(report)


def places(report, band="b1"):
    return {tile.id: (tile.place.column, tile.place.row) for tile in report.band(band).tiles}


class TestEdits:
    def test_several_move_together_and_stop_together_at_the_edge(self, report):
        moved = after(report, type="move_tiles", tiles=["a", "b"], columns=20, rows=30)
        assert places(moved) == {"c": (12, 0), "a": (12, 30), "b": (18, 30)}

    def test_px_beside_the_grid_are_kept_and_come_together(self, report):
        moved = after(report, type="move_tiles", tiles=["a"], px=[1, -0.5])
        moved = after(moved, type="move_tiles", tiles=["a"], px=[1, 0.5])
        place = moved.tile("a").place
        assert (place.column, place.dx, place.dy) == (0, 2, 0)

    def test_into_another_band_at_its_rows_and_in_its_reading_order(self, report):
        moved = after(report, type="move_tiles", tiles=["b", "c"], rows=4, band="b2")
        assert list(places(moved, "b2")) == ["d", "b", "c"]
        assert places(moved, "b2")["c"] == (12, 4) and list(places(moved)) == ["a"]

    def test_moves_start_from_where_texts_that_grew_have_pushed_things(self, report):
        long = after(report, type="change_tile", tile="a", changes={"text": "word " * 120})
        long = after(
            long,
            type="add_tile",
            band="b1",
            tile={"type": "text", "id": "z", "text": "z", "place": at(0, 12).model_dump()},
        )
        moved = after(long, type="move_tiles", tiles=["z"], rows=1)
        assert moved.tile("z").place.row > 30

    def test_resizing_keeps_a_column_and_a_row_and_stays_on_the_page(self, report):
        sized = after(report, type="resize_tiles", tiles=["c"], right=40, left=-3, foot=-90)
        place = sized.tile("c").place
        assert (place.column, place.width, place.row, place.height) == (9, 15, 0, 1)

    def test_a_group_moves_resizes_and_comes_apart_again(self, report):
        grouped = after(report, type="group_tiles", tiles=["a", "b"], id="g")
        group = grouped.tile("g")
        assert isinstance(group, Group) and (group.place.width, group.place.height) == (12, 10)
        wider = after(grouped, type="resize_tiles", tiles=["g"], right=12)
        assert [one.place.width for one in wider.tile("g").tiles] == [12, 12]
        apart = after(after(grouped, type="move_tiles", tiles=["g"], rows=5), type="ungroup_tiles", tile="g")
        assert places(apart) == {"a": (0, 5), "b": (6, 5), "c": (12, 0)}
        emptied = after(grouped, type="remove_tiles", tiles=["a", "b"])
        assert emptied.tile("g") is None

    def test_a_group_within_a_group_comes_apart_where_it_is(self, report):
        outer = after(
            after(report, type="group_tiles", tiles=["a", "b"], id="g"), type="group_tiles", tiles=["g", "c"], id="o"
        )
        apart = after(after(outer, type="ungroup_tiles", tile="g"), type="ungroup_tiles", tile="o")
        assert places(apart) == places(report)

    def test_tidied_tiles_make_room_for_what_is_locked(self, report):
        locked = after(report, type="change_tiles", tiles=["c"], changes={"is_locked": True})
        tidied = after(locked, type="tidy_band", band="b1")
        assert tidied.tile("c").place == report.tile("c").place
        assert not any(overlap(one.place, other.place) for one, other in combinations(tidied.band("b1").tiles, 2))

    def test_what_is_locked_stays_until_it_is_unlocked(self, report):
        locked = after(report, type="change_tiles", tiles=["a"], changes={"is_locked": True})
        for edit in ({"type": "move_tiles", "rows": 1}, {"type": "remove_tiles"}, {"type": "resize_tiles", "foot": 1}):
            with pytest.raises(EditRefused, match="is locked; unlock it first"):
                after(locked, tiles=["a", "b"], **edit)
        tidied = after(locked, type="tidy_band", band="b1")
        assert tidied.tile("a").place == at(0, 0)

    def test_copies_keep_how_they_stand_to_each_other_and_have_names_of_their_own(self, report):
        tiles = [one.model_dump() for one in (report.tile("a"), report.tile("c"))]
        pasted = after(report, type="paste_tiles", band="b2", tiles=tiles)
        columns = [one.place.column for one in pasted.band("b2").tiles]
        assert sorted(columns) == [0, 6, 18] and len({one.id for one in pasted.everything()}) == 6
        wide = [text("w", at(0, 0, 40, 5)).model_dump()]
        assert after(report, type="paste_tiles", band="b2", tiles=wide).band("b2").tiles[-1].place.width == 24

    def test_layers_go_over_and_behind_what_else_is_in_the_band(self, report):
        over = after(report, type="set_layer", tiles=["a"], to="front")
        over = after(over, type="set_layer", tiles=["b"], to="front")
        assert (over.tile("a").place.layer, over.tile("b").place.layer) == (1, 2)
        assert after(over, type="set_layer", tiles=["b"], to="beside").tile("b").place.layer == 0

    def test_bands_are_moved_copied_changed_and_cleared(self, report):
        moved = after(report, type="move_band", band="b2", index=0)
        assert [band.id for band in moved.bands] == ["b2", "b1"]
        copied = after(report, type="duplicate_band", band="b1")
        assert len(copied.bands) == 3 and len({one.id for one in copied.everything()}) == 7
        dark = after(report, type="change_band", band="b1", changes={"ground": {"colour": "ink"}, "padding": 6})
        assert dark.band("b1").ground.colour == "ink" and len(dark.band("b1").tiles) == 3
        with pytest.raises(EditRefused, match="neither a tone of the style nor a colour"):
            after(report, type="change_band", band="b1", changes={"ground": {"colour": "sunny"}})
        assert after(report, type="clear_band", band="b1").band("b1").tiles == ()
        assert after(report, type="clear_page").bands == ()

    def test_another_format_keeps_every_tile_and_is_one_of_those_there_are(self, report):
        slide = after(report, type="set_format", name="slide-4x3")
        assert slide.page.width == 960 and [one.id for one in slide.tiles()] == [one.id for one in report.tiles()]
        own = after(report, type="set_format", width=100, height=148, unit="mm")
        assert (own.page.width, own.page.height) == (378, 559)
        with pytest.raises(EditRefused, match="there is no page format"):
            after(report, type="set_format", name="scroll")
        with pytest.raises(EditRefused):
            after(report, type="set_format", width=1, unit="px")

    def test_a_band_and_a_report_have_an_end_and_say_so(self, report):
        many = [text(f"n{number}", at(0, 11 * number)).model_dump() for number in range(58)]
        full = after(report, type="paste_tiles", band="b2", tiles=many)
        assert len(full.band("b2").tiles) == 59
        with pytest.raises(EditRefused, match="a band holds at most 60 tiles; put some into another band"):
            after(full, type="move_tiles", tiles=["a", "b"], band="b2")
        with pytest.raises(EditRefused, match="a report has at most 100 bands"):
            grown = report
            for _ in range(100):
                grown = after(grown, type="duplicate_band", band="b2")
        assert len(grown.bands) == 100

    def test_what_is_gone_is_said(self, report):
        for edit in ("move_tiles", "resize_tiles", "remove_tiles", "duplicate_tiles"):
            with pytest.raises(EditRefused, match="the tile is no longer there"):
                after(report, type=edit, tiles=["a", "zz"])
