"""Figures: an icon found and chosen, a picture brought, a tile duplicated with its look, a number typed by hand."""

import re

from PIL import Image
from playwright.sync_api import expect

from tests.browser.conftest import chosen_figure, undo, unfold


def test_an_icon_is_found_by_a_word_and_chosen_with_the_keyboard(author, server):
    page = author
    chosen_figure(page, server, "icon_row")
    icon = page.locator("#option-icon")
    expect(icon).to_have_text("book")
    icon.press("Enter")
    find = page.get_by_role("searchbox", name="Find an icon")
    expect(find).to_be_focused()
    expect(page.get_by_role("button", name="aeroplane")).to_be_visible()
    find.fill("reader")
    expect(page.get_by_role("button", name="aeroplane")).to_have_count(0)
    page.get_by_role("button", name="standing person").press("Enter")
    expect(icon).to_have_text("standing person")
    expect(icon).to_be_focused()
    undo(page)
    expect(icon).to_have_text("book")


def test_a_picture_in_the_digits_is_chosen_and_taken_out_again(author, server):
    page = author
    chosen_figure(page, server, "filled_numerals")
    picture = page.locator("#option-picture")
    expect(picture).to_have_text("heart")
    picture.press("Enter")
    page.get_by_role("button", name="none", exact=True).press("Enter")
    expect(picture).to_have_text("none")
    undo(page)
    expect(picture).to_have_text("heart")


def test_a_picture_of_ones_own_is_brought_and_shown_inside_the_digits(author, server, tmp_path):
    page = author
    chosen = chosen_figure(page, server, "filled_numerals")
    picture = page.locator("#option-picture")
    picture.press("Enter")
    bring = page.get_by_label("Bring your own picture")
    no_picture = tmp_path / "notes.png"
    no_picture.write_text("not a picture")
    bring.set_input_files(no_picture)
    expect(page.locator("[data-picture-problem]")).to_contain_text("It is not a picture that can be read, notes.png")
    expect(picture).to_have_text("heart")
    sunset = tmp_path / "sunset.png"
    Image.linear_gradient("L").save(sunset)
    bring.set_input_files(sunset)
    expect(picture).to_have_text("sunset")
    address = chosen.locator("image").get_attribute("href")
    assert page.request.get(f"{server}{address}").headers["content-type"] == "image/png"
    picture.press("Enter")
    expect(page.get_by_role("button", name="two shelves")).to_be_visible()
    page.get_by_role("button", name="two shelves").press("Enter")
    expect(picture).to_have_text("two shelves")
    undo(page, 2)
    expect(picture).to_have_text("heart")


def test_a_duplicate_keeps_the_look_and_another_number_takes_seconds(author, server):
    page = author
    chosen_figure(page, server, "icon_row")
    expect(page.locator("#option-icon")).to_have_text("book")
    tiles = page.locator("#page .tile.visual")
    before = tiles.count()
    page.get_by_role("button", name="Duplicate", exact=True).click()
    expect(tiles).to_have_count(before + 1)
    expect(page.locator("#option-icon")).to_have_text("book")
    unfold(page)
    page.get_by_label("Percentage by hand").fill("40")
    page.get_by_label("Percentage by hand").press("Tab")
    expect(page.locator("#page")).to_contain_text("typed by hand")
    page.get_by_label(re.compile("^Label")).fill("of pupils read at home")
    page.get_by_label(re.compile("^Label")).press("Tab")
    expect(page.locator("#page")).to_contain_text("of pupils read at home: 40% (four in ten, typed by hand).")
