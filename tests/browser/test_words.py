"""The words of a cloud: chosen, read in their answers, settled and taken back; the shape they stand in."""

import re

import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, open_report, undo


@pytest.fixture
def cloud(author, server):
    """The page with the garden club's cloud, and that tile."""
    page = author
    open_report(page, server, "[^<]*garden club")
    return page, page.locator(".tile.visual").filter(has=page.locator("svg text", has_text="worms"))


def word(tile, name):
    return tile.locator("svg text", has=tile.page.locator("title", has_text=re.compile(f"^{name}: ")))


def press_word(tile, name):
    place = word(tile, name).bounding_box()
    tile.page.mouse.click(place["x"] + place["width"] / 2, place["y"] + place["height"] / 2)


def test_a_word_of_the_drawing_leads_to_its_answers_and_can_be_left_out(cloud):
    page, tile = cloud
    tile.scroll_into_view_if_needed()
    press_word(tile, "worms")
    heading = page.get_by_role("heading", name="“worms”")
    expect(heading).to_be_focused()
    answers = page.get_by_role("list", name="Answers with “worms”").get_by_role("listitem")
    expect(answers.first.locator("mark")).to_have_text(re.compile("worms", re.I))
    page.get_by_role("button", name="Leave it out").click()
    expect(page.get_by_text("“worms” is left out")).to_be_visible()
    expect(word(tile, "worms")).to_have_count(0)
    expect(page.get_by_role("heading", name="The words")).to_be_focused()
    page.get_by_role("button", name="Take back: “worms” is left out").press("Enter")
    expect(word(tile, "worms")).to_have_count(1)
    undo(page, 2)


def test_answers_that_come_late_take_nothing_from_whoever_went_on(cloud):
    """They are far down the margin: scrolled to, they would move it under the next press."""
    page, tile = cloud
    tile.scroll_into_view_if_needed()
    held = []
    page.route("**/words/?*", lambda route: held.append(route))
    with page.expect_request("**/words/?*"):
        press_word(tile, "worms")
    page.locator(".sentence .word").first.click()
    item = page.locator(".menu.show button").first
    expect(item).to_be_visible()
    before = item.bounding_box()
    for route in held:
        route.continue_()
    expect(page.get_by_role("heading", name="“worms”")).to_be_attached()
    expect(page.get_by_role("heading", name="“worms”")).not_to_be_focused()
    assert item.bounding_box() == before


def test_with_the_keyboard_a_word_of_the_list_is_counted_with_another_and_coloured(cloud):
    page, tile = cloud
    tile.locator("[data-pick]").press("Enter")
    words = page.get_by_role("region", name="Words that are counted")
    words.get_by_role("button", name="sand", exact=True).press("Enter")
    expect(page.get_by_role("heading", name="“sand”")).to_be_focused()
    name = page.get_by_label("Count it as")
    name.fill("soil")
    name.press("Enter")
    expect(page.get_by_text("“sand” is counted as “soil”")).to_be_visible()
    expect(words.get_by_role("button", name="sand", exact=True)).to_have_count(0)
    words.get_by_role("button", name="soil", exact=True).press("Enter")
    answers = page.get_by_role("list", name="Answers with “soil”")
    expect(answers.locator("mark", has_text=re.compile("^sand$", re.I)).first).to_be_visible()
    before = word(tile, "soil").get_attribute("fill")
    page.get_by_role("button", name="Colour 5").press("Enter")
    expect(word(tile, "soil")).not_to_have_attribute("fill", before)
    undo(page, 2)
    expect(words.get_by_role("button", name="sand", exact=True)).to_have_count(1)


def test_a_cloud_is_put_into_a_shape_of_ones_own(cloud, tmp_path):
    page, tile = cloud
    tile.locator("[data-pick]").press("Enter")
    shape = page.locator("#option-shape")
    expect(shape).to_have_text("leaf")
    shape.press("Enter")
    page.get_by_role("button", name="ellipse").press("Enter")
    expect(shape).to_have_text("ellipse")
    pale = tmp_path / "pale.png"
    Image.new("L", (40, 40), 250).save(pale)
    shape.press("Enter")
    page.get_by_label("Bring your own picture").set_input_files(pale)
    chosen = page.locator(".tile.chosen")
    expect(chosen).to_contain_text("next to nothing dark")
    undo(page)
    expect(chosen).not_to_contain_text("next to nothing dark")
    # The margin is drawn anew after the page.
    expect(shape).to_have_text("ellipse")
    half = tmp_path / "half.png"
    picture = Image.new("L", (40, 40), 255)
    picture.paste(0, (0, 0, 40, 20))
    picture.save(half)
    shape.press("Enter")
    page.get_by_label("Bring your own picture").set_input_files(half)
    expect(shape).to_have_text("half")
    drawing = tile.locator("svg").first.bounding_box()
    place = word(tile, "water").bounding_box()
    assert place["y"] + place["height"] / 2 < drawing["y"] + drawing["height"] / 2
    undo(page, 2)
    expect(shape).to_have_text("leaf")


def test_words_are_followed_over_time_and_compared_side_by_side(author, server):
    page = author
    page.goto(f"{server}/")
    page.get_by_role("link", name=re.compile("^Brackenshire")).first.click()
    editor_is_ready(page)
    page.get_by_role("button", name=re.compile("^Number of uses per word in Comment")).press("Enter")
    page.get_by_role("button", name="compared between …").click()
    page.get_by_role("button", name="weeks of Answered", exact=True).click()
    chosen = page.locator(".tile.chosen")
    said = page.locator("#margin .sentence .word")
    expect(said.first).to_have_text("share of answers")
    expect(said.last).to_have_text("lines")
    expect(chosen.locator("svg path").first).to_be_visible()
    undo(page)
    expect(said.last).to_have_text("word cloud")
    page.get_by_role("button", name="compared between …").click()
    page.get_by_role("button", name="Would recommend", exact=True).click()
    expect(said.last).to_have_text("words that mark groups")
    said.last.click()
    page.get_by_role("button", name=re.compile("^Clouds side by side")).click()
    expect(said.last).to_have_text("clouds side by side")
    expect(chosen.locator("svg text", has_text=re.compile("^Would recommend: Yes$"))).to_be_visible()
    undo(page, 2)
    expect(said.last).to_have_text("word cloud")


def test_own_words_are_typed_in_the_sentence(cloud):
    page, tile = cloud
    tile.locator("[data-pick]").press("Enter")
    page.get_by_role("button", name="without the words …").click()
    words = page.get_by_label("parted by commas")
    words.first.fill("sand, worms")
    words.first.press("Enter")
    own = page.locator("#margin .sentence .word", has_text="“sand” and “worms”")
    expect(own).to_be_visible()
    expect(word(page.locator(".tile.chosen"), "sand")).to_have_count(0)
    own.click()
    page.get_by_role("button", name="none", exact=True).click()
    expect(own).to_have_count(0)
    undo(page, 2)
    expect(page.get_by_role("button", name="without the words …")).to_be_visible()
