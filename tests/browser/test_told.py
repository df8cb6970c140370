"""What is told in order, on the bench: typed row by row, pasted, moved, from a table, with icons."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready
from tests.browser.test_access import violations
from tests.browser.test_bench import bench, saved

__all__ = ["bench"]
BRANCHES = re.compile("Market Square|Alder Lane|Cobble Street|Brack")


def added(page, label, purpose="Tell in order, or side by side"):
    page.locator("#ladder [data-go]").nth(1).click()
    page.keyboard.press("/")
    page.get_by_role("button", name=purpose).click()
    page.locator("#choices .suggestion", has_text=label).first.click()


def heads(page):
    return [field.input_value() for field in page.locator("[data-part=head]").all()]


def reaches(page, wanted):
    """Wait until the margin shows entries."""
    expect(page.locator("[data-part=head]")).to_have_count(len(wanted))
    for field, head in zip(page.locator("[data-part=head]").all(), wanted, strict=True):
        expect(field).to_have_value(head)


def paste(page, selector, text):
    page.evaluate(
        """([selector, text]) => {
          const data = new DataTransfer();
          data.setData("text/plain", text);
          const event = new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true });
          document.querySelector(selector).dispatchEvent(event);
        }""",
        [selector, text],
    )


def test_entries_are_typed_at_once_where_a_list_is_added_or_pressed_twice(bench):
    page = bench
    added(page, "Steps")
    expect(page.locator("#part-head1")).to_be_focused()
    page.keyboard.type("Come in")
    page.keyboard.press("Enter")
    expect(page.locator("#part-head2")).to_be_focused()
    page.locator("#ladder [data-go]").first.click()
    page.locator('[data-kind="steps"] [data-pick]').dblclick()
    expect(page.locator("#part-head1")).to_be_focused()
    expect(page.locator("#part-head1")).to_have_value("Come in")


def test_steps_are_typed_one_after_the_other_with_enter(bench):
    page = bench
    added(page, "Steps")
    steps = page.locator('[data-band="two"] [data-kind="steps"]')
    expect(steps.locator(".invite")).to_contain_text("Each step is typed beside the page")
    page.locator("#part-head1").fill("Collect the slips")
    page.keyboard.press("Enter")
    expect(page.locator("#part-head2")).to_be_focused()
    page.keyboard.type("Count them")
    page.keyboard.press("Enter")
    expect(page.locator("#part-head3")).to_be_focused()
    page.keyboard.type("Tell the board")
    page.keyboard.press("Enter")
    # Beyond the last one, another is begun.
    expect(page.locator("#part-head4")).to_be_focused()
    expect(steps.locator("svg text", has_text="Tell the board")).to_have_count(1)
    saved(page)
    assert violations(page) == []


def test_several_pasted_lines_become_several_and_are_moved_and_taken_away(bench):
    page = bench
    added(page, "A list with signs")
    expect(page.locator("#part-head1")).to_be_visible()
    paste(page, "#part-head1", "1. Old Mill\tBy the river\n2. Harbour Street\n3. Market Square\n4. Thistle Hill\n")
    wanted = ["Old Mill", "Harbour Street", "Market Square", "Thistle Hill"]
    reaches(page, wanted)
    assert page.locator("#part-text1").input_value() == "By the river"
    page.get_by_role("button", name="Move 2 up").click()
    reaches(page, ["Harbour Street", "Old Mill", "Market Square", "Thistle Hill"])
    expect(page.locator("#part-head1")).to_be_focused()
    page.get_by_role("button", name="Take 3 away").click()
    reaches(page, ["Harbour Street", "Old Mill", "Thistle Hill"])
    page.get_by_role("button", name="Undo").click()
    reaches(page, ["Harbour Street", "Old Mill", "Market Square", "Thistle Hill"])


def test_an_icon_is_found_by_its_meaning_and_one_in_colour_too(bench):
    page = bench
    added(page, "Steps")
    expect(page.locator("#part-head1")).to_be_visible()
    page.locator("#part-head1").fill("Pay")
    # A menu is opened once the margin is drawn anew for what was typed.
    with page.expect_response("**/tiles/*/"):
        page.keyboard.press("Tab")
    expect(page.locator("#part-head1")).to_have_value("Pay")
    expect(page.locator('[data-kind="steps"] svg text', has_text="Pay")).to_have_count(1)
    page.locator("#part-sign1").click()
    page.get_by_label("Find an icon or a picture").first.fill("cost")
    page.locator(".menu.show").get_by_role("button", name="coin", exact=True).click()
    expect(page.locator("#part-sign1 svg")).to_be_visible()
    saved(page)
    page.locator("#part-sign2").click()
    menu = page.locator(".menu.show")
    menu.get_by_label("Kind").select_option("coloured")
    menu.get_by_label("Find an icon or a picture").fill("fox")
    menu.get_by_role("button", name="fox", exact=True).click()
    expect(page.locator("#part-sign2 svg")).to_be_visible()
    # What was used last stands first the next time.
    page.locator("#part-sign3").click()
    signs = page.locator('.menu.show [data-found-icons] [data-icon^="line:"]')
    expect(signs.first).to_have_attribute("data-icon", "line:coin")
    assert violations(page) == []


def test_a_large_icon_is_chosen_from_its_margin(bench):
    page = bench
    added(page, "An icon", "An icon or a code")
    sign = page.locator('[data-band="two"] [data-kind="sign"]')
    before = sign.locator("svg path").first.get_attribute("d")
    page.locator("#field-sign").click()
    page.locator(".menu.show").get_by_label("Find an icon or a picture").fill("leaf")
    page.locator(".menu.show").get_by_role("button", name="leaf", exact=True).click()
    expect(sign.locator("svg path").first).not_to_have_attribute("d", before)
    page.locator("#tile-plate").select_option("circle")
    expect(sign.locator("svg rect")).to_have_count(1)
    saved(page)


def test_all_icons_of_a_report_change_together(bench):
    page = bench
    added(page, "A callout")
    page.locator("#part-head1").fill("Closed on Monday")
    page.keyboard.press("Tab")
    line = page.locator('[data-kind="callout"] svg path[stroke]').first
    expect(line).to_be_visible()
    before = line.get_attribute("stroke-width")
    saved(page)
    page.reload()
    editor_is_ready(page)
    page.locator("summary", has_text="How its icons look").click()
    page.get_by_label("Width of their line").fill("3")
    page.keyboard.press("Tab")
    expect(line).not_to_have_attribute("stroke-width", before)
    page.get_by_label("Icons are").select_option("line")
    expect(page.locator('[data-kind="callout"] svg path[opacity]')).to_have_count(0)


def test_a_code_says_what_is_wrong_with_its_address_and_is_drawn_with_a_good_one(bench):
    page = bench
    added(page, "A code to scan", "An icon or a code")
    code = page.locator('[data-band="two"] [data-kind="code"]')
    expect(code.locator(".invite")).to_contain_text("Type the address")
    page.locator("#tile-address").fill("library")
    page.keyboard.press("Tab")
    expect(code).to_contain_text("This leads nowhere")
    page.locator("#tile-address").fill("https://example.org/survey")
    page.keyboard.press("Tab")
    expect(code.locator("svg desc")).to_have_text("It opens https://example.org/survey")


def test_readers_follow_what_leads_somewhere(bench, browser):
    page = bench
    added(page, "A callout")
    page.locator("#part-head1").fill("Tell us what you miss")
    page.keyboard.press("Tab")
    saved(page)
    page.locator("summary", has_text="Where it leads").click()
    page.get_by_label(re.compile("Readers who press it")).fill("javascript:alert(1)")
    page.keyboard.press("Tab")
    expect(page.locator("[data-problems], .problem, [role=alert]", has_text="leads nowhere").first).to_be_visible()
    page.get_by_label(re.compile("Readers who press it")).fill("#one")
    page.keyboard.press("Tab")
    saved(page)
    page.goto(page.url + "preview/")
    link = page.locator("a.leads")
    expect(link).to_have_attribute("href", "#one")
    expect(link).to_contain_text("Tell us what you miss")
    link.focus()
    page.keyboard.press("Enter")
    assert page.url.endswith("#one")
    assert violations(page) == []


@pytest.mark.parametrize("kind", ["steps", "timeline"])
def test_rows_of_a_table_are_told_and_follow_their_columns(bench, kind):
    page = bench
    added(page, {"steps": "Steps", "timeline": "A timeline"}[kind])
    expect(page.get_by_label("Or from a table")).to_be_visible()
    choices = page.get_by_label("Or from a table").locator("option")
    named = next(one for one in choices.all() if one.inner_text() == "Visits")
    page.get_by_label("Or from a table").select_option(value=named.get_attribute("value"))
    expect(page.get_by_label("Each step is" if kind == "steps" else "Each event is")).to_be_visible()
    page.locator("#feed-most").fill("3")
    page.keyboard.press("Tab")
    tile = page.locator(f'[data-band="two"] [data-kind="{kind}"]')
    # Whoever listens hears a list.
    expect(tile.locator("ol.spoken li")).to_have_count(3)
    page.locator("#feed-head").select_option("Branch")
    expect(tile.locator("svg text", has_text=BRANCHES).first).to_be_visible()
    page.get_by_role("button", name="Type them instead").click()
    expect(page.locator("[data-entries]")).to_be_visible()
    saved(page)


def test_every_kind_is_offered_with_a_drawing(bench):
    page = bench
    page.locator("#ladder [data-go]").nth(1).click()
    page.keyboard.press("/")
    page.get_by_role("button", name="Tell in order, or side by side").click()
    offers = page.locator("#choices .suggestion")
    expect(offers.first).to_contain_text("Steps")
    assert offers.count() >= 16 and offers.locator("svg").count() == offers.count()
    assert violations(page) == []
