"""Two windows at one report, and a sign-in in between: nothing that was typed is lost."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import SCREEN, editor_is_ready, typed_in, undo, until

LONG = "What I wrote while somebody else was at it. " * 12


def new_report(page, server, title):
    page.goto(f"{server}/reports/new/")
    page.get_by_label("Title").fill(title)
    page.get_by_role("button", name=re.compile("report|start|begin", re.I)).last.click()
    editor_is_ready(page)


def write(page, text):
    page.locator(".tile.text .pick").first.click()
    area = typed_in(page)
    area.fill(text)
    area.press("Escape")


def test_what_lost_a_conflict_is_shown_whole_and_can_be_put_in(author, server):
    page = author
    # Where changes are told of late, such as on a train.
    for address in ("**/live/", "**/state/"):
        page.route(address, lambda route: route.abort())
    new_report(page, server, "Two windows")
    other = page.context.new_page()
    other.set_viewport_size(SCREEN)
    other.goto(page.url)
    editor_is_ready(other)
    write(other, "Theirs")
    expect(other.locator(".saved")).to_contain_text("Saved")
    expect(other.locator("#page")).to_contain_text("Theirs")
    write(page, LONG)
    expect(page.get_by_role("alert")).to_contain_text("changed in another window")
    expect(page.get_by_label("What you wrote, whole")).to_have_value(LONG)
    page.get_by_role("button", name="Put mine in its place").click()
    expect(page.locator(".tile.text").first).to_have_attribute("data-text", LONG)
    expect(page.get_by_label("What you wrote, whole")).to_be_hidden()
    undo(page)
    expect(page.locator(".tile.text").first).to_have_attribute("data-text", "Theirs")
    other.close()


def test_an_edit_made_after_signing_in_again_elsewhere_is_saved(author, server):
    page = author
    new_report(page, server, "Signed in again")
    # Another sign-in in this browser rotates the token that this window was given.
    page.context.clear_cookies(name="csrftoken")
    other = page.context.new_page()
    other.goto(f"{server}/reports/new/")
    other.close()
    write(page, "Kept")
    expect(page.locator("#page")).to_contain_text("Kept")
    page.reload()
    editor_is_ready(page)
    expect(page.locator(".tile.text").first).to_have_attribute("data-text", "Kept")


def test_a_reply_that_is_lost_makes_nothing_twice(author, server):
    page = author
    new_report(page, server, "Lost reply")
    lost = []

    def lose_first(route):
        if not lost:
            lost.append(route.fetch())
            return route.abort()
        return route.continue_()

    page.route("**/edits/", lose_first)
    page.get_by_role("button", name="Add a band").click()
    expect(page.locator("#ladder li, #ladder .band, #ladder [data-band]").nth(1)).to_be_visible(timeout=15_000)
    page.reload()
    editor_is_ready(page)
    expect(page.locator("#page [data-band]")).to_have_count(2)


def test_a_very_long_text_in_a_narrow_tile_stands_at_its_full_height(author, server):
    page = author
    new_report(page, server, "Long and narrow")
    place = {"column": 0, "row": 10, "width": 1, "height": 4}
    edit = {"type": "add_tile", "tile": {"id": "n1", "type": "text", "text": "narrow " * 2_500, "place": place}}
    # As an import or a later editor may place it: the server is asked directly.
    page.evaluate(
        """async (edit) => {
          const { report, csrf, revision } = document.body.dataset;
          edit.band = document.querySelector("[data-band]").dataset.band;
          const headers = { "Content-Type": "application/json", "X-CSRFToken": csrf };
          const body = JSON.stringify({ base: Number(revision), edit });
          await fetch(report + "edits/", { method: "POST", headers, body });
        }""",
        edit,
    )
    page.reload()
    editor_is_ready(page)
    tile = page.locator("[data-tile=n1]")
    assert tile.bounding_box()["height"] > 10_000
    drawn = tile.locator("svg").first.bounding_box()
    assert abs(tile.bounding_box()["height"] - drawn["height"]) < 0.02 * drawn["height"]


def test_an_edit_leaves_the_other_tiles_as_they_are_and_what_is_typed_goes_on(desk, server):
    page = desk
    page.get_by_role("link", name=re.compile("how the month went")).first.click()
    editor_is_ready(page)
    page.evaluate("for (const tile of document.querySelectorAll('[data-tile]')) tile.seen = true")
    with page.expect_response("**/edits/"):
        write(page, "Another headline")
    expect(page.locator(".tile.text").first).to_have_attribute("data-text", "Another headline")
    seen = "Array.from(document.querySelectorAll('[data-tile]'), (tile) => Boolean(tile.seen))"
    until(page, f"{seen}.includes(false)")
    assert page.evaluate(seen).count(False) == 1
    # While somebody types in one text, another reply comes and leaves it alone.
    page.locator(".tile.text .pick").nth(1).click()
    area = typed_in(page)
    area.fill("Still typing")
    with page.expect_response("**/edits/"):
        area.press_sequentially(" on")
    page.wait_for_timeout(300)
    expect(area).to_have_text("Still typing on")
    expect(area).to_be_focused()
    area.press("Escape")
    expect(page.locator(".tile.text").nth(1)).to_have_attribute("data-text", "Still typing on")
    undo(page, 2)
    expect(page.locator(".tile.text").first).not_to_have_attribute("data-text", "Another headline")
