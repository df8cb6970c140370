"""A walk over every page, at the widths of a phone, a tablet and two screens, with short names and with long ones."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import checked, editor_is_ready, table_called, unfold
from tests.browser.pages import MEMBERS, STRANGERS

pytestmark = pytest.mark.browser
FAULTS = (Path(__file__).parent / "faults.js").read_text()
ASKED_IN_FULL = (360, 1280)
# What is no larger than a px is there for those who listen; a choice is pressed by its label as well.
HAS_SMALL = """() => [...document.querySelectorAll('a, button, input, select, textarea, summary')].some((one) => {
  const { width, height } = ((/checkbox|radio/.test(one.type) && one.labels[0]) || one).getBoundingClientRect();
  return !one.closest('svg') && width > 1 && height > 1 && (width < 24 || height < 24);
})"""
WIDTHS = (360, 768, 1024, 1280, 1920)
OF_A_TABLE = ("", "newer/", "comparison/", "delete/")
OF_A_REPORT = ("", "preview/", "proof/", "publish/", "tables/", "delete/", "as-template/")
LONG = "Bartholomew-Montgomery.Featherstonehaugh"
LONG_TITLE = (
    "What the readers of all nine branches and the book bus told us about opening hours between spring and autumn"
)


def faults_of(page):
    page.evaluate("document.fonts.ready")
    return page.evaluate(FAULTS) + small_targets(page)


def small_targets(page):
    """What is pressed is at least 24 px large, or stands apart (WCAG 2.2, 2.5.8).

    On a phone and on a usual screen all is asked, also what lies over what; else only where something is small.
    """
    if page.viewport_size["width"] not in ASKED_IN_FULL and not page.evaluate(HAS_SMALL):
        return []
    found = checked(page, {"runOnly": ["target-size"]}, is_read=False)
    return [f"a target under 24 px: {node['target']}" for one in found for node in one["nodes"]]


def walk(page, server, addresses, widths=WIDTHS):
    """Return what is broken on the pages, each with its address and width."""
    found = []
    for address in addresses:
        page.goto(server + address)
        for width in widths:
            page.set_viewport_size({"width": width, "height": 800})
            found += [f"{address} at {width}: {fault}" for fault in faults_of(page)]
    return found


def linked(page, pattern):
    every = [link.get_attribute("href") for link in page.locator("a[href]").all()]
    return sorted({address for address in every if re.fullmatch(pattern, address)} - {"/tables/new/", "/reports/new/"})


def test_pages_for_strangers(page, server):
    assert walk(page, server, STRANGERS) == []


def test_the_pages_of_the_sample_author(author, server):
    page = author
    assert walk(page, server, MEMBERS) == []
    page.goto(server)
    tables = linked(page, r"/tables/[\w-]+/")
    assert len(tables) >= 9
    # The one of several versions has most to show.
    richest = table_called(page, "Visits").get_attribute("href")
    assert walk(page, server, [richest + part for part in OF_A_TABLE]) == []
    assert walk(page, server, [one for one in tables if one != richest], widths=(1280,)) == []


@pytest.mark.parametrize("name", ["how the month went", "told us this spring", "Compost wins", "Gallery"])
def test_the_reports_in_every_stage(author, server, name):
    page = author
    page.goto(server)
    address = page.get_by_role("link", name=re.compile(name)).first.get_attribute("href")
    assert walk(page, server, [address + part for part in OF_A_REPORT]) == []


def test_a_chosen_tile_its_settings_and_what_can_be_added(author, server):
    page = author
    page.goto(server)
    page.get_by_role("link", name=re.compile("how the month went")).first.click()
    editor_is_ready(page)
    page.locator(".tile.visual .pick").nth(1).click()
    expect(page.locator("#margin .sentence")).to_be_visible()
    unfold(page)
    assert faults_of(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("button", name="What should the reader see?").first.click()
    page.get_by_role("button", name="How it changes").click()
    expect(page.locator("#choices svg").first).to_be_visible()
    assert faults_of(page) == []


def test_names_as_long_as_they_may_be(page, server):
    page.goto(f"{server}/sign-up/")
    page.get_by_label("Name to sign in with").fill(LONG)
    for field in page.locator("input[type=password]").all():
        field.fill("a stem and two long arms")
    page.get_by_role("button", name="Make the account").click()
    expect(page.get_by_role("heading", name="Reports")).to_be_visible()
    assert walk(page, server, MEMBERS) == []
    page.set_viewport_size({"width": 1280, "height": 800})
    page.goto(f"{server}/reports/new/")
    page.get_by_label("What is it about?").fill(LONG_TITLE)
    page.get_by_role("button", name="Start").click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    report = page.url.removeprefix(server)
    page.goto(f"{server}/tables/new/")
    rows = f"{LONG_TITLE},{'Supercalifragilistic' * 3}\n" + "".join(
        f"{LONG_TITLE} {row},{row}{'0' * 12}\n" for row in range(20)
    )
    page.get_by_label(re.compile("^The file")).set_input_files(
        {"name": f"{LONG_TITLE}.csv", "mimeType": "text/csv", "buffer": rows.encode()}
    )
    page.get_by_role("button", name=re.compile("Take it in")).click()
    expect(page.get_by_role("heading", name="What we noticed")).to_be_visible()
    table = page.url.removeprefix(server)
    places = [table + part for part in OF_A_TABLE if part != "comparison/"]
    assert walk(page, server, ["/", *places, *(report + part for part in OF_A_REPORT)]) == []
