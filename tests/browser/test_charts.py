"""Charts in the editor and as readers see them: settings, typed filters, marks by keyboard, numbers."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready


def open_chart(page, server):
    page.goto(f"{server}/")
    page.get_by_role("link", name=re.compile("how the month went")).first.click()
    editor_is_ready(page)
    page.locator(".tile.visual .pick").nth(4).click()
    expect(page.locator(".sentence .word")).to_have_text(["total", "Visits", "month", "Month", "Kind", "lines"])


def test_a_setting_redraws_the_chart_and_is_undone(author, server):
    page = author
    open_chart(page, server)
    page.get_by_label("Line at the average").check()
    expect(page.locator("#page")).to_contain_text("Average")
    page.get_by_label("Line to stand out").fill("Adult")
    page.get_by_label("Line to stand out").press("Tab")
    expect(page.locator("#page svg path[stroke='#c9c6d6']")).to_have_count(1)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#page svg path[stroke='#c9c6d6']")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#page")).not_to_contain_text("Average")


def test_a_condition_is_typed_into_the_sentence_by_keyboard(author, server):
    page = author
    open_chart(page, server)
    page.get_by_role("button", name="where …", exact=True).click()
    blanks = page.get_by_role("group", name="Month is at least …")
    blanks.get_by_label("at least").fill("2026-01-01")
    blanks.get_by_label("at least").press("Enter")
    expect(page.locator(".sentence .word").nth(6)).to_have_text("is at least")
    expect(page.locator(".sentence .word").nth(7)).to_have_text("2026-01-01")
    expect(page.locator("table.data tbody tr").first).to_contain_text("Jan 2026")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".sentence .word")).to_have_count(6)


def test_what_is_done_along_the_months_is_chosen_in_the_sentence(author, server):
    page = author
    open_chart(page, server)
    page.get_by_role("button", name="as a running total, change …").click()
    page.get_by_role("button", name="3-month moving average", exact=True).click()
    expect(page.locator(".sentence .word").first).to_have_text("3-month moving average of")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".sentence .word").first).to_have_text("total")


def test_readers_reach_every_mark_with_the_arrow_keys(author, server):
    page = author
    page.goto(f"{server}/")
    page.get_by_role("link", name=re.compile("how the month went")).first.click()
    editor_is_ready(page)
    page.goto(page.url + "preview/")
    chart = page.locator("svg[role=graphics-document].wide, svg[role=graphics-document]").first
    expect(chart).to_have_attribute("tabindex", "0")
    chart.focus()
    page.keyboard.press("ArrowRight")
    tip = page.locator(".tip")
    expect(tip).to_be_visible()
    first = tip.inner_text()
    page.keyboard.press("End")
    expect(tip).not_to_have_text(first)
    page.keyboard.press("Home")
    expect(tip).to_have_text(first)
    page.keyboard.press("Escape")
    expect(tip).to_be_hidden()
    chart.locator("[role=graphics-symbol]").last.click(force=True)
    expect(tip).to_be_visible()


def test_a_few_numbers_typed_at_the_tile_are_drawn_and_changed_there(author, server):
    page = author
    page.goto(f"{server}/")
    page.get_by_role("link", name=re.compile("garden club")).first.click()
    editor_is_ready(page)
    page.get_by_role("button", name="What should the reader see?").first.click()
    page.get_by_role("button", name="A few numbers").click()
    page.get_by_label("Type or paste names and numbers").fill("Beans 12\nPeas 7")
    page.get_by_role("button", name="Draw them").click()
    field = page.get_by_label("Its numbers")
    expect(field).to_have_value(re.compile("Beans\t12"))
    chart = page.locator(".tile.chosen svg")
    field.fill("Name\tAmount\nBeans\t12\nPeas\t7\nMarrows\t31")
    expect(chart).to_contain_text("Marrows")
    expect(field).to_be_focused()
    page.get_by_role("button", name="Swap rows and columns").click()
    expect(field).to_have_value(re.compile("^Name\tBeans\tPeas\tMarrows"))
    field.fill("no number here")
    field.blur()
    expect(page.get_by_role("alert").filter(has_text="names but no numbers")).to_be_visible()
