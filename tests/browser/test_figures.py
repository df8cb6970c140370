"""Figures: an icon found and chosen, a tile duplicated with its look, a number typed by hand."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, undo
from ypsil.demo.gallery import SECTIONS

IN_ORDER = [name for _, entries in SECTIONS for name in entries]


def open_figure(page, server, name):
    """Choose a figure of the gallery."""
    page.goto(f"{server}/")
    page.get_by_role("link", name=re.compile("every visual once")).first.click()
    editor_is_ready(page)
    page.locator(".tile.visual .pick").nth(IN_ORDER.index(name)).click()


def test_an_icon_is_found_by_a_word_and_chosen_with_the_keyboard(author, server):
    page = author
    open_figure(page, server, "icon_row")
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
    open_figure(page, server, "filled_numerals")
    picture = page.locator("#option-picture")
    expect(picture).to_have_text("heart")
    picture.press("Enter")
    page.get_by_role("button", name="none", exact=True).press("Enter")
    expect(picture).to_have_text("none")
    undo(page)
    expect(picture).to_have_text("heart")


def test_a_duplicate_keeps_the_look_and_another_number_takes_seconds(author, server):
    page = author
    open_figure(page, server, "icon_row")
    expect(page.locator("#option-icon")).to_have_text("book")
    tiles = page.locator("#page .tile.visual")
    before = tiles.count()
    page.get_by_role("button", name="Duplicate this tile").click()
    expect(tiles).to_have_count(before + 1)
    expect(page.locator("#option-icon")).to_have_text("book")
    page.get_by_label("Percentage by hand").fill("40")
    page.get_by_label("Percentage by hand").press("Tab")
    expect(page.locator("#page")).to_contain_text("typed by hand")
    page.get_by_label(re.compile("^Label")).fill("of pupils read at home")
    page.get_by_label(re.compile("^Label")).press("Tab")
    expect(page.locator("#page")).to_contain_text("of pupils read at home: 40% (four in ten, typed by hand).")
