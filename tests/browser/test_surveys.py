"""Surveys: figures at one click, small groups hidden in the sentence, the order of answers said once."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import open_report, undo

ANSWERS = "Food,Area\n" + "Poor,Coast\nMeh,Coast\nGood,Hills\nFair,Hills\nExcellent,Town\n" * 6


def open_survey_report(page, server):
    open_report(page, server, "What readers told us")


def test_a_matrix_of_ratings_is_added_by_one_click(author, server):
    page = author
    open_survey_report(page, server)
    tiles = page.locator("#page .tile.visual")
    before = tiles.count()
    page.locator(".add-tile").last.click()
    page.get_by_role("button", name="What people answered").click()
    expect(page.locator(".suggestion", has_text="From Exit notes.")).not_to_have_count(0)
    page.locator("[data-table]").select_option(label="Readers survey")
    expect(page.locator(".suggestion", has_text="From Exit notes.")).to_have_count(0)
    expect(page.locator("[data-table]")).to_be_focused()
    page.locator(".suggestion", has_text="4 ratings on one scale").first.click()
    expect(tiles).to_have_count(before + 1)
    expect(page.locator(".sentence")).to_contain_text("of the columns Satisfied with: Staff, Choice of books")
    expect(page.locator(".sentence")).to_contain_text("bars to both sides")
    page.get_by_role("button", name=re.compile("^Satisfied with: Staff")).click()
    page.locator(".menu.show").get_by_role("button", name="Computers").click()
    expect(page.locator(".sentence")).to_contain_text("Staff, Choice of books and Opening hours")
    undo(page, 2)
    expect(tiles).to_have_count(before)


def test_small_groups_are_hidden_by_a_word_of_the_sentence_and_readers_are_told(author, server):
    page = author
    open_survey_report(page, server)
    page.get_by_role("button", name=re.compile("^Mean rating by age")).click()
    page.get_by_role("button", name="groups of fewer than 30").click()
    blanks = page.get_by_role("group", name="another size")
    blanks.get_by_label("groups of fewer than").fill("60")
    blanks.get_by_label("groups of fewer than").press("Enter")
    expect(page.locator("#page")).to_contain_text(re.compile(r"Groups of fewer than 60 people are hidden: .*16 to 24"))
    expect(page.locator("#margin")).to_contain_text("Groups of fewer than 60 people are hidden")
    undo(page)


def test_the_order_of_unknown_words_is_said_once_and_kept(author, server):
    page = author
    page.goto(f"{server}/tables/new/")
    page.get_by_label(re.compile("^The file")).set_input_files(
        {"name": "canteen.csv", "mimeType": "text/csv", "buffer": ANSWERS.encode()}
    )
    page.get_by_role("button", name="Take it in").click()
    # The rows are fetched by the page's script, which is then listening.
    expect(page.get_by_role("gridcell").first).to_be_visible()
    expect(page.get_by_text("the place of “Meh” is not known")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Put them in this order")).click()
    step = page.get_by_role(
        "button", name="Put the answers of “Food” in order: Poor, Fair, Good, Excellent, Meh", exact=True
    )
    expect(step).to_be_visible()
