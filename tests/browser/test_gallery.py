"""The gallery of templates: seen with one's own rows, changed in its roles, taken."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, made_report, open_report
from tests.browser.test_access import violations

pytestmark = pytest.mark.browser


def test_a_page_is_found_seen_with_own_rows_changed_and_taken(desk, server):
    desk.get_by_role("link", name="Start something new").click()
    desk.get_by_role("link", name="See what it could look like with Visits", exact=True).click()
    expect(desk.get_by_role("heading", name="Pages made of “Visits”")).to_be_visible()
    card = desk.locator(".card-of", has_text="Two sides compared")
    expect(card.locator(".picture svg")).to_contain_text("Market Square")
    lacking = desk.locator(".card-of", has_text="What they wrote")
    expect(lacking).to_contain_text("Still needs text that people wrote")
    assert violations(desk) == []
    desk.get_by_role("link", name="Two sides compared").click()
    expect(desk.get_by_role("img", name="Two sides compared, drawn with “Visits”")).to_contain_text("Market Square")
    desk.get_by_label("Groups, such as places or kinds").select_option("Kind")
    desk.get_by_label("Its headline").fill("Grown-ups and children")
    desk.get_by_role("button", name="Show it so").click()
    expect(desk.locator(".sheet-of-page")).to_contain_text("Child")
    expect(desk.locator(".sheet-of-page")).to_contain_text("Grown-ups and children")
    assert violations(desk) == []
    desk.get_by_role("button", name="Make this page").click()
    expect(desk).to_have_url(re.compile(r"/reports/[\w-]+/$"))
    expect(desk.locator("#page .tile", has_text="Adult").first).to_be_visible()


def test_a_report_changes_its_mind_and_has_all_back(desk, server):
    """Another style, other type, another template; what found no place waits; undo brings all back."""
    table = re.search(r'href="/tables/([\w-]+)/">Visits<', desk.request.get(server + "/").text())[1]
    desk.goto(f"{server}/gallery/month-in-figures/?table={table}")
    desk.get_by_role("button", name="Make this page").click()
    editor_is_ready(desk)
    first = desk.locator("#page .tile").count()
    desk.locator("#margin details[data-topic=Colours] > summary").click()
    with desk.expect_response("**/edits/"):
        desk.get_by_role("button", name=re.compile("^Night")).click()
    expect(desk.locator("#page")).to_have_css("background-color", "rgb(19, 26, 46)")
    desk.locator("#margin details[data-topic=Type] > summary").click()
    with desk.expect_response("**/edits/"):
        desk.locator(".families").first.get_by_role("button", name="Fraunces").click()
    expect(desk.locator(".families").first.locator("[aria-pressed=true]")).to_contain_text("Fraunces")
    assert violations(desk, "#margin") == []
    desk.get_by_role("link", name="Lay it out by a template").click()
    desk.get_by_role("link", name="Who leads").click()
    desk.get_by_role("button", name=re.compile("^Lay “.*” out so$")).click()
    editor_is_ready(desk)
    expect(desk.get_by_text("What found no place waits here. Readers never see it.")).to_be_visible()
    assert violations(desk) == []
    desk.get_by_role("button", name="Undo").click()
    expect(desk.get_by_text("What found no place waits here. Readers never see it.")).to_be_hidden()
    expect(desk.locator("#page .tile")).to_have_count(first)
    expect(desk.locator("#page")).to_have_css("background-color", "rgb(19, 26, 46)")


def test_numbers_of_a_text_are_corrected_and_become_a_visual(desk, server):
    text = "41 per cent came on foot, 29 per cent by bus and 30 per cent by car."
    tile = {"type": "text", "id": "t1", "role": "body", "text": text}
    made_report(desk, server, "On foot", [{"type": "add_band", "band": {"id": "b1", "tiles": [tile]}}])
    desk.locator("#page .tile", has_text="came on foot").locator(".pick").click()
    desk.locator("#margin details[data-topic='Numbers in it'] > summary").click()
    part = desk.get_by_role("group", name=re.compile("^Parts of a whole"))
    expect(part.get_by_role("textbox").nth(4)).to_have_value("by bus")
    assert violations(desk, "#margin") == []
    part.get_by_role("textbox").nth(4).fill("by train")
    with desk.expect_response("**/edits/"):
        part.get_by_role("button", name="Donut").click()
    expect(desk.locator("#page .tile.visual")).to_contain_text("by train")
    expect(desk.locator("#page")).to_contain_text("came on foot, 29 per cent")


def test_a_page_is_kept_as_a_template_and_a_band_of_it_put_into_another_report(desk, server):
    open_report(desk, server, "Brackenshire Libraries")
    report = desk.url
    desk.get_by_role("link", name=re.compile("Visits follow the seasons. Go there")).click()
    desk.get_by_role("link", name="Keep this band as a template").click()
    desk.get_by_label("What is it called?").fill("Who comes when")
    assert violations(desk) == []
    desk.get_by_role("button", name="Keep it").click()
    expect(desk.get_by_role("heading", name="Who comes when")).to_be_visible()
    assert violations(desk) == []
    made_report(desk, server, "Takes a band")
    desk.get_by_role("button", name="Ready-made bands").click()
    with desk.expect_response("**/edits/"):
        desk.get_by_role("button", name="Who comes when").click()
    expect(desk.locator("#page .tile.visual", has_text="Visits per month")).to_be_visible()
    desk.goto(report)
    editor_is_ready(desk)
    desk.get_by_role("link", name="Keep it as a template").click()
    desk.get_by_label("What is it called?").fill("Our month")
    desk.get_by_role("button", name="Keep it").click()
    expect(desk.get_by_role("img", name="Our month, drawn with “Visits”")).to_contain_text("Market Square")
    desk.get_by_text("This template is your own").click()
    with desk.expect_download() as file:
        desk.get_by_role("link", name="Keep it as a file").click()
    desk.get_by_role("button", name="Take it away").click()
    expect(desk.get_by_text("The template “Our month” is gone.")).to_be_visible()
    desk.get_by_label("A template that somebody gave you").set_input_files(file.value.path())
    desk.get_by_role("button", name="Take it in").click()
    expect(desk.get_by_role("heading", name="Our month")).to_be_visible()


def test_a_house_style_is_made_on_a_page_picked_from_it_and_worn_by_another(desk, server):
    ground = {"colour": "#8a3b12"}
    tile = {"type": "text", "id": "t1", "role": "heading", "text": "Brown"}
    band = {"id": "b1", "ground": ground, "tiles": [tile]}
    made_report(desk, server, "Makes a style", [{"type": "add_band", "band": band}])
    desk.locator("#margin details[data-topic='One by one'] > summary").click()
    assert violations(desk, "#margin") == []
    desk.get_by_role("button", name="Pick from the page: Series 2").click()
    expect(desk.get_by_text("Press a colour of the page.")).to_be_visible()
    place = desk.locator("#page [data-band=b1]").bounding_box()
    with desk.expect_response("**/edits/"):
        desk.mouse.click(place["x"] + place["width"] - 12, place["y"] + 8)
    expect(desk.locator("[data-series-at='1']")).to_have_value("#8a3b12")
    expect(desk.get_by_text("Press a colour of the page.")).to_be_hidden()
    # Left by Escape, nothing is picked, and the page is pressed as ever.
    desk.get_by_role("button", name="Pick from the page: Ink").click()
    desk.keyboard.press("Escape")
    first = desk.locator("[data-series-at='0']").input_value()
    with desk.expect_response("**/edits/"):
        desk.get_by_role("button", name="Shuffle the roles").click()
    expect(desk.locator("[data-series-at='0']")).not_to_have_value(first)
    desk.locator("#margin details[data-topic='House style'] > summary").click()
    desk.get_by_label("Keep how this report looks, under a name").fill("Brown and white")
    desk.get_by_role("button", name="Keep it as a house style").click()
    expect(desk.get_by_text("It wears Brown and white as it is.")).to_be_visible()
    assert violations(desk, "#margin") == []
    emphasis = desk.locator("[data-series-at='0']").input_value()
    made_report(desk, server, "Wears a style")
    desk.locator("#margin details[data-topic='House style'] > summary").click()
    desk.get_by_label("House style").select_option("Brown and white")
    desk.get_by_role("button", name="Put it on").click()
    expect(desk.get_by_text("It wears Brown and white as it is.")).to_be_visible()
    expect(desk.locator("[data-series-at='0']")).to_have_value(emphasis)
    desk.get_by_role("link", name="Brown and white").click()
    expect(desk.get_by_role("link", name="Wears a style")).to_be_visible()
    assert violations(desk) == []


def test_a_text_that_is_pasted_becomes_a_page_with_its_numbers_drawn(desk, server):
    desk.goto(f"{server}/reports/new/")
    desk.get_by_role("link", name="Paste a text").click()
    desk.get_by_label("The text").fill(
        "How people come\n\n41 per cent came on foot, 29 per cent by bus and 30 per cent by car.\n\nThat is all."
    )
    desk.get_by_role("button", name="Look through it").click()
    assert violations(desk) == []
    beside = desk.get_by_role("group", name="Beside it")
    expect(beside.get_by_role("radio", name="Donut")).to_be_checked()
    beside.get_by_role("radio", name="Strip of shares").check()
    desk.get_by_role("button", name="Make the page").click()
    editor_is_ready(desk)
    expect(desk.locator("#page .tile.visual")).to_contain_text("came on foot")
    expect(desk.locator("#page")).to_contain_text("That is all.")
