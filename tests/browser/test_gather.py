"""Gather in the browser: the grid, remarks, steps, calculations, corrections, a held version."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, table_called, undo, until
from tests.factories import VISITS

pytestmark = pytest.mark.browser


def take_in(page, server, text, name, called):
    page.goto(server + "/tables/new/")
    page.get_by_label(re.compile("^The file")).set_input_files(
        {"name": name, "mimeType": "text/csv", "buffer": text.encode()}
    )
    page.get_by_label("Its name").fill(called)
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("heading", name=called, exact=True)).to_be_visible(timeout=60_000)
    grid_is_ready(page)


def grid_is_ready(page):
    expect(page.get_by_role("gridcell").first).to_be_visible()


def cell(page, text):
    return page.get_by_role("gridcell", name=text, exact=True)


UNTIDY = "Branch,Visits,Cost\n" + "Alder Lane,12,£3\nalder lane,14,£5\nElm,9,£2\nElm,9,£2\nTotal,44,£12\n"


def test_remarks_are_decided_and_the_grid_follows(author, server):
    page = author
    take_in(page, server, UNTIDY, "untidy.csv", "Untidy")
    page.get_by_role("button", name="Merge the spellings").click()
    expect(page.locator("[data-notice]")).to_contain_text("Added: In “Branch”, write “alder lane” as “Alder Lane”")
    expect(cell(page, "alder lane")).to_have_count(0)
    page.get_by_role("button", name="Keep each row once").click()
    expect(page.locator("[data-count]")).to_have_text("3")
    page.locator(".remark", has_text="Total").get_by_role("button", name="Undo this").click()
    expect(page.locator("[data-count]")).to_have_text("4")
    expect(cell(page, "Total")).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(cell(page, "Total")).to_have_count(0)


def test_steps_are_written_with_completion_and_a_slip_is_shown_at_its_place(author, server):
    page = author
    take_in(page, server, VISITS, "steps.csv", "In steps")
    page.get_by_label("Add a step").select_option("calculate")
    page.get_by_label("Name of the new column").fill("Each")
    field = page.get_by_label("It is")
    field.press_sequentially("Cost / Vis")
    expect(page.get_by_role("option", name=re.compile("^Visits"))).to_be_visible()
    page.keyboard.press("Enter")
    expect(field).to_have_value("Cost / Visits")
    field.fill("Cost / Vists")
    page.get_by_role("button", name="Add the step").click()
    expect(page.get_by_role("alert")).to_contain_text("did you mean Visits?")
    assert field.evaluate("one => one.value.slice(one.selectionStart, one.selectionEnd)") == "Vists"
    field.fill("Cost / Visits")
    page.get_by_role("button", name="Add the step").click()
    expect(page.locator(".step")).to_contain_text("“Each” is Cost / Visits")
    expect(page.locator(".tabulator-col .name", has_text="Each")).to_be_visible()

    # A second step, seen before and after, switched off, moved up, removed.
    page.get_by_label("Add a step").select_option("keep_rows")
    page.get_by_label("Column", exact=True).select_option("Kind")
    page.get_by_label("Values, parted by commas").fill("Adult")
    page.get_by_role("button", name="Add the step").click()
    expect(page.locator("[data-count]")).to_have_text("4")
    page.get_by_role("button", name="“Each” is Cost / Visits", exact=True).click()
    expect(cell(page, "Child").first).to_be_visible()
    page.get_by_role("button", name="“Each” is Cost / Visits", exact=True).click()
    expect(cell(page, "Child")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Move up")).click()
    expect(page.locator(".step").first).to_contain_text("Keep rows where “Kind” is Adult")
    page.locator(".step").first.get_by_label("on").uncheck()
    expect(page.locator("[data-count]")).to_have_text("6")
    page.get_by_role("button", name=re.compile("^Remove: Keep")).click()
    expect(page.locator(".step")).to_have_count(1)


def test_rows_are_sorted_filtered_found_and_corrected(author, server):
    page = author
    take_in(page, server, VISITS, "grid.csv", "Grid")
    first = page.locator(".tabulator-row").first
    page.locator(".tabulator-col", has_text="Visits").locator(".tabulator-col-sorter").click()
    expect(first).to_contain_text("Book bus")
    page.get_by_label("Filter Kind").press_sequentially("child")
    expect(page.locator("[data-shown]")).to_have_text("2 of 6 rows")
    expect(page.get_by_label("Filter Kind")).to_be_focused()
    page.keyboard.press("Control+a")
    page.keyboard.press("Delete")
    expect(page.locator("[data-shown]")).to_have_text("")
    page.get_by_label("Find in all columns").fill("longer opening")
    expect(page.locator("[data-shown]")).to_have_text("2 of 6 rows")
    page.get_by_label("Find in all columns").fill("")
    expect(page.locator("[data-shown]")).to_have_text("")
    cell(page, "310").dblclick()
    page.keyboard.press("Control+a")
    page.keyboard.type("311")
    page.keyboard.press("Enter")
    expect(page.locator(".step")).to_contain_text("Correct “Visits” from “310” to “311” where")
    expect(cell(page, "311")).to_be_visible()


def test_a_long_table_is_scrolled_to_its_end_and_any_row_is_reached(author, server):
    page = author
    rows = "".join(f"b{index},{index % 90}\n" for index in range(1, 30_001))
    take_in(page, server, "Branch,Visits\n" + rows, "long.csv", "Long")
    page.get_by_label("Go to row").fill("29999")
    page.keyboard.press("Enter")
    expect(cell(page, "b29999")).to_be_visible()
    holder = page.locator(".tabulator-tableholder")
    for _ in range(14):
        holder.evaluate("one => one.scrollBy(0, -4000)")
        until(page, "() => document.querySelectorAll('.tabulator-row').length > 5")
    # A page that is busy shows what was scrolled to a while later.
    first = "Number(document.querySelector('.tabulator-row .row-number').innerText.replaceAll(',', ''))"
    until(page, f"() => {first} < 29700")
    seen = int(page.locator(".tabulator-row .row-number").first.inner_text().replace(",", ""))
    assert 27_000 < seen < 29_700
    numbers = [int(text.replace(",", "")) for text in page.locator(".tabulator-row .row-number").all_inner_texts()]
    assert numbers == list(range(numbers[0], numbers[0] + len(numbers))), "no row is skipped or shown twice"


def test_a_column_is_looked_at_and_its_kind_changed_after_seeing_what_is_lost(author, server):
    page = author
    take_in(page, server, VISITS, "kinds.csv", "Kinds")
    page.locator(".tabulator-col").get_by_role("button", name="Branch").click()
    expect(page.get_by_text("Commonest")).to_be_visible()
    page.get_by_label("It holds").select_option("number")
    expect(page.locator(".panel")).to_contain_text("6 values would become missing")
    page.get_by_label("It holds").select_option("text")
    expect(page.locator(".panel")).to_contain_text("Every value fits")
    page.get_by_role("button", name="Change the kind").click()
    expect(page.locator(".step")).to_contain_text("Read “Branch” as written text")


def test_cells_are_pasted_and_rows_typed(author, server):
    page = author
    page.goto(server + "/tables/new/")
    page.get_by_label("Pasted").check()
    page.get_by_label("Cells, or answers").fill("Branch\tVisits\nAlder\t3\nElm\t4")
    page.get_by_label("Its name").fill("From paste")
    page.get_by_role("button", name="Take it in").click()
    grid_is_ready(page)
    expect(cell(page, "Elm")).to_be_visible()
    page.goto(server + "/tables/new/")
    page.get_by_label("Typed in").check()
    page.get_by_label("Name of column 1").fill("Yes or no")
    page.keyboard.press("ArrowDown")
    page.keyboard.type("yes")
    page.keyboard.press("Enter")
    page.keyboard.type("no")
    page.get_by_label("Its name").fill("From typing")
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("heading", name="From typing")).to_be_visible()
    grid_is_ready(page)
    expect(page.locator(".tabulator-row")).to_have_count(2)


def test_a_held_version_is_let_in_on_one_screen(desk, server):
    page = desk
    page.locator(".table-row", has_text="Visits").get_by_role("link", name="Version 3 waits for you").click()
    # The question stands first; what would go without is folded, by report.
    expect(page.get_by_label(re.compile("^Visits"))).to_have_value("Visitors")
    report = page.locator("details").filter(has=page.locator("summary", has_text="how the month went"))
    why = report.get_by_text("no column “Visits”").first
    expect(why).to_be_hidden()
    report.locator("summary").click()
    expect(why).to_be_visible()
    page.get_by_role("button", name="That is how they are called").click()
    expect(page.get_by_text("“Visits” is now called “Visitors” in the file")).to_be_visible()
    grid_is_ready(page)
    expect(page.get_by_text("version 3 from visits_2026-09.xlsx")).to_be_visible()
    # As it was, for the other tests.
    page.get_by_role("button", name="Let reports show version 2").click()
    expect(page.get_by_text("Version 2 is the current one now")).to_be_visible()


def test_the_table_page_fits_a_phone(desk, server):
    page = desk
    page.set_viewport_size({"width": 390, "height": 800})
    page.get_by_role("link", name="Readers survey", exact=True).click()
    grid_is_ready(page)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_cells_are_copied_out_and_column_widths_are_kept(author, server):
    page = author
    page.context.grant_permissions(["clipboard-read", "clipboard-write"], origin=server)
    take_in(page, server, VISITS, "copy.csv", "Copy")
    cell(page, "Alder Lane").first.click()
    cell(page, "Child").first.click(modifiers=["Shift"])
    page.keyboard.press("Control+c")
    expected = "Alder Lane\tAdult\nAlder Lane\tChild"
    until(page, "wanted => navigator.clipboard.readText().then(text => text === wanted)", arg=expected)
    branch = page.locator(".tabulator-col", has_text="Branch")
    before = branch.bounding_box()["width"]
    edge = page.locator(".tabulator-col-resize-handle").nth(1).bounding_box()
    page.mouse.move(edge["x"] + 1, edge["y"] + 20)
    page.mouse.down()
    page.mouse.move(edge["x"] + 91, edge["y"] + 20, steps=4)
    page.mouse.up()
    page.reload()
    grid_is_ready(page)
    assert branch.bounding_box()["width"] == pytest.approx(before + 90, abs=4)


DROP = """(text) => {
  const data = new DataTransfer();
  data.items.add(new File([text], "dropped.csv", { type: "text/csv" }));
  document.body.dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true }));
}"""


def test_files_dropped_on_the_desk_and_on_a_table_are_taken_in(desk, server):
    page = desk
    page.evaluate(DROP, "A,B\n")
    expect(page.locator("[data-drop-said]")).to_contain_text("no rows under it")
    page.evaluate(DROP, VISITS)
    expect(page.get_by_role("heading", name="dropped")).to_be_visible()
    grid_is_ready(page)
    page.evaluate(DROP, VISITS + "2026-04-01,Elm,Adult,5,6,yes,\n")
    expect(page.get_by_role("heading", name="What changed in “dropped”")).to_be_visible()
    expect(page.locator(".changes")).to_contain_text("1 added")


def test_a_large_workbook_is_made_by_the_worker_and_downloaded(author, server):
    page = author
    rows = "".join(f"b{index % 50},{index},{index % 7},x\n" for index in range(1, 12_001))
    take_in(page, server, "Branch,Visits,Cost,Note\n" + rows, "big.csv", "Big one")
    page.get_by_role("link", name="XLSX").click()
    link = page.get_by_role("link", name="Download Big one.xlsx")
    expect(link).to_be_visible(timeout=60_000)
    with page.expect_download() as download:
        link.click()
    assert download.value.suggested_filename == "Big one.xlsx"


def test_two_windows_do_not_undo_each_others_steps(author, server):
    first = author
    take_in(first, server, VISITS, "windows.csv", "Windows")
    second = first.context.new_page()
    second.goto(first.url)
    grid_is_ready(second)
    first.get_by_label("Add a step").select_option("take")
    first.get_by_label("How many").fill("3")
    first.get_by_role("button", name="Add the step").click()
    expect(first.locator(".step")).to_have_count(1)
    second.locator(".tabulator-col").get_by_role("button", name="Cost").click()
    second.get_by_role("button", name="Drop").click()
    expect(second.locator("[data-notice]")).to_contain_text("changed in another window")
    expect(second.locator(".step")).to_contain_text("Take the first 3 rows")


def test_the_rows_go_with_the_column_names_that_the_keyboard_reaches(author, server):
    page = author
    page.goto(f"{server}/")
    page.get_by_role("link", name="Readers survey", exact=True).click()
    expect(page.get_by_role("gridcell").first).to_be_visible()
    page.get_by_role("button", name="Weight", exact=True).focus()
    expect(page.get_by_role("button", name="Weight", exact=True)).to_be_in_viewport()
    names, rows = (
        f"document.querySelector('.tabulator-{part}').scrollLeft" for part in ("header-contents", "tableholder")
    )
    until(page, f"() => {rows} > 0 && {names} === {rows}")
    expect(page.locator(".tabulator-row").first.get_by_role("gridcell").last).to_be_in_viewport()


def test_a_file_dropped_on_the_desk_is_a_report_page_after_three_presses_at_most(author, server):
    page = author
    page.goto(server)
    page.evaluate(DROP.replace("dropped.csv", "brought.csv"), VISITS)
    page.get_by_role("button", name="Make a page of it").click()
    expect(page.locator("#page [data-kind='visual'] svg").first).to_be_visible()
    assert page.locator("#page [data-kind='visual']").count() >= 3
    assert page.locator("#page .waiting, #page [data-kind='spot']").count() == 0
    expect(page.locator("#page")).to_contain_text("Brought")


def test_a_visual_of_a_draft_says_why_it_is_there_and_another_takes_its_place(author, server):
    page = author
    page.goto(server)
    table_called(page, "Visits").click()
    page.get_by_role("button", name="Make a page of it").click()
    editor_is_ready(page)
    expect(page.locator("#page h1")).to_contain_text(re.compile("^Visits (rose|fell) by"))
    leads = page.locator("#page .tile.visual", has_text="Visits per Branch")
    finding = page.locator("#page [data-kind=text]", has_text="which is 23% of all Visits")
    expect(finding).to_have_count(1)
    leads.locator(".pick").click()
    expect(page.locator("#margin")).to_contain_text("Why it is here: Branch parts the rows into 10")
    others = page.locator("#margin [data-others]")
    others.locator("summary").press("Enter")
    expect(others.locator(".suggestion").first).to_be_visible()
    others.locator(".suggestion").first.press("Enter")
    expect(finding).to_have_count(0)
    expect(leads).to_have_count(0)
    undo(page)
    expect(finding).to_have_count(1)
    expect(leads).to_have_count(1)
