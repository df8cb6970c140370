"""Connectors on the bench: pulled from one tile to another, by a key, and following what they connect."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, send, until
from tests.browser.test_access import violations
from tests.browser.test_bench import bench, choose, drag, drop, saved, tile

__all__ = ["bench"]


def lines(page):
    return page.locator("#page .tile.connector")


def ends(page, at=0):
    """Where a line starts, where it ends and a point between, in px of the window."""
    return page.evaluate(
        """(at) => {
          const path = document.querySelectorAll('#page .tile.connector')[at].querySelector('svg path[stroke]');
          const there = path.getScreenCTM();
          const on = (length) => { const one = path.getPointAtLength(length).matrixTransform(there);
            return [one.x, one.y]; };
          return [on(0), on(path.getTotalLength()), on(path.getTotalLength() * 0.3)];
        }""",
        at,
    )


def beside(page, name, point):
    """How far a point lies from a tile."""
    box = tile(page, name).bounding_box()
    x, y = point
    return max(box["x"] - x, x - box["x"] - box["width"], box["y"] - y, y - box["y"] - box["height"])


def test_a_line_is_pulled_from_one_tile_to_another_and_follows_both(bench):
    page = bench
    choose(page, "a")
    handle, goal = page.locator("[data-connecting]").bounding_box(), tile(page, "d").bounding_box()
    page.mouse.move(handle["x"] + 9, handle["y"] + 9)
    page.mouse.down()
    page.mouse.move(goal["x"] + 60, goal["y"] + 10, steps=5)
    expect(tile(page, "d")).to_have_class(re.compile("target"))
    page.mouse.up()
    expect(lines(page)).to_have_count(1)
    start, end, _ = ends(page)
    assert 0 < beside(page, "a", start) < 12 and 0 < beside(page, "d", end) < 24
    # It is chosen, and its settings are shown.
    page.locator("#tile-says").fill("leads to")
    page.locator("#tile-says").press("Tab")
    expect(lines(page).locator("text")).to_have_text("leads to")
    saved(page)
    before = ends(page)
    drag(page, "a", 300, 60)
    expect(lines(page)).to_have_class(re.compile("trails"))
    drop(page)
    saved(page)
    until(
        page,
        "(was) => document.querySelector('#page .tile.connector svg path[stroke]').getBoundingClientRect().x !== was",
        before[0][0],
    )
    start, end, _ = ends(page)
    assert 0 < beside(page, "a", start) < 12 and 0 < beside(page, "d", end) < 24
    assert violations(page) == []


def test_several_are_connected_by_a_key_and_a_line_is_chosen_by_itself_only(bench):
    page = bench
    choose(page, "a", "c")
    page.keyboard.press("c")
    expect(lines(page)).to_have_count(1)
    saved(page)
    # Between its ends lies a tile, which is still there to be pressed.
    choose(page, "b")
    expect(tile(page, "b")).to_have_class(re.compile("chosen"))
    page.mouse.click(*ends(page)[2])
    expect(lines(page)).to_have_class(re.compile("chosen"))
    page.keyboard.press("Delete")
    expect(lines(page)).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(lines(page)).to_have_count(1)
    # What it leads to takes it along.
    choose(page, "c")
    page.keyboard.press("Delete")
    expect(tile(page, "c")).to_have_count(0)
    expect(lines(page)).to_have_count(0)


def test_a_pull_that_meets_nothing_or_is_given_up_connects_nothing(bench):
    page = bench
    choose(page, "a")
    for ends_with in ("Escape", None):
        handle = page.locator("[data-connecting]").bounding_box()
        goal = tile(page, "d" if ends_with else "a").bounding_box()
        page.mouse.move(handle["x"] + 9, handle["y"] + 9)
        page.mouse.down()
        page.mouse.move(goal["x"] + 30, goal["y"] + 10, steps=4)
        if ends_with:
            page.keyboard.press(ends_with)
        page.mouse.up()
        expect(page.locator("[data-pulled]")).to_be_hidden()
    assert lines(page).count() == 0 and page.locator(".target").count() == 0


def test_on_a_phone_what_stands_below_each_other_has_no_lines(bench):
    page = bench
    send(page, [{"type": "connect_tiles", "tiles": ["a", "b"]}])
    page.reload()
    editor_is_ready(page)
    expect(lines(page)).to_be_visible()
    page.set_viewport_size({"width": 390, "height": 800})
    expect(lines(page)).to_be_hidden()


KINDS_DRAWN = ["shape", "code", "sign", "key", "steps", "timeline", "overlap", "quote", "parts", "callout"]


@pytest.mark.parametrize("kind", KINDS_DRAWN)
def test_a_tile_is_as_large_as_its_place_whatever_its_kind(bench, kind):
    page = bench
    place = {"column": 2, "row": 40, "width": 10, "height": 30}
    like = {"type": "text", "id": "like", "text": "T", "place": place | {"column": 13}}
    send(
        page,
        [
            {"type": "add_tile", "band": "one", "tile": {"type": kind, "id": "made", "place": place}},
            {"type": "add_tile", "band": "one", "tile": like},
        ],
    )
    page.reload()
    editor_is_ready(page)
    made, beside_it = tile(page, "made").bounding_box(), tile(page, "like").bounding_box()
    assert made["width"] == pytest.approx(beside_it["width"], abs=1) and made["height"] >= beside_it["height"] - 1
