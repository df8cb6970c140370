"""Connectors: their ways against plain geometry, whatever the two rectangles, and what follows when tiles change."""

import io
import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from PIL import Image

from tests.factories import DRAWN_FORMATS
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.routes import Span, route, sides_between
from ypsil.core.drawing.scene import Path
from ypsil.core.errors import EditRefused
from ypsil.core.export import FORMATS, page_to_png, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.report.nodes import document_of, report_of
from ypsil.core.tiles.connector import APART, LOST

SIDES = ["left", "top", "right", "foot"]
AIR = 5.0
spans = st.builds(
    Span, *(st.integers(0, 900).map(float),) * 2, *(st.integers(8, 400).map(float),) * 2
)  # x, y, width, height


def along(points, steps=60):
    """Points close to each other on a line."""
    for (x1, y1), (x2, y2) in pairwise(points):
        for step in range(steps + 1):
            yield x1 + (x2 - x1) * step / steps, y1 + (y2 - y1) * step / steps


def away(one, other):
    """How far two rectangles are apart, the larger of both ways."""
    across = max(other.x - one.right, one.x - other.right)
    return max(across, other.y - one.foot, one.y - other.foot)


def crossed(points, span):
    return any(span.x + 1 < x < span.right - 1 and span.y + 1 < y < span.foot - 1 for x, y in along(points))


class TestWays:
    @given(spans, spans, st.sampled_from(SIDES), st.sampled_from(SIDES))
    def test_elbows_are_right_angles_and_go_through_neither_rectangle(self, one, other, leaving, arriving):
        assume(away(one, other) >= 60)
        found = route(one, other, "elbow", sides=(leaving, arriving), gap=AIR)
        for (x1, y1), (x2, y2) in pairwise(found.points):
            assert abs(x1 - x2) < 0.01 or abs(y1 - y2) < 0.01
        assert not crossed(found.points, one) and not crossed(found.points, other)

    @given(spans, spans, st.lists(spans, max_size=4))
    def test_it_goes_round_what_stands_between_where_there_is_room(self, one, other, between):
        every = [one, other, *between]
        pairs = [(first, second) for at, first in enumerate(every) for second in every[at + 1 :]]
        assume(all(away(first, second) >= 60 for first, second in pairs))
        found = route(one, other, "elbow", gap=AIR, around=between)
        alone = route(one, other, "elbow", gap=AIR)
        inside = [sum(crossed(way.points, span) for span in between) for way in (found, alone)]
        assert inside[0] <= inside[1]
        if len(between) == 1:
            assert inside[0] == 0

    @given(spans, st.floats(2, 40), st.floats(-0.9, 0.9), st.sampled_from(["straight", "elbow", "curve"]))
    def test_over_a_narrow_gap_it_goes_straight_across_where_both_are(self, one, free, lower, way):
        other = Span(one.right + free, one.y + lower * one.height, 50, one.height)
        found = route(one, other, way, gap=AIR, trims=(0, 9))
        assert found.start[1] == found.end[1] and found.leaves == (1, 0)
        assert max(one.y, other.y) <= found.start[1] <= min(one.foot, other.foot)
        assert one.right <= found.start[0] <= found.points[-1][0] <= found.end[0] <= other.x

    def test_in_a_row_without_room_between_it_goes_below(self):
        row = [Span(at * 112.0, 0, 100, 60) for at in range(3)]
        found = route(row[0], row[2], gap=AIR, around=[row[1]])
        assert not any(crossed(found.points, span) for span in row)
        assert found.leaves == (0, 1) and found.arrives == (0, -1)
        # Where its author says the sides, it keeps to them.
        assert route(row[0], row[2], gap=AIR, around=[row[1]], sides=("right", "left")).leaves == (1, 0)

    @given(spans, spans, st.sampled_from(["straight", "elbow", "curve"]))
    def test_it_starts_and_ends_beside_the_middles_of_sides(self, one, other, way):
        # Over a narrow gap it goes straight across instead.
        assume(away(one, other) < 0 or away(one, other) >= 60)
        found = route(one, other, way, gap=AIR)
        for span, point in ((one, found.start), (other, found.end)):
            middles = [span.at(side, AIR) for side in SIDES]
            assert min(math.dist(point, middle) for middle in middles) < 0.01
        # Its words stand on it.
        near = min(math.dist(found.middle, point) for point in along(found.points, 200))
        assert near < 3

    @given(spans, spans)
    def test_it_leaves_where_the_other_is(self, one, other):
        assume(away(one, other) >= 0)
        leaving, arriving = sides_between(one, other)
        straight = route(one, other, "straight")
        # No line between other sides that face each other spans a wider gap.
        gaps = {"right": other.x - one.right, "left": one.x - other.right}
        gaps |= {"foot": other.y - one.foot, "top": one.y - other.foot}
        assert gaps[leaving] == max(gaps.values())
        assert {leaving, arriving} in ({"left", "right"}, {"top", "foot"})
        assert straight.length() >= max(gaps.values()) - 0.01

    def test_the_line_ends_before_its_mark(self):
        one, other = Span(0, 0, 10, 10), Span(100, 0, 10, 10)
        found = route(one, other, "straight", gap=2, trims=(0, 8))
        assert found.points == ((12, 5), (90, 5)) and found.end == (98, 5)

    @given(spans, st.floats(-180, 180))
    def test_the_room_of_what_is_turned_holds_its_corners(self, span, degrees):
        held = span.turned(degrees)
        cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
        middle = (span.x + span.width / 2, span.y + span.height / 2)
        for x, y in ((span.x, span.y), (span.right, span.y), (span.x, span.foot), (span.right, span.foot)):
            dx, dy = x - middle[0], y - middle[1]
            at = middle[0] + dx * cos - dy * sin, middle[1] + dx * sin + dy * cos
            assert held.x - 0.01 <= at[0] <= held.right + 0.01 and held.y - 0.01 <= at[1] <= held.foot + 0.01


def shape(name, column, row, **more):
    place = {"column": column, "row": row, "width": 5, "height": 10}
    return {"id": name, "type": "shape", "form": "rectangle", "fill": "#ff0000", "place": place, **more}


def line(one="a", other="b", **more):
    return {"id": f"{one}{other}", "type": "connector", "from_tile": one, "to_tile": other, **more}


def report(*tiles, second=(), **more):
    bands = [{"id": "one", "tiles": [*tiles]}, {"id": "two", "tiles": [*second]}]
    return ReportBody.model_validate({"title": "T", "bands": bands, **more})


def both(**more):
    return report(shape("a", 0, 0), shape("b", 16, 20), line(**more))


def done(before, **edit):
    return parse_edit(edit).apply(before)


def lines_of(found):
    return [tile for tile in found.tiles() if tile.joins()]


def drawn(made, name="ab"):
    return next(view for view in made.tiles() if view.tile.id == name)


class TestOnThePage:
    @pytest.mark.parametrize("way", ["straight", "elbow", "curve"])
    def test_its_ends_are_drawn_beside_both_wherever_they_are_moved(self, way):
        before = both(way=way, colour="#0000ff", to_mark="none", line_width=4)
        moved = done(before, type="move_tiles", tiles=["b"], columns=-6, rows=30)
        for found in (before, moved):
            made = compose(found, {})
            with Image.open(io.BytesIO(page_to_png(made, scale=1))) as opened:
                seen = np.asarray(opened.convert("RGB")).astype(int)
            blue = (seen[:, :, 2] > 180) & (seen[:, :, 0] < 90)
            red = (seen[:, :, 0] > 180) & (seen[:, :, 2] < 90)
            downs, acrosses = np.nonzero(blue)
            for name in ("a", "b"):
                place = made.layout.placed[name].rectangle
                near = [
                    max(place.x - x, x - place.x - place.width, place.y - y, y - place.y - place.height)
                    for x, y in zip(acrosses, downs, strict=True)
                ]
                assert 1 < min(near) < 9
            assert red.sum() > 2 * 5 * 20 * 80 * 0.8

    @pytest.mark.parametrize("mark", ["arrow", "open", "dot", "bar"])
    def test_marks_lie_within_its_room_and_are_seen(self, mark):
        plain, marked = (compose(both(to_mark=one, line_width=3), {}) for one in ("none", mark))
        assert len(drawn(marked).scene.shapes) == len(drawn(plain).scene.shapes) + 1
        with (
            Image.open(io.BytesIO(page_to_png(plain, scale=2))) as one,
            Image.open(io.BytesIO(page_to_png(marked, scale=2))) as other,
        ):
            differs = np.asarray(one.convert("L")).astype(int) != np.asarray(other.convert("L"))
        view = drawn(marked)
        downs, acrosses = np.nonzero(differs)
        assert len(downs) > 20
        assert view.x * 2 - 1 <= acrosses.min() and acrosses.max() <= (view.x + view.scene.width) * 2 + 1
        assert view.y * 2 - 1 <= downs.min() and downs.max() <= (view.y + view.scene.height) * 2 + 1

    def test_it_takes_no_room_and_moves_nothing(self):
        without = compose(report(shape("a", 0, 0), shape("b", 16, 20)), {})
        with_line = compose(both(says="leads to"), {})
        assert with_line.height == without.height
        assert all(with_line.layout.placed[name] == without.layout.placed[name] for name in ("a", "b"))

    @pytest.mark.parametrize("ending", DRAWN_FORMATS)
    def test_it_is_in_every_file(self, ending):
        with_line, without = both(says="leads to"), report(shape("a", 0, 0), shape("b", 16, 20))
        assert FORMATS[ending].page(compose(with_line, {})) != FORMATS[ending].page(compose(without, {}))

    def test_it_is_read_as_a_line_from_one_to_the_other(self):
        made = compose(report(shape("a", 0, 0, text="Ask"), shape("b", 16, 20, text="Count"), line(says="then")), {})
        view = drawn(made)
        assert view.scene.name == "Arrow from “A rectangle: Ask” to “A rectangle: Count”"
        assert view.scene.description == "then"
        assert "Arrow from “A rectangle: Ask”" in page_to_svg(made)

    def test_words_on_it_can_be_read_and_cover_no_short_line(self):
        near = report(shape("a", 0, 0), shape("b", 7, 0), line(says="a remark that is longer than the line is"))
        for found in (both(says="leads to"), near):
            view = drawn(compose(found, {}))
            texts = view.scene.texts()
            paper = [one.fill for one in view.scene.shapes if isinstance(one, Path) and one.fill != "none"][-1]
            assert texts and all(contrast_ratio(text.fill, paper) >= 4.5 for text in texts)
        # The line lies free below its words.
        rule = next(one for one in view.scene.shapes if isinstance(one, Path) and one.stroke != "none")
        height = float(rule.d.split("L")[0].split(" ")[1])
        assert all(text.y < height for text in texts)

    def test_from_one_ground_to_another_it_is_seen_on_both(self):
        grounds = [{"id": "one", "tiles": [shape("a", 0, 0)]}, {"id": "two", "tiles": [shape("b", 0, 4)]}]
        grounds[1]["ground"] = {"colour": "#101010"}
        grounds[0]["tiles"].append(line())
        made = compose(ReportBody.model_validate({"title": "T", "bands": grounds}), {})
        colours = {one.stroke for one in drawn(made).scene.shapes if isinstance(one, Path) and one.stroke != "none"}
        for paper in ("#ffffff", "#101010"):
            assert max(contrast_ratio(colour, paper) for colour in colours) > 4.5

    def test_a_hundred_are_drawn_at_once(self):
        tiles = [shape(f"s{place}", place % 4 * 6, place // 4 * 14) for place in range(30)]
        lines = [line(f"s{one}", f"s{(one * 7 + 3) % 30}") for one in range(29) if one != (one * 7 + 3) % 30]
        made = compose(report(*tiles, *lines), {})
        assert sum(bool(view.tile.joins()) and not view.drawn.problem for view in made.tiles()) == len(lines)


class TestWhatBecomesOfIt:
    def test_several_are_connected_in_the_order_they_were_chosen_and_once(self):
        three = report(shape("a", 0, 0), shape("b", 8, 0), second=[shape("c", 0, 0)])
        found = done(three, type="connect_tiles", tiles=["c", "a", "b"])
        assert [one.joins() for one in lines_of(found)] == [("a", "b"), ("c", "a")]
        with pytest.raises(EditRefused, match="connected already"):
            done(found, type="connect_tiles", tiles=["a", "b"])
        with pytest.raises(EditRefused, match="no longer there"):
            done(found, type="connect_tiles", tiles=["a", "gone"])
        with pytest.raises(EditRefused, match="no connectors"):
            done(found, type="connect_tiles", tiles=["a", lines_of(found)[0].id])

    @pytest.mark.parametrize(
        "edit",
        [
            {"type": "remove_tile", "tile": "b"},
            {"type": "remove_tiles", "tiles": ["a"]},
            {"type": "remove_band", "band": "two"},
            {"type": "clear_band", "band": "two"},
        ],
    )
    def test_it_goes_with_what_it_connects(self, edit):
        before = report(shape("a", 0, 0), line(), second=[shape("b", 0, 0)])
        assert lines_of(done(before, **edit)) == []
        assert lines_of(done(before, type="remove_tile", tile="ab")) == []

    def test_copies_are_connected_as_the_originals_are(self):
        before = both()
        found = done(before, type="duplicate_tiles", tiles=["a", "b"])
        old, new = lines_of(found)
        assert old.joins() == ("a", "b") and not {*new.joins()} & {"a", "b"}
        assert {*new.joins()} <= {tile.id for tile in found.tiles()}
        band = done(before, type="duplicate_band", band="one")
        assert len(lines_of(band)) == 2 and len({one.joins() for one in lines_of(band)}) == 2
        # A copy of one end leads to the same other end.
        one = done(before, type="paste_tiles", band="two", tiles=[shape("a", 0, 0), line()])
        assert lines_of(one)[1].joins()[1] == "b" and lines_of(one)[1].joins()[0] not in ("a", "b")
        with pytest.raises(EditRefused, match="together with what it connects"):
            done(before, type="paste_tiles", band="two", tiles=[line()])
        # In another report there is no other end.
        other = done(report(shape("x", 0, 0)), type="paste_tiles", band="two", tiles=[shape("a", 0, 0), line()])
        assert lines_of(other) == []

    @pytest.mark.parametrize("band", [None, "two"])
    def test_it_holds_up_nothing_that_is_moved_with_it(self, band):
        found = done(both(), type="move_tiles", tiles=["b", "ab"], columns=-3, rows=2, band=band)
        assert found.tile("b").place.column == 13
        assert drawn(compose(found, {})).drawn.problem == ""
        with pytest.raises(EditRefused, match="follows what it connects"):
            done(both(), type="move_tiles", tiles=["ab"], columns=1)

    def test_groups_are_connected_and_what_is_in_them(self):
        tiles = [shape("a", 0, 0), shape("b", 8, 0), shape("c", 8, 20)]
        grouped = done(report(*tiles, line("a", "c")), type="group_tiles", tiles=["a", "b", "ac"], id="g")
        assert [tile.id for tile in grouped.tile("g").below()] == ["a", "b"]
        found = done(grouped, type="connect_tiles", tiles=["g", "c"])
        made = compose(found, {})
        assert [view.drawn.problem for view in made.tiles() if view.tile.joins()] == ["", ""]
        assert len(lines_of(done(found, type="remove_tiles", tiles=["g"]))) == 0

    def test_what_is_tidied_or_laid_over_keeps_its_reading_order(self):
        before = both()
        for edit in ({"type": "tidy_band", "band": "one"}, {"type": "set_layer", "tiles": ["ab"], "to": "front"}):
            found = done(before, **edit)
            assert [tile.id for tile in found.tiles()] == ["a", "b", "ab"]
        moved = done(before, type="move_tiles", tiles=["a"], rows=40)
        assert [tile.id for tile in moved.tiles()] == ["b", "a", "ab"]

    def test_one_that_lost_an_end_says_so_to_its_author_and_readers_miss_nothing(self):
        found = report(shape("a", 0, 0), line("a", "gone"))
        assert drawn(compose(found, {}), "agone").drawn.problem == LOST
        assert [view.tile.id for view in compose(found, {}, for_readers=True).tiles()] == ["a"]

    def test_over_the_end_of_a_page_none_is_drawn(self):
        tall = shape("a", 0, 0) | {"place": {"column": 0, "row": 0, "width": 5, "height": 100}}
        later = shape("b", 0, 0) | {"place": {"column": 0, "row": 0, "width": 5, "height": 100}}
        found = report(tall, line(), second=[later], page=PAGE_FORMATS["a5"].page.model_dump())
        assert drawn(compose(found, {})).drawn.problem == APART
        assert [view.tile.id for view in compose(found, {}, for_readers=True).tiles()] == ["a", "b"]

    def test_it_is_stored_and_read_back(self):
        before = both(way="curve", says="leads to", from_side="top", dash="dotted")
        assert lines_of(report_of(document_of(before), before.style)) == lines_of(before)

    @pytest.mark.parametrize("changes", [{"colour": "nothing such"}, {"way": "zigzag"}, {"line_width": 900}])
    def test_what_it_cannot_be_is_refused(self, changes):
        with pytest.raises(EditRefused):
            done(both(), type="change_tile", tile="ab", changes=changes)
