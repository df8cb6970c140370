"""Turning texts by a handle and by keys, cards with a strip at their head, and moments of a report."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import until
from tests.browser.test_access import violations
from tests.browser.test_bench import bench, choose, drag, drop, places, saved, tile

__all__ = ["bench"]


def turned(page, name, degrees):
    """Wait until a tile is turned so far, as it is stored and as it is seen."""
    expect(tile(page, name)).to_have_attribute("data-turned", str(degrees))
    expect(tile(page, name)).to_have_css("rotate", "none" if not degrees else f"{degrees}deg")


def test_keys_turn_a_text_and_it_is_spoken_and_undone(bench):
    page = bench
    choose(page, "a")
    page.keyboard.press(".")
    turned(page, "a", 15)
    page.keyboard.press("<")
    turned(page, "a", 14)
    expect(page.locator("#its-turn")).to_have_value("14")
    page.locator("summary", has_text="Where it lies").click()
    page.locator("#its-turn").fill("-30")
    page.locator("#its-turn").press("Tab")
    turned(page, "a", -30)
    page.locator("[data-undo]").click()
    turned(page, "a", 14)


def test_the_handle_turns_what_is_chosen_and_stops_at_steps_of_15_degrees(bench):
    page = bench
    choose(page, "b")
    handle, box = page.locator("[data-turning]"), tile(page, "b").bounding_box()
    at = handle.bounding_box()
    middle = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(at["x"] + at["width"] / 2, at["y"] + at["height"] / 2)
    page.mouse.down()
    # To the right of its middle, and a little below: 92 degrees are near enough to 90.
    page.mouse.move(middle[0] + 200, middle[1] + 7, steps=6)
    expect(page.locator(".measure")).to_have_text("90°")
    page.keyboard.down("Alt")
    page.mouse.move(middle[0] + 200, middle[1] + 8, steps=2)
    expect(page.locator(".measure")).to_have_text("92°")
    page.keyboard.up("Alt")
    page.mouse.move(middle[0] + 200, middle[1] + 7, steps=2)
    page.mouse.up()
    turned(page, "b", 90)
    expect(page.locator("#spoken")).to_have_text("Turned to 90°")
    # Its frame stands round it as it is seen.
    frame, seen = page.locator("[data-frame]").bounding_box(), tile(page, "b").bounding_box()
    assert all(abs(frame[side] - seen[side]) < 2 for side in ("x", "y", "width", "height"))


def test_what_is_turned_is_moved_where_the_pointer_goes_and_typed_straight(bench):
    page = bench
    choose(page, "d")
    for _ in range(3):
        page.keyboard.press(".")
    turned(page, "d", 45)
    before = tile(page, "d").bounding_box()
    drag(page, "d", 150, 0)
    now = tile(page, "d").bounding_box()
    assert abs(now["y"] - before["y"]) < 9 and 120 < now["x"] - before["x"] < 180
    drop(page)
    saved(page)
    assert places(page)["d"][0] in (4, 5)
    tile(page, "d").locator("[data-pick]").click()
    expect(tile(page, "d").locator(".typing")).to_be_visible()
    expect(tile(page, "d")).to_have_css("rotate", "none")


def test_nothing_offers_to_turn_a_chart(bench):
    page = bench
    choose(page, "a")
    expect(page.locator("[data-turning]")).to_be_visible()
    choose(page, "a", "b")
    expect(page.locator("[data-turning]")).to_be_hidden()


def test_a_card_gets_a_strip_with_an_icon_and_words_and_its_own_corner(bench):
    page = bench
    choose(page, "a")
    page.locator("#its-card").select_option("usual")
    page.locator("summary", has_text="How this card looks").click()
    page.get_by_label("Words at its head").fill("Loans of the month")
    # The margin is drawn anew with what it shows then.
    with page.expect_response("**/tiles/a/"):
        page.get_by_label("Words at its head").press("Tab")
    header = tile(page, "a").locator("svg.header")
    expect(header).to_contain_text("Loans")
    page.locator("#of-card-icon").click()
    page.get_by_label("Find an icon").fill("book")
    page.locator("[data-icon='book']").click()
    expect(header.locator("path")).to_have_count(1)
    page.get_by_label("Corner, px").fill("0")
    page.get_by_label("Corner, px").press("Tab")
    expect(header).to_have_css("border-radius", "0px")
    # The words stand on the strip, and the text below it.
    strip = header.bounding_box()
    words = header.locator("text").bounding_box()
    drawn = tile(page, "a").locator(".drawn svg").bounding_box()
    assert strip["y"] <= words["y"] and words["y"] + words["height"] <= strip["y"] + strip["height"] + 1
    assert drawn["y"] >= strip["y"] + strip["height"]
    assert tile(page, "a").locator("p.visually-hidden", has_text="Loans of the month").count() == 1
    # Another fill leaves the rest of the card as it is.
    page.locator("#its-card").select_option("ink")
    saved(page)
    expect(header).to_contain_text("Loans")
    assert violations(page) == []


@pytest.mark.parametrize("width", [390, 1280])
def test_a_moment_is_kept_by_its_name_and_brought_back(bench, width):
    page = bench
    before = places(page)
    if width < 500:
        page.set_viewport_size({"width": width, "height": 800})
    page.locator("[data-history]").click()
    page.get_by_label("Keep the report as it is now, as").fill("Before the board")
    page.get_by_role("button", name="Keep this moment").click()
    kept = page.locator(".moments li")
    expect(kept).to_contain_text("Before the board")
    until(page, "() => document.querySelector('.moments img').naturalWidth > 300")
    assert violations(page) == []
    page.keyboard.press("Escape")
    expect(page.locator("#history")).to_be_hidden()
    page.set_viewport_size({"width": 1280, "height": 800})
    choose(page, "c")
    page.keyboard.press("Delete")
    expect(tile(page, "c")).to_have_count(0)
    page.locator("[data-history]").click()
    page.get_by_role("button", name=re.compile("Bring it back")).click()
    expect(tile(page, "c")).to_be_visible()
    expect(page.locator(".saved")).to_have_text("Brought back: Before the board")
    assert places(page) == before
    page.locator("[data-undo]").click()
    expect(tile(page, "c")).to_have_count(0)
    page.locator("[data-history]").click()
    page.get_by_role("button", name=re.compile("Forget it")).click()
    expect(kept).to_have_count(0)
