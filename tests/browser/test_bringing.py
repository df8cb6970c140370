"""Files that are dropped on the page, pasted or chosen: pictures, texts and tables, several at once."""

import base64
import io
import re

import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.test_access import violations
from tests.browser.test_bench import bench, saved, tile

__all__ = ["bench"]

CSV = "Branch,Visits\nElm,120\nMarket,300\nOak,90\n"
BRING = """([event, files]) => {
  const held = new DataTransfer();
  for (const { name, type, data } of files) {
    const bytes = Uint8Array.from(atob(data), (letter) => letter.charCodeAt(0));
    held.items.add(new File([bytes], name, { type }));
  }
  const on = document.querySelector('[data-band="two"] .grid');
  if (event === 'drop') {
    on.dispatchEvent(new DragEvent('dragenter', { dataTransfer: held, bubbles: true, cancelable: true }));
    const isSaid = !document.querySelector('[data-drop-here]').hidden;
    on.dispatchEvent(new DragEvent('drop', { dataTransfer: held, bubbles: true, cancelable: true }));
    return isSaid;
  }
  document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: held, bubbles: true, cancelable: true }));
}"""


def picture(colour, width=300, height=200):
    file = io.BytesIO()
    Image.new("RGB", (width, height), colour).save(file, "PNG")
    return file.getvalue()


def sent(name, content, kind="image/png"):
    data = content if isinstance(content, bytes) else content.encode()
    return {"name": name, "type": kind, "data": base64.b64encode(data).decode()}


def pictures(page):
    return page.locator('[data-kind="picture"]')


def test_several_files_dropped_at_once_become_several_tiles(bench):
    page = bench
    files = [
        sent("one.png", picture("#aa3300")),
        sent("two.png", picture("#0033aa", 200, 400)),
        sent("note.txt", "What was said\nin the hall", "text/plain"),
        sent("visits.csv", CSV, "text/csv"),
    ]
    assert page.evaluate(BRING, ["drop", files])
    expect(page.locator('[data-band="two"] [data-kind="picture"]')).to_have_count(2)
    # The table is offered, drawn.
    expect(page.locator("#choices .suggestion svg").first).to_be_visible(timeout=15_000)
    page.locator("#choices button.suggestion").first.click()
    expect(page.locator('[data-kind="visual"]')).to_have_count(1)
    expect(page.locator('[data-kind="text"]', has_text="What was said")).to_have_count(1)
    saved(page)
    # Each has the proportions of its picture.
    shapes = [box["width"] / box["height"] for box in (one.bounding_box() for one in pictures(page).all())]
    assert sorted(shapes) == pytest.approx([0.5, 1.5], rel=0.06)


def test_a_pasted_picture_is_described_and_told_and_turned(bench):
    page = bench
    page.locator("#ladder [data-go]").nth(1).click()
    page.evaluate(BRING, ["paste", [sent("image.png", picture("#117744"))]])
    expect(pictures(page)).to_have_count(1)
    page.get_by_label("In words").fill("The new reading room")
    page.get_by_label("In words").press("Tab")
    expect(pictures(page).locator("svg[role=img] title")).to_have_text("The new reading room")
    saved(page)
    assert violations(page) == []
    page.keyboard.press("Escape")
    pictures(page).locator("[data-pick]").focus()
    pictures(page).locator("[data-pick]").press("Enter")
    page.keyboard.press(".")
    expect(pictures(page)).to_have_attribute("data-turned", "15")


def test_what_is_no_picture_is_refused_in_words_and_the_others_are_taken(bench):
    page = bench
    files = [
        sent("broken.png", b"\x89PNG but not"),
        sent("good.png", picture("#222222")),
        sent("empty.txt", "", "text/plain"),
    ]
    page.evaluate(BRING, ["drop", files])
    expect(pictures(page)).to_have_count(1)
    notice = page.locator(".notice")
    expect(notice).to_contain_text("broken.png")
    expect(notice).to_contain_text("empty.txt: there is nothing in it.")


def test_a_place_kept_for_a_picture_is_filled_by_choosing_one(bench):
    page = bench
    page.get_by_role("button", name="Ready-made bands …").click()
    page.locator("#ready-made button", has_text="A picture and text").click()
    spot = page.locator('[data-kind="spot"]')
    expect(spot).to_have_count(1)
    place = spot.bounding_box()
    spot.locator("[data-pick]").click()
    page.get_by_role("button", name="Choose what stands here").click()
    expect(page.locator("[data-bring-tiles]")).to_be_visible()
    page.locator("[data-bring-tiles]").set_input_files(
        {"name": "hall.png", "mimeType": "image/png", "buffer": picture("#7a2f8c")}
    )
    expect(pictures(page)).to_have_count(1)
    expect(spot).to_have_count(0)
    now = pictures(page).bounding_box()
    assert all(abs(now[side] - place[side]) < 2 for side in ("x", "width", "height"))
    # It is at hand from now on.
    page.get_by_role("button", name="Choose another picture").click()
    expect(page.locator("#choices .suggestion", has_text="hall")).to_have_count(1)
    assert tile(page, "a").count() == 1


def test_a_picture_is_framed_aimed_recoloured_and_captioned(bench):
    page = bench
    page.evaluate(BRING, ["drop", [sent("hall.png", picture("#7a2f8c", 800, 200))]])
    found = pictures(page)
    expect(found).to_have_count(1)
    shape = found.locator("svg > path").first
    straight = shape.get_attribute("d")
    page.locator("summary", has_text="Frame").click()
    page.locator("#field-frame").click()
    page.get_by_role("button", name="A hexagon").click()
    expect(shape).not_to_have_attribute("d", straight)
    # The point that stays in sight, by the mouse and by keys.
    # The margin is drawn anew with what was chosen; then it stands still.
    expect(page.locator("#field-frame")).to_have_text("hexagon")
    pad = page.locator("[data-focus-of]")
    box = pad.bounding_box()
    with page.expect_response("**/tiles/*/"):
        pad.click(position={"x": box["width"] * 0.9, "y": box["height"] / 2})
    expect(pad).to_have_attribute("data-across", "0.9")
    pad.press("ArrowLeft")
    expect(pad).to_have_attribute("data-across", "0.85")
    expect(page.locator("#spoken")).to_have_text(re.compile("^85 % across, (49|50) % down$"))
    page.locator("summary", has_text="Colours").click()
    page.locator("#tile-colours").select_option("two")
    expect(found.locator("filter")).to_have_count(1)
    page.locator("summary", has_text="Caption").click()
    page.get_by_label("Caption", exact=True).fill("The hall")
    page.get_by_label("Caption", exact=True).press("Tab")
    expect(found.locator("svg text")).to_have_text("The hall")
    page.get_by_label("Whose picture").fill("Ann Reader")
    page.get_by_label("Whose picture").press("Tab")
    saved(page)
    page.reload()
    expect(found.locator("filter")).to_have_count(1)
    page.locator("[data-pick]").last.wait_for()
    assert violations(page) == []


PASTE = """(text) => {
  const held = new DataTransfer();
  held.setData('text/plain', text);
  document.activeElement.blur();
  document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: held, bubbles: true, cancelable: true }));
}"""


def test_a_hundred_thousand_cells_that_are_pasted_become_a_table_whose_drawings_are_offered(bench):
    page = bench
    head = "\t".join(f"Column {place}" for place in range(10))
    rows = "\n".join("\t".join(str(row * place % 97) for place in range(10)) for row in range(10_000))
    page.evaluate(PASTE, f"{head}\n{rows}")
    expect(page.locator("#choices .suggestion svg").first).to_be_visible(timeout=60_000)
    page.locator("#choices button.suggestion").first.click()
    expect(page.locator('[data-kind="visual"] svg').first).to_be_visible()


def test_a_text_that_is_too_long_is_not_taken_and_that_is_said(bench):
    page = bench
    before = page.locator("[data-tile]").count()
    page.evaluate(PASTE, "word " * 4_002)
    expect(page.locator(".notice")).to_contain_text("A text has room for 20,000 letters")
    assert page.locator("[data-tile]").count() == before


def test_letters_that_cannot_be_drawn_are_said_beside_the_text_and_by_the_proof(bench):
    page = bench
    page.evaluate(PASTE, "Books 图书")
    expect(page.locator("#margin")).to_contain_text("No typeface here has 图 书")
    saved(page)
    page.goto(page.url + "proof/")
    expect(page.locator("main")).to_contain_text("No typeface here has 图 书")
