"""Shapes on the bench: chosen by their look, typed into by a second press, filled and lined from the margin."""

from playwright.sync_api import expect

from tests.browser.conftest import typed_in
from tests.browser.test_access import violations
from tests.browser.test_bench import bench, saved

__all__ = ["bench"]


def added(page, label):
    page.locator("#ladder [data-go]").nth(1).click()
    page.keyboard.press("/")
    page.get_by_role("button", name="A shape").click()
    page.locator("#choices .suggestion", has_text=label).click()
    return page.locator('[data-band="two"] [data-kind="shape"]')


def test_a_shape_is_added_filled_and_typed_into_by_a_second_press(bench):
    page = bench
    shape = added(page, "A star")
    expect(shape).to_have_count(1)
    page.locator("#tile-fill").select_option("second")
    page.locator("summary", has_text="Line").first.click()
    page.locator("#tile-line").select_option("ink")
    expect(shape.locator("svg path[stroke]")).to_have_count(1)
    # One press chooses it, the second one types.
    pick = shape.locator("[data-pick]")
    pick.click()
    assert typed_in(page).count() == 0
    pick.dblclick()
    expect(typed_in(page)).to_be_visible()
    typed_in(page).fill("Best of all")
    place, form = shape.locator(".typing").bounding_box(), shape.bounding_box()
    # Words are typed where the form has room for them.
    assert place["x"] > form["x"] + form["width"] * 0.2 and place["y"] > form["y"] + form["height"] * 0.2
    page.keyboard.press("Escape")
    expect(shape.locator("svg text").first).to_contain_text("Best")
    saved(page)
    assert violations(page) == []


def test_a_shape_is_typed_into_by_keys_and_a_line_is_not(bench):
    page = bench
    shape = added(page, "A pill")
    shape.locator("[data-pick]").focus()
    page.keyboard.press("Enter")
    expect(typed_in(page)).to_be_visible()
    page.keyboard.type("Open")
    page.keyboard.press("Escape")
    expect(shape.locator("svg text")).to_have_text("Open")
    line = added(page, "A wave")
    expect(line).to_have_count(2)
    line.last.locator("[data-pick]").focus()
    page.keyboard.press("Enter")
    assert typed_in(page).count() == 0


def test_readers_on_a_phone_see_the_form_with_its_words(bench, browser):
    page = bench
    shape = added(page, "A speech bubble")
    shape.locator("[data-pick]").focus()
    page.keyboard.press("Enter")
    page.keyboard.type("Come in")
    page.keyboard.press("Escape")
    saved(page)
    page.set_viewport_size({"width": 390, "height": 800})
    page.goto(page.url + "preview/")
    drawn = page.locator(".tile.shape .drawn > svg")
    expect(drawn).to_be_visible()
    expect(drawn.locator("text")).to_have_text("Come in")
    assert page.evaluate("() => document.documentElement.scrollWidth <= innerWidth")
