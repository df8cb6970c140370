"""Text typed on the page: its looks, lists and links, live figures in it, and its lines on screen and as drawn."""

import json
import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, made_report, send, typed_in, until
from tests.browser.test_access import violations

LONG = (
    "Nine branches and a book bus are open to everyone. Well-known readers come on weekdays - mostly before noon - and "
    "borrow more than they bring back; the county's 12,345 loans (up 16 %) show it, month after month."
)


def text(name, role, words, row, **more):
    place = {"column": 0, "row": row, "width": 14, "height": 12}
    return {"type": "text", "id": name, "role": role, "text": words, "place": place, **more}


@pytest.fixture
def sheet(author, server):
    """A report with one empty text; its tables are those of the sample."""
    page = author
    band = {"id": "one", "message": "First", "tiles": [text("a", "body", "", 0)]}
    made_report(page, server, "Writing", [{"type": "clear_page"}, {"type": "add_band", "band": band}])
    return page


def tile(page, name="a"):
    return page.locator(f'[data-tile="{name}"]')


def begin(page, name="a"):
    tile(page, name).locator("[data-pick]").press("Enter")
    expect(typed_in(page)).to_be_focused()
    return typed_in(page)


def done(page, name="a"):
    with page.expect_response("**/edits/"):
        page.keyboard.press("Escape")
    expect(typed_in(page)).to_have_count(0)
    # What the server drew has come.
    until(page, f"document.querySelector('[data-tile={name}]').dataset.digest !== ''")


def kept(page, name="a"):
    return json.loads(tile(page, name).get_attribute("data-prose"))["blocks"]


def test_looks_and_lists_by_keys_alone(sheet):
    page = sheet
    begin(page)
    keys = page.keyboard
    for look, word in (("b", "bold"), ("i", "slanted"), ("u", "lined"), (".", "2")):
        keys.press(f"Control+{look}")
        keys.type(word)
        keys.press(f"Control+{look}")
        keys.type(" ")
    keys.press("Enter")
    keys.type("- one")
    keys.press("Enter")
    keys.press("Tab")
    keys.type("within")
    keys.press("Enter")
    keys.press("Enter")
    keys.press("Enter")
    keys.type("1. first")
    done(page)
    blocks = kept(page)
    looks = {run["text"].strip(): run.get("looks") for run in blocks[0]["runs"] if run["text"].strip()}
    assert looks == {"bold": ["bold"], "slanted": ["italic"], "lined": ["underline"], "2": ["above"]}
    shapes = [(block.get("kind"), block.get("level", 0)) for block in blocks[1:]]
    assert shapes == [("bullet", 0), ("bullet", 1), ("number", 0)]
    spoken = tile(page).locator(".spoken")
    expect(spoken.locator("strong")).to_have_text("bold")
    expect(spoken.locator("ul ul, ul + ul").or_(spoken.locator("ol"))).to_have_count(2)
    # The same stands there once the page is loaded anew.
    page.reload()
    editor_is_ready(page)
    assert kept(page) == blocks


def test_the_bar_says_what_is_on_and_is_walked_by_arrows(sheet):
    page = sheet
    begin(page)
    page.keyboard.type("see the list")
    page.keyboard.press("Control+a")
    page.keyboard.press("Alt+F10")
    bold, italic = page.get_by_role("button", name="Bold"), page.get_by_role("button", name="Italic")
    expect(bold).to_be_focused()
    page.keyboard.press("ArrowRight")
    expect(italic).to_be_focused()
    page.keyboard.press("Enter")
    expect(italic).to_have_attribute("aria-pressed", "true")
    expect(bold).to_have_attribute("aria-pressed", "false")
    page.get_by_role("button", name="List with dots").click()
    page.get_by_label("Colour of the letters").select_option("accent")
    page.get_by_role("button", name="Link").click()
    page.get_by_label("It leads to").fill("javascript:alert(1)")
    page.get_by_role("button", name="Link it").click()
    expect(page.get_by_label("It leads to")).to_be_visible()
    page.get_by_label("It leads to").fill("example.org/list")
    page.keyboard.press("Enter")
    expect(typed_in(page)).to_be_focused()
    done(page)
    (block,) = kept(page)
    assert block["kind"] == "bullet"
    expected = {"text": "see the list", "looks": ["italic"], "colour": "accent", "link": "https://example.org/list"}
    assert block["runs"] == [expected]
    expect(tile(page).locator(".spoken a")).to_have_attribute("href", "https://example.org/list")


def test_words_become_the_value_they_ask_for_and_follow_it(sheet):
    page = sheet
    begin(page)
    page.keyboard.type("We had total visits")
    for _ in "total visits":
        page.keyboard.press("Shift+ArrowLeft")
    page.keyboard.press("Control+Shift+L")
    panel = page.get_by_role("dialog", name="A value that follows the data")
    expect(panel.get_by_label("Which value?")).to_have_value("total visits")
    first = panel.locator("[data-take]").first
    expect(first).to_contain_text("Total Visits")
    expect(panel.locator(".heard")).to_contain_text("“visits”: the column Visits")
    assert violations(page) == []
    # What is not understood is said, and nothing is taken by itself.
    panel.get_by_label("Which value?").fill("total visits in Atlantis")
    expect(first).to_contain_text("Not understood: “atlantis”")
    panel.get_by_label("Which value?").fill("total visits")
    expect(first).not_to_contain_text("Not understood")
    number = first.locator("strong").inner_text()
    first.press("Enter")
    expect(panel).to_be_hidden()
    expect(typed_in(page)).to_have_text(f"We had {number}")
    page.keyboard.type(" in all")
    done(page)
    expect(tile(page)).to_have_attribute("data-text", f"We had {number} in all")
    figure = kept(page)[0]["runs"][1]["figure"]
    assert figure["question"]["measures"] == [{"stat": "sum", "column": "Visits"}]
    margin = page.locator("#margin")
    tile(page).locator("[data-pick]").press("Enter")
    expect(margin).to_contain_text("Live figures")
    expect(margin).to_contain_text("Total Visits")


def test_how_a_live_figure_is_written_is_chosen_where_it_stands(sheet):
    page = sheet
    begin(page)
    page.keyboard.press("Control+Shift+L")
    panel = page.get_by_role("dialog", name="A value that follows the data")
    panel.get_by_label("Which value?").fill("change in visits over the year before")
    panel.locator("[data-take]").first.click()
    page.locator(".typing .live").click()
    expect(panel.get_by_label("Decimals")).to_be_focused()
    panel.get_by_label("Decimals").select_option("1")
    expect(panel.locator(".figure-now strong")).to_have_text(re.compile(r"^[−]?\d+\.\d%$"))
    panel.get_by_label("Words in place of the number").check()
    expect(panel.locator(".figure-now strong")).to_have_text(re.compile("rose|fell"))
    panel.get_by_label("Above").fill("went up")
    panel.get_by_label("Below").fill("went down")
    panel.get_by_label("Below").press("Tab")
    expect(panel.locator(".figure-now strong")).to_have_text(re.compile("went (up|down)"))
    assert violations(page) == []
    panel.get_by_role("button", name="Keep it so").click()
    done(page)
    expect(tile(page)).to_have_attribute("data-text", re.compile("^went (up|down)$"))


def test_a_number_typed_by_hand_is_offered_as_a_live_figure(sheet):
    page = sheet
    begin(page)
    page.keyboard.press("Control+Shift+L")
    panel = page.get_by_role("dialog", name="A value that follows the data")
    panel.get_by_label("Which value?").fill("total visits")
    expect(panel.locator("[data-take]").first).to_contain_text("Total Visits")
    number = panel.locator("[data-take] strong").first.inner_text()
    panel.get_by_label("Which value?").press("Escape")
    page.keyboard.type(f"In all {number} visits")
    done(page)
    tile(page).locator("[data-pick]").press("Enter")
    offer = page.locator("#margin").get_by_role("button", name=re.compile(f"Make it live: {number}, Total Visits$"))
    with page.expect_response("**/edits/"):
        offer.click()
    expect(tile(page)).to_have_attribute("data-prose", re.compile('"figure"'))
    expect(tile(page)).to_have_attribute("data-text", f"In all {number} visits")


def test_too_much_is_not_taken_and_said_and_what_was_there_stays(sheet):
    page = sheet
    area = begin(page)
    page.keyboard.type("kept")
    area.evaluate(
        """(area) => {
          const held = new DataTransfer();
          held.setData("text/plain", "x ".repeat(15000));
          area.dispatchEvent(new ClipboardEvent("paste", { clipboardData: held, bubbles: true, cancelable: true }));
        }"""
    )
    expect(page.get_by_role("alert")).to_contain_text("20,000 letters")
    expect(area).to_have_text("kept")


# The lines of a text as Chromium breaks them while it is typed.
TYPED_LINES = """() => {
  const lines = [];
  for (const block of document.querySelectorAll('.typing [data-kind]')) {
    const walker = document.createTreeWalker(block, NodeFilter.SHOW_TEXT);
    let foot = null;
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      for (let at = 0; at < node.length; at += 1) {
        const range = new Range();
        range.setStart(node, at);
        range.setEnd(node, at + 1);
        const box = [...range.getClientRects()].at(-1);
        if (!box) continue;
        // The boxes of letters are taller than lines are apart.
        if (foot === null || box.bottom > foot + box.height / 3) lines.push('');
        foot = box.bottom;
        lines[lines.length - 1] += node.data[at];
      }
    }
  }
  return lines.map((line) => line.trim());
}"""
WIDE = {"column": 0, "row": 20, "width": 15, "height": 12}
DRAWN_LINES = """(name) => {
  const found = new Map();
  for (const text of document.querySelectorAll(`[data-tile="${name}"] .drawn > svg text`)) {
    const y = Math.round(Number(text.getAttribute('y')));
    found.set(y, (found.get(y) ?? '') + text.textContent);
  }
  return [...found.entries()].sort((one, other) => one[0] - other[0]).map(([, line]) => line.trim());
}"""


@pytest.mark.parametrize("role", ["body", "heading", "lead", "note", "quote", "label"])
def test_lines_are_the_same_while_typed_and_as_drawn(sheet, role):
    page = sheet
    looks = [{"text": LONG[:40]}, {"text": LONG[40:90], "looks": ["bold"]}, {"text": LONG[90:150], "looks": ["italic"]}]
    prose = {"blocks": [{"runs": [*looks, {"text": LONG[150:]}]}, {"runs": [{"text": LONG}]}]}
    send(page, [{"type": "add_tile", "band": "one", "tile": text("b", role, prose, 20, place=WIDE)}])
    page.reload()
    editor_is_ready(page)
    page.evaluate("document.fonts.ready")
    drawn = page.evaluate(DRAWN_LINES, "b")
    begin(page, "b")
    typed = page.evaluate(TYPED_LINES)
    # What is drawn in several looks has no spaces between them.
    assert ["".join(line.split()) for line in typed] == ["".join(line.split()) for line in drawn]
    assert len(drawn) > 4


def test_on_a_phone_a_text_is_typed_in_a_size_that_can_be_read(sheet):
    page = sheet
    page.set_viewport_size({"width": 390, "height": 844})
    begin(page)
    page.keyboard.type("Typed on a phone")
    size = typed_in(page).evaluate("(area) => parseFloat(getComputedStyle(area).fontSize)")
    assert size >= 16
    bar = page.get_by_role("toolbar", name="How the text looks").bounding_box()
    assert bar["x"] >= 0 and bar["x"] + bar["width"] <= 391
    done(page)
    expect(tile(page)).to_have_attribute("data-text", "Typed on a phone")


def test_what_is_written_in_any_role_stands_as_it_is_drawn(author, server):
    # No rule of the application's own pages reaches into the page of a report.
    roles = ("title", "heading", "lead", "body", "note", "quote", "big", "label")
    tiles = [
        {
            "type": "text",
            "role": role,
            "text": "Said",
            "place": {"column": 0, "row": 20 * at, "width": 24, "height": 12},
        }
        for at, role in enumerate(roles)
    ]
    made_report(author, server, "Every role", [{"type": "clear_page"}, {"type": "add_band", "band": {"tiles": tiles}}])
    strange = """() => [...document.querySelectorAll('#page .drawn')].filter((one) => {
      const [own, tile] = [one, one.closest('.tile')].map((each) => each.getBoundingClientRect());
      const style = getComputedStyle(one);
      const isMoved = Math.abs(own.left - tile.left) > 1 || Math.abs(own.top - tile.top) > 1;
      const isBare = [style.padding, style.margin, style.borderLeftWidth].every((width) => width === '0px');
      return isMoved || !isBare || style.backgroundColor !== 'rgba(0, 0, 0, 0)';
    }).map((one) => one.className)"""
    assert author.locator("#page .drawn").count() == len(roles)
    assert author.evaluate(strange) == []
