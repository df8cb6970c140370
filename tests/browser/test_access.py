"""axe-core finds nothing on any page, in light and in dark surroundings."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import checked, table_called, undo, unfold
from tests.browser.pages import MEMBERS, STRANGERS

pytestmark = pytest.mark.browser


def csv_file(text):
    return {"name": "rows.csv", "mimeType": "text/csv", "buffer": text.encode()}


def violations(page, within=None, *, also_dark=True):
    """Return what axe-core finds, ``within`` a part of a page that was looked at before; in dark surroundings, where
    nothing but colours is another, only of these."""
    found = checked(page, {}, within=within)
    if also_dark:
        page.emulate_media(color_scheme="dark")
        found += checked(page, {"runOnly": ["color-contrast"]}, within=within)
        page.emulate_media(color_scheme="light")
    return [f"{one['id']}: {node['target']} {node['failureSummary']}" for one in found for node in one["nodes"]]


@pytest.mark.parametrize("address", STRANGERS)
def test_pages_for_strangers(page, server, address):
    page.goto(server + address)
    assert violations(page) == []


def test_pages_of_the_author(author, server):
    page = author
    for address in MEMBERS:
        page.goto(server + address)
        assert violations(page) == [], address
    page.goto(server)
    table_called(page, "Visits").click()
    table = page.url
    expect(page.get_by_role("heading", name="What we noticed")).to_be_visible()
    expect(page.get_by_role("gridcell", name="Alder Lane").first).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Visits").first.click()
    expect(page.get_by_text("Commonest")).to_be_visible()
    assert violations(page, ".panel") == []
    for step in ("merge_spellings", "keep_rows", "calculate", "look_up", "sort"):
        page.get_by_label("Add a step").select_option(step)
        expect(page.locator(f"[data-step-type={step}]")).to_be_visible()
        assert violations(page, ".panel") == [], step
    for address in ("held/", "comparison/", "newer/", "delete/"):
        page.goto(table + address)
        assert violations(page) == [], address
    page.goto(server)
    page.get_by_role("link", name=re.compile("^Brackenshire")).click()
    report = page.url
    for stage in ("tables/", "proof/", "publish/", "preview/", "delete/", "as-template/"):
        page.goto(report + stage)
        assert violations(page) == [], stage


def test_refused_and_held_files(author, server):
    page = author
    page.goto(server + "/tables/new/")
    page.get_by_label(re.compile("^The file")).set_input_files(csv_file("Branch,Visits\n"))
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("alert").first).to_contain_text("no rows under it")
    assert violations(page) == []
    page.goto(server + "/tables/new/")
    page.get_by_label(re.compile("^The file")).set_input_files(csv_file("Branch," + "x" * 1_100_000 + "\n"))
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("alert")).to_contain_text("no rows under it")
    assert "/arrivals/" in page.url
    assert violations(page) == []
    page.goto(server)
    page.get_by_role("link", name="Seedlings").click()
    page.get_by_role("link", name="Add newer data").click()
    assert violations(page) == []
    page.get_by_label(re.compile("^The file")).set_input_files(csv_file("Measured,Treatment\n13/04/2026,Sand\n"))
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("heading", name=re.compile("waits for you$"))).to_be_visible()
    assert violations(page) == []
    page.goto(server)
    page.get_by_role("link", name=re.compile("^Compost wins")).click()
    report = page.url
    expect(page.locator(".held")).to_contain_text("no column “Height”")
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    assert violations(page) == []
    for kind in ("text", "sources"):
        page.locator(f"[data-kind={kind}] [data-pick]").first.click()
        expect(page.locator("#margin .foot")).to_contain_text("Remove")
        assert violations(page, "#margin") == []
    for stage in ("proof/", "publish/"):
        page.goto(report + stage)
        assert violations(page) == []


def test_every_visual_as_authors_and_readers_see_it(desk):
    page = desk
    # Of thousands of marks; what is round them is looked at in the dark with other reports.
    page.get_by_role("link", name=re.compile("^Gallery")).click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    assert violations(page, also_dark=False) == []
    page.goto(page.url + "preview/")
    chart = page.locator("svg[role=graphics-document]").first
    chart.focus()
    page.keyboard.press("ArrowRight")
    expect(page.locator(".tip")).to_be_visible()
    assert violations(page, also_dark=False) == []


def test_the_survey_report_and_the_chooser_of_its_figures(desk):
    page = desk
    page.get_by_role("link", name=re.compile("^What readers told us")).click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    report = page.url
    page.locator(".add-tile").first.click()
    page.get_by_role("button", name="What people answered").click()
    expect(page.locator(".suggestion").first).to_be_visible()
    assert violations(page, "#choices") == []
    page.keyboard.press("Escape")
    page.locator(".tile.visual .pick").nth(1).click()
    page.locator("#option-icon").press("Enter")
    expect(page.get_by_role("button", name="aeroplane")).to_be_visible()
    assert violations(page, "#margin") == []
    page.goto(report + "preview/")
    assert violations(page) == []


def test_the_words_of_a_cloud_their_answers_and_its_shapes(desk):
    page = desk
    page.get_by_role("link", name=re.compile("garden club")).first.click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    page.locator(".tile.visual .pick").last.click()
    page.get_by_role("button", name="worms", exact=True).click()
    expect(page.get_by_role("heading", name="“worms”")).to_be_focused()
    assert violations(page, "#margin") == []
    page.get_by_role("button", name="Leave it out").click()
    expect(page.get_by_text("“worms” is left out")).to_be_visible()
    page.locator("#option-shape").press("Enter")
    expect(page.get_by_role("button", name="ellipse")).to_be_visible()
    assert violations(page, "#margin") == []
    page.keyboard.press("Escape")
    undo(page)


def test_a_report_with_nothing_in_it_and_its_refused_file(author, server):
    page = author
    page.goto(server + "/reports/new/")
    page.get_by_label("What is it about?").fill("Nothing yet")
    page.get_by_role("button", name="Start").click()
    report = page.url
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    page.locator("#ladder [data-go]").first.click()
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(page.get_by_text("The report has no bands")).to_be_visible()
    assert violations(page) == []
    page.goto(report + "files/pdf/")
    expect(page.get_by_text("The report is empty")).to_be_visible()
    assert violations(page) == []
    page.goto(report + "preview/")
    assert violations(page) == []


def test_the_editor_with_its_margin_menu_and_chooser(desk):
    page = desk
    page.get_by_role("link", name=re.compile("^Brackenshire")).click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name=re.compile("^Visits per month")).click()
    expect(page.locator("#margin .sentence")).to_be_visible()
    assert violations(page, "#margin") == []
    page.locator("#margin .word").first.click()
    expect(page.locator(".menu.show")).to_be_visible()
    assert violations(page, ".menu.show") == []
    page.keyboard.press("Escape")
    unfold(page)
    page.get_by_label("Line at the average").check()
    page.get_by_role("button", name="Give this look to other charts").click()
    expect(page.locator(".menu.looks.show")).to_be_visible()
    assert violations(page, ".menu.looks.show") == []
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Undo").click()
    page.locator(".add-tile").first.click()
    page.get_by_role("button", name="Who is biggest").click()
    expect(page.locator(".suggestion").first).to_be_visible()
    assert violations(page, "#choices") == []
