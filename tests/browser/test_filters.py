"""Readers choose on a published page: with a mouse, by keys, on a phone, without scripts; all see the newest data."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import made_report, open_report
from tests.browser.test_access import violations
from tests.browser.test_gather import take_in
from tests.browser.test_publishing import uid_of

pytestmark = pytest.mark.browser
BRANCHES = ("Alder Lane", "Dunmere", "Elmstow")
MONTHS = ("2026-01", "2026-02", "2026-03")


def counts(more=0):
    """Return visits for each month and branch, more of them in a newer file."""
    rows = [
        f"{month}-01,{branch},{100 * place + 10 * at + more}"
        for at, month in enumerate(MONTHS)
        for place, branch in enumerate(BRANCHES, 1)
    ]
    return "\n".join(["Month,Branch,Visits", *rows]) + "\n"


def tiles(table):
    total = {"stat": "sum", "column": "Visits"}

    def visual(name, kind, at, **more):
        column, row, width, height = at
        place = {"column": column, "row": row, "width": width, "height": height}
        question = {"measures": [total], **more}
        return {"type": "visual", "id": name, "table": table, "visual": kind, "question": question, "place": place}

    def choose(name, column, at, **more):
        place = {"column": at, "row": 0, "width": 8, "height": 18}
        return {"type": "filter", "id": name, "table": table, "column": column, "place": place, **more}

    live = {
        "blocks": [{"runs": [{"text": "In all "}, {"figure": {"table": table, "question": {"measures": [total]}}}]}]
    }
    words = {"type": "text", "id": "words", "text": live, "place": {"column": 0, "row": 60, "width": 24, "height": 5}}
    return [
        choose("branch", "Branch", 0),
        choose("month", "Month", 8, way="period"),
        choose("visits", "Visits", 16, way="amount"),
        visual("total", "kpi", (0, 20, 8, 20)),
        visual("bars", "bar", (8, 20, 16, 36), per=[{"column": "Branch"}]),
        words,
    ]


@pytest.fixture
def link(desk, server, request):
    """The link of a published report with three filters; its author's window stands at its table."""
    take_in(desk, server, counts(), "counts.csv", request.node.name[:60])
    table = desk.url.rstrip("/").split("/")[-1]
    made_report(desk, server, "To be chosen from", [{"type": "add_band", "band": {"id": "b1", "tiles": tiles(table)}}])
    desk.goto(f"{server}/reports/{uid_of(desk)}/publish/")
    desk.get_by_label("Anyone with the link").check()
    desk.get_by_role("button", name="Keep this", exact=True).click()
    link = desk.locator("a.address").get_attribute("href")
    desk.goto(f"{server}/tables/{table}/")
    return link


@pytest.fixture
def reader(page, link):
    page.goto(link)
    expect(page.locator("body.choosing")).to_be_attached()
    return page


def total(page):
    return page.locator("#at-total svg:visible desc")


def rows(page):
    return page.locator("#at-branch .rows")


def test_one_chooses_another_brings_newer_data_a_third_reads_on_a_phone(desk, server, reader, browser, link):
    phone = browser.new_context(viewport={"width": 360, "height": 740}, has_touch=True).new_page()
    phone.goto(link)
    expect(total(phone)).to_contain_text("1,890")
    # One chooses: a branch, then the last two months.
    reader.locator("#at-branch summary").click()
    reader.get_by_label("Dunmere").check()
    expect(total(reader)).to_contain_text("630")
    reader.get_by_label("Month, from").select_option(label="Feb 2026")
    expect(total(reader)).to_contain_text("430")
    expect(rows(reader)).to_contain_text("2 of 9 rows")
    expect(reader.locator("#at-words .spoken")).to_have_text("In all 430")
    assert re.search(r"\?branch=Dunmere&month-from=2026-02$", reader.url)
    # Another brings newer data: all who look on see it, each what they chose.
    desk.get_by_role("link", name="Add newer data").click()
    newer = {"name": "counts.csv", "mimeType": "text/csv", "buffer": counts(1_000).encode()}
    desk.get_by_label(re.compile("^The file")).set_input_files(newer)
    desk.get_by_role("button", name="Take it in").click()
    expect(total(reader)).to_contain_text("2,430")
    expect(total(phone)).to_contain_text("10,890")
    expect(rows(reader)).to_contain_text("2 of 9 rows")
    # The third got the address of the first, and sees the same, narrow.
    phone.goto(reader.url)
    expect(total(phone)).to_contain_text("2,430")
    assert phone.evaluate("document.documentElement.scrollWidth") <= 360
    small = """[...document.querySelectorAll('.choose *')].filter((one) => one.checkVisibility())
      .map((one) => parseFloat(getComputedStyle(one).fontSize)).filter((size) => size < 12)"""
    assert phone.evaluate(small) == []
    assert violations(phone) == [] and violations(reader) == []
    phone.get_by_label("Visits, from").fill("1200")
    phone.get_by_label("Visits, from").press("Enter")
    expect(rows(phone)).to_contain_text("2 of 9 rows")
    phone.locator("#at-visits .rows").get_by_role("link", name="Show all").tap()
    expect(total(phone)).to_contain_text("10,890")
    assert phone.url == link
    phone.context.close()


def test_marks_choose_and_are_taken_back_and_the_way_back_is_kept(reader, link):
    bars = reader.locator("#at-bars svg:visible")
    bars.locator("[data-group=Elmstow]").click()
    expect(total(reader)).to_contain_text("930")
    expect(reader.locator("#at-branch .now")).to_have_text("Elmstow")
    expect(bars.locator("[data-group]")).to_have_count(3)
    fills = bars.locator("[data-group]").evaluate_all("(all) => all.map((one) => one.getAttribute('fill'))")
    assert len(set(fills)) == 2, "what was chosen stands out among the others"
    # By keys: another one as well, then out of it again.
    bars.focus()
    for key in ("ArrowRight", "ArrowRight", "Enter"):
        bars.press(key)
    expect(reader.locator("#at-branch .now")).to_have_text("Dunmere, Elmstow")
    expect(total(reader)).to_contain_text("1,560")
    reader.go_back()
    expect(reader.locator("#at-branch .now")).to_have_text("Elmstow")
    reader.go_back()
    expect(total(reader)).to_contain_text("1,890")
    assert reader.url == link and violations(reader) == []
    reader.go_forward()
    expect(total(reader)).to_contain_text("930")
    bars.locator("[data-group=Elmstow]").click()
    expect(total(reader)).to_contain_text("1,890")


def test_a_list_stays_open_while_somebody_chooses_and_closes_by_escape(reader):
    summary = reader.locator("#at-branch summary")
    summary.press("Enter")
    for name in ("Alder Lane", "Dunmere"):
        reader.get_by_label(name).check()
        expect(reader.locator("#at-branch .now")).to_contain_text(name)
    expect(reader.locator("#at-branch details")).to_have_attribute("open", "")
    assert reader.evaluate("document.activeElement.value") == "Dunmere", "the focus stays where somebody chooses"
    reader.keyboard.press("Escape")
    expect(reader.locator("#at-branch details[open]")).to_have_count(0)
    expect(summary).to_be_focused()
    expect(reader.get_by_role("status").filter(has_text="6 of 9 rows")).to_be_attached()


def test_the_notes_of_who_presents_speak_of_what_is_chosen(desk, server, link):
    open_report(desk, server, "To be chosen from")
    desk.goto(f"{server}/reports/{uid_of(desk)}/present/#b1")
    with desk.expect_popup() as opened:
        desk.keyboard.press("n")
    said = opened.value.locator("li.now")
    expect(said).to_contain_text("1,890")
    desk.locator("#at-branch summary").click()
    desk.get_by_label("Dunmere").check()
    expect(said).to_contain_text("630")
    expect(said).not_to_contain_text("1,890")
    expect(opened.value).to_have_url(re.compile(r"/notes/\?branch=Dunmere$"))
    desk.go_back()
    expect(said).to_contain_text("1,890")


def test_what_cannot_be_reached_leaves_the_page_as_it_is(reader):
    reader.context.set_offline(True)
    reader.locator("#at-branch summary").click()
    reader.get_by_label("Dunmere").check()
    expect(reader.get_by_role("status").filter(has_text="could not be shown")).to_be_attached()
    expect(total(reader)).to_contain_text("1,890")
    reader.context.set_offline(False)
    reader.get_by_label("Elmstow").check()
    expect(total(reader)).to_contain_text("1,560")


def test_it_works_without_scripts(browser, link):
    context = browser.new_context(java_script_enabled=False)
    page = context.new_page()
    page.goto(link)
    page.locator("#at-branch summary").click()
    page.get_by_label("Dunmere").check()
    page.locator("#at-branch .apply").click()
    expect(rows(page)).to_contain_text("3 of 9 rows")
    page.get_by_label("Month, the last").select_option("1")
    page.locator("#at-month .apply").click()
    expect(rows(page)).to_contain_text("1 of 9 rows")
    page.locator("#at-branch .head").get_by_role("link", name="Clear").click()
    expect(rows(page)).to_contain_text("3 of 9 rows")
    page.locator("#at-bars summary").click()
    page.locator("#at-bars td").get_by_role("link", name="Elmstow").click()
    expect(rows(page)).to_contain_text("1 of 9 rows")
    context.close()


def test_a_file_by_itself_is_chosen_from_without_anybody_who_answers(desk, server, browser, link, tmp_path):
    desk.goto(f"{server}/")
    desk.get_by_role("link", name=re.compile("^To be chosen from")).first.click()
    uid = uid_of(desk)
    file = tmp_path / "report.html"
    file.write_bytes(desk.request.get(f"{server}/reports/{uid}/files/html/").body())
    context = browser.new_context(viewport={"width": 1280, "height": 800}, offline=True)
    page = context.new_page()
    refused = []
    page.on("console", lambda said: refused.append(said.text))
    page.goto(file.as_uri())
    page.get_by_label("Branch", exact=True).select_option("Dunmere")
    expect(total(page)).to_contain_text("630")
    expect(page.locator("#at-branch .rows")).to_have_text("3 of 9 rows")
    page.get_by_label("Month", exact=True).select_option("Last month")
    expect(total(page)).to_contain_text("220")
    expect(page.locator("#at-words .spoken")).to_have_text("In all 220")
    expect(page.locator("#at-visits")).to_contain_text("nothing to choose here")
    page.set_viewport_size({"width": 360, "height": 740})
    expect(total(page)).to_contain_text("220")
    assert page.evaluate("document.documentElement.scrollWidth") <= 360
    assert violations(page) == [] and refused == []
    context.close()


def test_its_author_puts_one_on_the_page_and_says_who_listens(desk, server):
    take_in(desk, server, counts(), "visited.csv", "visited")
    table = desk.url.rstrip("/").split("/")[-1]
    bars = tiles(table)[4] | {"place": {"column": 0, "row": 0, "width": 12, "height": 30}}
    made_report(desk, server, "With a filter", [{"type": "add_band", "band": {"id": "b1", "tiles": [bars]}}])
    desk.locator(".add-tile").last.click()
    desk.get_by_role("button", name="something to press").click()
    desk.get_by_role("button", name=re.compile("^Filter by Branch")).click()
    put = desk.locator("#page .tile.filter")
    expect(put).to_have_count(1)
    put.locator(".pick").click()
    margin = desk.locator("#margin")
    expect(margin.get_by_label("Readers choose by")).to_have_value(re.compile("Branch"))
    margin.get_by_label("Readers choose by").select_option(label="Month")
    expect(put.locator("svg desc").first).to_contain_text("9 rows")
    expect(margin.get_by_label("Readers choose by")).to_have_value(re.compile("Month"))
    margin.get_by_text("Which parts listen: all").click()
    margin.get_by_label("Total Visits per Branch").uncheck()
    expect(margin.get_by_text("Which parts listen: all but 1")).to_be_visible()
    assert violations(desk) == []
