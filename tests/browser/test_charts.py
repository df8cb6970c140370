"""Charts in the editor and as readers see them: settings, typed filters, marks by keyboard, numbers."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import chosen_figure, editor_is_ready, open_report, table_called, undo, unfold
from ypsil.core.style import HouseStyle

RISE = HouseStyle().rise


def open_chart(page, server, *, unfolded=True):
    open_report(page, server, "[^<]*how the month went")
    page.locator(".tile.visual .pick").nth(1).click()
    expect(page.locator(".sentence .word")).to_have_text(["total", "Visits", "month", "Month", "Kind", "lines"])
    if unfolded:
        unfold(page)


def quiet_lines(page):
    return page.locator("#page .tile.visual").nth(1).locator("svg path[stroke='#c9c6d6']")


def test_a_setting_redraws_the_chart_and_is_undone(author, server):
    page = author
    open_chart(page, server)
    page.get_by_label("Line at the average").check()
    expect(page.locator("#page")).to_contain_text("Average")
    page.get_by_label("Line to stand out").fill("Adult")
    page.get_by_label("Line to stand out").press("Tab")
    expect(quiet_lines(page)).to_have_count(1)
    undo(page)
    expect(quiet_lines(page)).to_have_count(0)
    undo(page)
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
    undo(page)
    expect(page.locator(".sentence .word")).to_have_count(6)


def test_what_is_done_along_the_months_is_chosen_in_the_sentence(author, server):
    page = author
    open_chart(page, server)
    page.get_by_role("button", name="as a running total, change …").click()
    page.get_by_role("button", name="3-month moving average", exact=True).click()
    expect(page.locator(".sentence .word").first).to_have_text("3-month moving average of")
    undo(page)
    expect(page.locator(".sentence .word").first).to_have_text("total")


def test_a_look_is_given_to_several_charts_at_once_and_taken_back_at_once(author, server):
    page = author
    open_chart(page, server)
    page.get_by_label("Colours (each palette").select_option("berry")
    expect(page.locator("#page svg path[stroke='#8e1f5b']")).to_have_count(1)
    page.get_by_role("button", name="Give this look to other charts").click()
    looks = page.get_by_role("group", name="Give this look to")
    looks.get_by_role("button", name="Tick all").click()
    looks.get_by_role("button", name="Give it").click()
    bars = page.locator("#page svg rect[fill='#8e1f5b']")
    expect(bars.nth(3)).to_be_visible()
    undo(page)
    expect(page.locator("#page svg path[stroke='#8e1f5b']")).to_have_count(1)
    expect(bars.nth(30)).to_have_count(0)
    undo(page)
    expect(page.locator("#page svg [stroke='#8e1f5b']")).to_have_count(0)


def test_numbers_are_written_as_in_another_country(author, server):
    page = author
    open_chart(page, server)
    page.get_by_label("Written as in").select_option(label="1.234,5 Deutsch (Deutschland)")
    expect(page.locator("#page")).to_contain_text("8.000")
    undo(page)
    expect(page.locator("#page")).not_to_contain_text("8.000")


def test_what_is_typed_while_an_earlier_setting_is_being_saved_stays(author, server):
    page = author
    open_chart(page, server)
    # The reply to the first setting arrives, and the margin is drawn anew, while the second is being typed.
    page.route("**/edits/", lambda route: (page.wait_for_timeout(600), route.continue_()))
    page.get_by_label("Name of the line").fill("Target")
    page.get_by_label("Line at (").fill("5000")
    page.get_by_label("Name of the band").click()
    page.keyboard.type("Usu")
    expect(page.locator("[data-option=reference]")).to_have_js_property("defaultValue", "5000")
    page.keyboard.type("al")
    expect(page.get_by_label("Name of the band")).to_have_value("Usual")
    page.keyboard.press("Tab")
    expect(page.locator("[data-option=band_name]")).to_have_js_property("defaultValue", "Usual")
    expect(page.locator("#page")).to_contain_text("Target")
    undo(page, 3)


def test_a_note_is_written_at_a_mark_and_said_when_its_mark_is_gone(author, server):
    page = author
    open_chart(page, server)
    page.get_by_label("Note at").fill("Jan 2026, Adult")
    page.get_by_label("What it says").fill("Burst pipe at Elmstow")
    page.get_by_label("What it says").press("Tab")
    expect(page.locator("#page")).to_contain_text("Burst pipe at Elmstow")
    page.get_by_label("Note at").fill("Jan 1999")
    page.get_by_label("Note at").press("Tab")
    expect(page.locator("#margin .problem")).to_contain_text("The note about “Jan 1999” is not shown")
    undo(page, 3)
    expect(page.locator("#page")).to_contain_text("The summer reading game")


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
    page.get_by_label("Row 1, column 1").press_sequentially("Beans")
    page.keyboard.press("Tab")
    page.keyboard.type("12")
    page.get_by_label("Row 2, column 1").press_sequentially("Peas")
    page.keyboard.press("Tab")
    page.keyboard.type("7")
    page.get_by_role("button", name="Draw them").click()
    grid = page.locator("#margin .typed-rows")
    cell = page.locator("#margin").get_by_label
    expect(cell("Row 1, column 1")).to_have_value("Beans")
    expect(cell("Name of column 2")).to_have_value("Amount")
    chart = page.locator(".tile.chosen svg")
    cell("Row 2, column 2").focus()
    page.keyboard.press("Enter")
    cell("Row 3, column 1").press_sequentially("Marrows")
    cell("Row 3, column 2").press_sequentially("31")
    expect(chart).to_contain_text("Marrows")
    expect(cell("Row 3, column 2")).to_be_focused()
    page.get_by_role("button", name="Swap rows and columns").click()
    expect(cell("Name of column 4")).to_have_value("Marrows")
    expect(grid.locator("tr")).to_have_count(2)
    for place in (2, 3, 4):
        cell(f"Row 1, column {place}").fill("none")
    page.get_by_role("textbox", name="Title").focus()
    expect(page.get_by_role("alert").filter(has_text="Nothing can be drawn from this")).to_be_visible()
    expect(cell("Row 1, column 4")).to_have_value("none")


def test_a_late_margin_neither_closes_a_menu_nor_makes_a_second_step(author, server):
    page = author
    open_chart(page, server)
    colours = page.get_by_label("Colours (each palette")
    colours.select_option("berry")
    expect(page.get_by_role("button", name="Give this look to other charts")).to_be_visible()
    # The margin that belongs to a setting comes while the next thing is already being done in the old one.
    held = []
    page.route(re.compile(r"/tiles/[0-9a-f]+/$"), lambda route: held.append(route))

    def let_the_margin_come():
        while held:
            held.pop(0).continue_()

    page.get_by_label("Line at the average").check()
    expect(page.locator("#page")).to_contain_text("Average")
    page.get_by_role("button", name="Give this look to other charts").click()
    looks = page.get_by_role("group", name="Give this look to")
    looks.get_by_role("checkbox").first.check()
    let_the_margin_come()
    expect(page.locator("[data-option=average]")).to_have_js_property("defaultChecked", True)
    expect(looks).to_be_visible()
    expect(looks.get_by_role("checkbox").first).to_be_checked()
    page.keyboard.press("Escape")
    expect(looks).to_be_hidden()

    colours.select_option("sea")
    expect(page.locator("#page svg path[stroke='#8e1f5b']")).to_have_count(0)
    page.get_by_label("Line to stand out").fill("Adult")
    let_the_margin_come()
    expect(colours.locator("option[selected]")).to_have_attribute("value", "sea")
    page.get_by_label("Line to stand out").press("Tab")
    expect(quiet_lines(page)).to_have_count(1)
    let_the_margin_come()
    undo(page)
    expect(quiet_lines(page)).to_have_count(0)
    undo(page, 3)


def test_a_field_that_is_entered_before_the_margin_is_drawn_anew_takes_what_is_typed(author, server):
    page = author
    open_chart(page, server)
    held = []
    margin = re.compile(r"/tiles/[0-9a-f]+/$")
    page.route(margin, lambda route: held.append(route))
    page.get_by_label("Line at the average").check()
    expect(page.locator("#page")).to_contain_text("Average")
    name = page.get_by_label("Name of the line")
    name.click()
    expect(name).to_be_focused()
    for route in held:
        route.continue_()
    page.unroute(margin)
    expect(page.locator("[data-option=average]")).to_have_js_property("defaultChecked", True)
    expect(name).to_be_focused()
    page.keyboard.type("Limit")
    expect(name).to_have_value("Limit")
    page.get_by_label("Line at the average").focus()
    expect(page.locator("[data-option=reference_name]")).to_have_js_property("defaultValue", "Limit")
    undo(page, 2)
    expect(page.locator("#page")).not_to_contain_text("Average")


def test_how_words_are_counted_is_changed_in_the_sentence(author, server):
    page = author
    page.goto(f"{server}/")
    page.get_by_role("link", name=re.compile("how the month went")).first.click()
    editor_is_ready(page)
    page.locator("#page .tile.visual").filter(has_text="reading room").locator(".pick").click()
    word = page.locator(".sentence .word")
    word.filter(has_text="sure phrases kept together").click()
    page.locator(".menu.show").get_by_role("button", name="no phrases kept together").click()
    expect(word.filter(has_text="kept together")).to_have_count(0)
    page.locator(".sentence").get_by_role("button", name="word", exact=True).click()
    page.locator(".menu.show").get_by_role("button", name="two-word phrase").click()
    expect(word.filter(has_text="two-word phrase")).to_be_visible()
    page.get_by_role("button", name="written …").click()
    page.locator(".menu.show").get_by_role("button", name="in capitals").click()
    expect(page.locator("#page .tile.visual").filter(has_text="READING ROOM")).to_be_visible()
    undo(page, 3)
    expect(word.filter(has_text="sure phrases kept together")).to_be_visible()


def test_which_way_is_good_is_said_once_with_the_table_and_colours_the_changes(author, server):
    page = author
    rises = chosen_figure(page, server, "waterfall").locator(f"rect[fill='{RISE}']")
    report = page.url
    expect(page.get_by_label("Which way is good")).to_have_value("as said")
    expect(rises).to_have_count(0)
    expect(page.locator("#margin")).to_contain_text("Nobody has said which way of")
    page.goto(f"{server}/")
    table_called(page, "Visits").click()
    expect(page.get_by_role("gridcell").first).to_be_visible()
    page.get_by_label("Add a step").select_option("good_way")
    page.get_by_label("Column", exact=True).select_option("Visits")
    page.get_by_label("It is good when it").select_option("up")
    page.get_by_role("button", name="Add the step").click()
    step = page.get_by_role("button", name="It is good when “Visits” rises", exact=True)
    expect(step).to_be_visible()
    table = page.url
    page.goto(report)
    editor_is_ready(page)
    page.locator(".tile.visual .pick").click()
    expect(page.get_by_label("Which way is good")).to_have_value("as said")
    expect(rises).not_to_have_count(0)
    expect(page.locator("#margin")).not_to_contain_text("Nobody has said")
    page.goto(table)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(step).to_have_count(0)


def test_three_settings_stand_open_and_the_rest_is_folded_by_topic(author, server):
    page = author
    open_chart(page, server, unfolded=False)
    margin = page.locator("#margin")
    expect(margin.locator("div.settings > .field")).to_have_count(3)
    expect(margin.locator("details.settings").first).to_be_visible()
    assert not margin.locator("details.settings .field").first.is_visible()
    axes = margin.locator("details.settings[data-topic=Axes]")
    axes.locator("summary").focus()
    page.keyboard.press("Enter")
    box = axes.locator("input[type=checkbox]").first
    box.click()
    # What is changed is counted, and what was unfolded stays so when the margin is drawn anew.
    expect(axes.locator("summary")).to_contain_text("1 changed")
    expect(axes.locator("input[type=checkbox]").first).to_be_visible()
    undo(page, 1)


def test_a_column_is_named_for_readers_beside_a_tile(author, server):
    page = author
    open_chart(page, server)
    for shown, drawn in (("People at the door", "Total People at the door"), ("", "Total Visits")):
        field = page.locator("#margin [data-shown-as=Visits]")
        field.fill(shown)
        with page.expect_response("**/recipe/"):
            field.press("Tab")
        expect(page.locator("#page .tile.visual").nth(1)).to_contain_text(drawn)
        # The page was loaded anew: the sentence keeps the table's name.
        editor_is_ready(page)
        page.locator(".tile.visual .pick").nth(1).click()
        expect(page.locator(".sentence .word").nth(1)).to_have_text("Visits")
        unfold(page)


def test_a_setting_is_found_by_its_name_and_stays_found_while_it_is_changed(desk, server):
    page = desk
    page.get_by_role("link", name=re.compile("how the month went")).first.click()
    editor_is_ready(page)
    page.locator(".tile.visual .pick").nth(1).click()
    margin = page.locator("#margin")
    search = margin.get_by_label("Find a setting")
    search.fill("from zero")
    wanted = margin.get_by_label("Values from zero")
    expect(wanted).to_be_visible()
    expect(margin.locator("details.settings .field:visible")).to_have_count(1)
    with page.expect_response("**/edits/"):
        wanted.press("Space")
    expect(search).to_have_value("from zero")
    expect(margin.locator("details.settings .field:visible")).to_have_count(1)
    search.fill("xyzzy")
    expect(margin.get_by_text("No setting is called that.")).to_be_visible()
    search.fill("")
    expect(margin.locator("details.settings[open]")).to_have_count(0)
    expect(margin.locator("details.settings:visible").nth(2)).to_be_visible()
    undo(page)
