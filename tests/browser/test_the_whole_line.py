"""A newcomer walks the whole line: sign up, a table, a report, the link, newer data. A stranger watches."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready
from tests.factories import VISITS

pytestmark = pytest.mark.browser


def csv(text=VISITS, name="visits.csv"):
    return {"name": name, "mimeType": "text/csv", "buffer": text.encode()}


def add(page, purpose, which=0):
    """Add the tile that stands at ``which`` among those offered for a purpose."""
    page.locator(".add-tile").last.click()
    page.get_by_role("button", name=purpose).click()
    before = page.locator("[data-tile]").count()
    page.locator("button.suggestion").nth(which).click()
    expect(page.locator("[data-tile]")).to_have_count(before + 1)
    expect(page.get_by_role("dialog")).to_be_hidden()


def choose_word(page, word, choice):
    page.locator("#margin .word", has_text=re.compile(rf"^{re.escape(word)}$")).first.click()
    page.locator(".menu.show").get_by_role("button", name=choice, exact=True).click()


def test_from_a_file_to_a_link_that_follows_its_data(page, browser, server):
    # Sign up.
    page.goto(server)
    page.get_by_role("link", name="Make one").click()
    page.get_by_label("Name to sign in with").fill("newcomer")
    page.get_by_label("Password", exact=True).fill("seven green herons")
    page.get_by_label("Password confirmation").fill("seven green herons")
    page.get_by_role("button", name="Make the account").click()

    # A table.
    page.get_by_role("link", name="Take in a file").first.click()
    page.get_by_label(re.compile("^The file")).set_input_files(csv("My counts,,,,,,\n" + VISITS))
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("heading", name="visits")).to_be_visible()
    page.get_by_text("things put right at once").or_(page.get_by_text("thing put right at once")).click()
    expect(page.get_by_text("The column names stand in row 2")).to_be_visible()
    table_address = page.url

    # A report with text typed straight on the page.
    page.get_by_role("link", name="Ypsil").click()
    page.get_by_role("link", name="Start something new").click()
    page.get_by_label("What is it about?").fill("Spring visits")
    page.get_by_role("button", name="Start").click()
    editor_is_ready(page)
    page.get_by_role("button", name=re.compile("^Title: Spring visits")).click()
    page.get_by_role("textbox", name="Text").fill("Visits rose in spring")
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name="Visits rose in spring")).to_be_attached()
    expect(page.locator(".saved")).to_have_text(re.compile(r"^Saved \d\d:\d\d$"))

    # Tiles through "What should the reader see?".
    add(page, "How much")
    add(page, "Who is biggest")
    add(page, "Share of a whole")
    add(page, "What people say")
    page.locator(".add-tile").last.click()
    page.get_by_role("button", name="Explain in words").click()
    page.get_by_role("button", name=re.compile("^Sources")).click()
    expect(page.locator(".tile.sources")).to_contain_text("visits.csv")

    # Removing, undoing after a reload, redoing.
    tiles = page.locator("[data-tile]")
    expect(tiles).to_have_count(6)
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(tiles).to_have_count(5)
    page.reload()
    editor_is_ready(page)
    page.get_by_role("button", name="Undo").click()
    expect(tiles).to_have_count(6)
    page.get_by_role("button", name="Redo").click()
    expect(tiles).to_have_count(5)
    page.get_by_role("button", name="Undo").click()
    expect(tiles).to_have_count(6)

    # Change what a tile asks through its sentence.
    page.locator("[data-tile].visual [data-pick]").nth(1).click()
    choose_word(page, "total", "mean")
    expect(page.locator("#margin .sentence")).to_contain_text("mean of Visits per Branch", use_inner_text=True)
    choose_word(page, "Branch", "Kind")
    choose_word(page, "in the order …", "from A to Z")
    expect(page.locator("#margin .sentence")).to_contain_text("per Kind, from A to Z", use_inner_text=True)
    page.locator("#margin .sentence .word").last.click()
    page.locator(".menu.show button", has_text=re.compile("^Columns(?! and| of)")).click()
    expect(page.locator("#margin .sentence")).to_contain_text("as columns", use_inner_text=True)

    # Publish; a stranger opens the link.
    page.get_by_role("link", name="Publish").click()
    page.get_by_label("Anyone with the link").check()
    page.get_by_role("button", name="Keep this").click()
    link = page.locator("a.address").get_attribute("href")
    stranger = browser.new_context().new_page()
    assert stranger.goto(link).status == 200
    expect(stranger.get_by_role("heading", name="Visits rose in spring")).to_be_attached()
    expect(stranger.get_by_role("img", name=re.compile("^Visits"))).to_have_count(1)
    before = stranger.locator("main").inner_text()
    for private in (table_address, page.url, server + "/"):
        assert "/sign-in/" in stranger.goto(private).url

    # Newer data reaches the page and the link.
    page.goto(table_address)
    page.get_by_role("link", name="Add newer data").click()
    page.get_by_label(re.compile("^The file")).set_input_files(csv(VISITS.replace(",310,", ",7310,"), "visits_2.csv"))
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_text("arrived as version 2")).to_be_visible()
    stranger.goto(link)
    after = stranger.locator("main").inner_text()
    assert "7,310" in after and "7,310" not in before

    # A file without a needed column is held; the stranger still sees the last good data.
    page.goto(table_address)
    page.get_by_role("link", name="Add newer data").click()
    page.get_by_label(re.compile("^The file")).set_input_files(
        csv(VISITS.replace("Visits", "Visitors"), "visits_3.csv")
    )
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("heading", name=re.compile("waits for you$"))).to_be_visible()
    stranger.reload()
    assert stranger.locator("main").inner_text().replace("visits_3", "visits_2") == after

    # The link is withdrawn.
    page.goto(server)
    page.get_by_role("link", name="Spring visits").click()
    expect(page.locator(".held")).to_contain_text("no column “Visits”")
    page.get_by_role("link", name="Publish").click()
    page.get_by_role("button", name="Withdraw this link for good").click()
    assert stranger.goto(link).status == 404
    expect(stranger.get_by_text("withdrawn by its author")).to_be_visible()
    stranger.context.close()


def test_what_is_typed_while_the_server_is_away_is_sent_later(desk, server):
    page = desk
    page.get_by_role("link", name=re.compile("^Compost wins")).click()
    editor_is_ready(page)
    page.route("**/edits/", lambda route: route.abort())
    page.get_by_role("button", name=re.compile("^Title: Compost")).click()
    page.get_by_role("textbox", name="Text").fill("Compost wins again")
    page.keyboard.press("Escape")
    expect(page.locator(".saved")).to_contain_text("kept in this browser")
    page.unroute("**/edits/")
    page.reload()
    expect(page.get_by_role("heading", name="Compost wins again")).to_be_attached()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", name="Compost wins again")).to_have_count(0)


def test_a_second_tab_is_told_what_the_first_one_wrote(desk, server):
    first = desk
    first.get_by_role("link", name=re.compile("^Compost wins")).click()
    second = first.context.new_page()
    # Where changes are told of late, such as on a train.
    for address in ("**/live/", "**/state/"):
        second.route(address, lambda route: route.abort())
    second.goto(first.url)
    editor_is_ready(first)
    editor_is_ready(second)
    for page, text in ((first, "Nine weeks of measuring"), (second, "Two months of measuring")):
        page.get_by_role("button", name=re.compile("^Lead: ")).click()
        page.get_by_role("textbox", name="Text").fill(text)
        page.keyboard.press("Escape")
        expect(page.locator(".saved")).to_contain_text("aved")
        expect(page.get_by_text("Nine weeks of measuring").first).to_be_attached()
    notice = second.get_by_role("alert")
    expect(notice).to_contain_text("“Nine weeks of measuring”")
    expect(notice).to_contain_text("“Two months of measuring”")


def test_a_larger_file_is_read_in_the_background_by_the_worker(author, server):
    page = author
    rows = "".join(f"2026-01-{1 + index % 28:02d},b{index % 50},{index}\n" for index in range(80_000))
    page.goto(server + "/tables/new/")
    page.get_by_label(re.compile("^The file")).set_input_files(csv("Day,Branch,Visits\n" + rows, "many_rows.csv"))
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("heading", name="many rows")).to_be_visible(timeout=30_000)
    expect(page.get_by_text("80,000 rows, version 1")).to_be_visible()


def test_a_file_that_is_too_large_is_said_before_it_is_sent(author, server):
    page = author
    page.goto(server + "/tables/new/")
    page.locator("form[data-limit]").evaluate("form => { form.dataset.limit = 10; form.dataset.limitMb = 0; }")
    page.get_by_label(re.compile("^The file")).set_input_files(csv())
    expect(page.locator("[data-too-large]")).to_contain_text("are taken in")
    page.get_by_role("button", name="Take it in").click()
    expect(page).to_have_url(re.compile("/tables/new/$"))


def test_the_editor_works_by_keyboard(desk):
    page = desk
    page.get_by_role("link", name=re.compile("^Brackenshire")).click()
    editor_is_ready(page)
    page.get_by_role("button", name=re.compile("^Visits per month")).focus()
    page.keyboard.press("Enter")
    word = page.locator("#margin .word").first
    expect(word).to_have_text("total")
    word.focus()
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.locator("#margin .sentence")).to_contain_text("mean of Visits", use_inner_text=True)
    expect(page.locator("#margin .word").first).to_be_focused()
    page.keyboard.press("Control+z")
    expect(page.locator("#margin .sentence")).to_contain_text("total of Visits", use_inner_text=True)
    page.keyboard.press("/")
    expect(page.get_by_role("dialog")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()


@pytest.mark.parametrize("width", [1240, 390])
def test_texts_stay_in_view_on_a_narrow_bench(desk, width):
    page = desk
    page.get_by_role("link", name=re.compile("^Brackenshire")).click()
    page.set_viewport_size({"width": width, "height": 800})
    heading = page.get_by_role("heading", name="Children fill the libraries in summer")
    shown = heading.locator("svg" if width > 500 else ".spoken")
    expect(shown).to_be_visible()
    assert shown.bounding_box()["width"] > 100


def test_the_published_page_fits_a_phone(desk, browser, server):
    page = desk
    page.get_by_role("link", name=re.compile("^Brackenshire")).click()
    address = page.url + "preview/"
    page.set_viewport_size({"width": 390, "height": 800})
    page.goto(address)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    widths = page.locator(".tile > svg").evaluate_all(
        "all => all.map(one => one.getBoundingClientRect().width).filter(Boolean)"
    )
    assert min(widths) > 300
