"""What readers press, in a real browser: details, numbers of sources; and a polygon's corners on the bench."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, made_report, until
from tests.browser.test_access import violations
from tests.browser.test_bench import bench, choose, saved, tile

__all__ = ["bench"]

PLACE = {"column": 0, "row": 0, "width": 12, "height": 8}


@pytest.fixture
def pressed(author, server):
    tiles = [
        {"id": "more", "type": "details", "head": "How we counted", "says": "By hand.\nTwice.", "place": PLACE},
        {
            "id": "text",
            "type": "text",
            "text": "Visits rose.",
            "cites": [{"typed": "one"}],
            "place": {**PLACE, "row": 12},
        },
    ]
    foot = {"id": "foot", "type": "sources", "more": [{"id": "one", "words": "Archive, https://example.org/a"}]}
    bands = [
        {"id": "one", "message": "First", "tiles": tiles},
        {"id": "two", "message": "Second", "tiles": [foot | {"place": PLACE}]},
    ]
    made_report(
        author, server, "To press", [{"type": "clear_page"}, *({"type": "add_band", "band": band} for band in bands)]
    )
    return author


@pytest.mark.parametrize("width", [1280, 360])
def test_details_open_over_what_stands_below_and_are_read(pressed, width):
    page = pressed
    page.goto(page.url + "preview/")
    page.set_viewport_size({"width": width, "height": 800})
    told = page.locator(".unfolded", has_text="By hand.")
    expect(told).to_be_hidden()
    summary = page.locator(".unfolding summary")
    summary.press("Enter")
    expect(told).to_be_visible()
    # Nothing lies over it.
    box = told.bounding_box()
    hit = page.evaluate(
        "([x, y]) => !!document.elementFromPoint(x, y).closest('.unfolded')", [box["x"] + 30, box["y"] + 20]
    )
    assert hit
    assert violations(page) == []
    summary.click(position={"x": 20, "y": 12})
    expect(told).to_be_hidden()


def test_the_number_of_a_source_leads_to_it(pressed):
    page = pressed
    page.goto(page.url + "preview/")
    page.get_by_role("link", name="Sources: 1").press("Enter")
    until(page, "location.hash === '#at-foot'")
    expect(page.locator("#at-foot").get_by_role("link", name="https://example.org/a")).to_have_count(1)


def test_a_tile_is_made_to_point_to_a_source_in_the_margin(pressed):
    page = pressed
    choose(page, "more")
    page.locator("summary", has_text="Its sources").click()
    source = page.get_by_role("button", name=re.compile("^1 Archive"))
    expect(source).to_have_attribute("aria-pressed", "false")
    source.click()
    expect(tile(page, "more").locator("svg text", has_text=re.compile("^1$"))).to_have_count(1)
    saved(page)
    assert violations(page) == []


def test_the_corners_of_a_polygon_are_pulled_and_moved_by_keys(bench, server):
    page = bench
    page.locator("#ladder [data-go]").nth(1).click()
    page.keyboard.press("/")
    page.get_by_role("button", name="A shape").click()
    page.locator("#choices .suggestion", has_text="A polygon of your own").click()
    corners = page.locator("[data-corners-of] circle")
    expect(corners).to_have_count(4)
    outline = page.locator('[data-band="two"] [data-kind="shape"] svg path').first
    before = outline.get_attribute("d")
    box = corners.first.bounding_box()
    page.mouse.move(box["x"] + 12, box["y"] + 12)
    page.mouse.down()
    page.mouse.move(box["x"] + 60, box["y"] + 60, steps=4)
    with page.expect_response("**/edits/"):
        page.mouse.up()
    expect(outline).not_to_have_attribute("d", before)
    expect(corners.first).to_have_attribute("aria-label", re.compile("Corner 1: [3-9]"))
    page.get_by_role("button", name="Another corner").click()
    expect(corners).to_have_count(5)
    corners.nth(4).focus()
    page.keyboard.press("Delete")
    expect(corners).to_have_count(4)
    corners.nth(1).focus()
    with page.expect_response("**/edits/"):
        page.keyboard.press("Shift+ArrowLeft")
    expect(corners.nth(1)).to_have_attribute("aria-label", re.compile("Corner 2: 90"))
    saved(page)
    assert violations(page) == []
    page.reload()
    editor_is_ready(page)
