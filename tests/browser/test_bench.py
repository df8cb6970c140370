"""The bench: tiles and bands moved, resized, lined up and tidied, by mouse and by keys."""

import json
import re
import time

import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, made_report, typed_in, undo, until
from ypsil.core.drawing.colour import contrast_ratio

PLACES = """() => Object.fromEntries([...document.querySelectorAll('#page [data-tile]')].map((tile) => {
  const style = getComputedStyle(tile);
  const span = (end) => Number(end.replace('span ', ''));
  return [tile.dataset.tile, [Number(style.gridColumnStart) - 1, Number(style.gridRowStart) - 1,
    span(style.gridColumnEnd), span(style.gridRowEnd), tile.closest('[data-band]').dataset.band]];
}))"""


def text(name, column, row, width=6, height=8, **more):
    place = {"column": column, "row": row, "width": width, "height": height}
    return {"type": "text", "id": name, "role": "body", "text": f"Text {name}", "place": place, **more}


@pytest.fixture
def bench(author, server):
    """A report with two bands: three texts beside each other in the first, one in the second."""
    page = author
    bands = [
        {"id": "one", "message": "First", "tiles": [text("a", 0, 0), text("b", 6, 0), text("c", 12, 0)]},
        {"id": "two", "message": "Second", "tiles": [text("d", 0, 0)]},
    ]
    edits = [{"type": "clear_page"}, *({"type": "add_band", "band": band} for band in bands)]
    made_report(page, server, "Bench", edits)
    return page


def places(page):
    return page.evaluate(PLACES)


def tile(page, name):
    return page.locator(f'[data-tile="{name}"]')


def choose(page, *names):
    for place, name in enumerate(names):
        tile(page, name).locator("[data-pick]").click(modifiers=["Shift"] if place else [])
        page.keyboard.press("Escape") if typed_in(page).count() else None
    if len(names) == 1:
        tile(page, names[0]).locator("[data-pick]").focus()


def drag(page, name, x, y, *, keys=()):
    """Drag a tile by px on screen."""
    box = tile(page, name).bounding_box()
    start = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(*start)
    page.mouse.down()
    for key in keys:
        page.keyboard.down(key)
    page.mouse.move(start[0] + x / 2, start[1] + y / 2, steps=4)
    page.mouse.move(start[0] + x, start[1] + y, steps=4)
    return start


def drop(page, keys=()):
    page.mouse.up()
    for key in keys:
        page.keyboard.up(key)


def saved(page):
    expect(page.locator(".saved")).to_contain_text("Saved")
    until(page, "() => !document.querySelector('#page .moving')")


def test_a_tile_is_dragged_on_the_grid_with_guides_and_undone(bench):
    page = bench
    step = page.evaluate("() => document.querySelector('#page .grid').clientWidth / 24")
    drag(page, "a", 3 * step + 4, 30)
    expect(page.locator(".measure")).to_contain_text("column 4 to 9")
    assert page.locator(".guides .guide").count() > 0
    drop(page)
    until(page, f"() => ({PLACES})().a[0] === 3")
    column, row, width, height, band = places(page)["a"]
    assert (column, width, height, band) == (3, 6, 8, "one") and row >= 3
    assert page.locator(".guides i").count() == 0
    undo(page)
    until(page, f"() => ({PLACES})().a[0] === 0")


def test_what_is_dropped_stays_and_the_others_make_room(bench):
    page = bench
    step = page.evaluate("() => document.querySelector('#page .grid').clientWidth / 24")
    drag(page, "a", 6 * step, 0)
    drop(page)
    until(page, f"() => ({PLACES})().b[1] > 0")
    found = places(page)
    assert found["a"][:2] == [6, 0] and found["b"][:2] == [6, 11] and found["c"][:2] == [12, 0]


def test_a_drag_is_given_up_by_escape(bench):
    page = bench
    before = places(page)
    drag(page, "a", 200, 90)
    page.keyboard.press("Escape")
    drop(page)
    page.wait_for_timeout(200)
    assert places(page) == before and not page.locator(".moving").count()


def test_into_another_band(bench):
    page = bench
    home, other = (page.locator(f'[data-band="{name}"]').bounding_box() for name in ("one", "two"))
    drag(page, "c", 0, other["y"] - home["y"] + 6)
    drop(page)
    until(page, f"() => ({PLACES})().c[4] === 'two'")
    assert places(page)["c"][0] == 12
    assert places(page)["a"][4] == "one"


def test_without_the_grid_a_tile_stands_at_any_px(bench):
    page = bench
    drag(page, "d", 37, 21, keys=["Alt"])
    drop(page, keys=["Alt"])
    until(page, "() => getComputedStyle(document.querySelector('[data-tile=d]')).left !== '0px'")
    saved(page)
    assert page.evaluate("() => parseFloat(getComputedStyle(document.querySelector('[data-tile=d]')).left)") != 0


def test_a_frame_chooses_several_and_they_are_lined_up_grouped_and_moved_as_one(bench):
    page = bench
    first = tile(page, "a").bounding_box()
    last = tile(page, "c").bounding_box()
    page.mouse.move(last["x"] + last["width"] + 60, first["y"] - 8)
    page.mouse.down()
    page.mouse.move(first["x"] + 20, first["y"] + 40, steps=6)
    page.mouse.up()
    expect(page.locator("#margin h2")).to_have_text("3 chosen")
    page.get_by_role("button", name="Left edges").click()
    until(page, f"() => Object.values(({PLACES})()).every((one) => one[0] === 0)")
    assert [places(page)[name][1] for name in "abc"] == [0, 11, 22]
    page.get_by_role("button", name="Group", exact=True).click()
    expect(page.locator("#margin")).to_contain_text("Ungroup")
    page.locator('[data-tile="b"] [data-pick]').focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    until(page, f"() => ['a', 'b', 'c'].every((name) => ({PLACES})()[name][0] === 2)")
    page.keyboard.press("Control+Shift+g")
    until(page, "() => !document.querySelector('[data-group]')")
    assert places(page)["c"][:2] == [2, 22]


def test_handles_resize_and_shift_keeps_the_proportions(bench):
    page = bench
    choose(page, "d")
    handle = page.locator('[data-frame] [data-edge="se"]').bounding_box()
    page.mouse.move(handle["x"] + 12, handle["y"] + 12)
    page.mouse.down()
    page.mouse.move(handle["x"] + 12 + 215, handle["y"] + 12 + 80, steps=5)
    expect(page.locator(".measure")).to_contain_text("columns")
    page.mouse.up()
    until(page, f"() => ({PLACES})().d[2] > 10")
    assert places(page)["d"][3] > 14


def test_all_by_keys_alone_and_every_step_is_spoken(bench):
    page = bench
    page.locator('[data-tile="a"] [data-pick]').focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Escape")
    expect(tile(page, "a")).to_have_class("tile text t-a chosen")
    for key in ("ArrowDown", "ArrowDown", "ArrowRight"):
        page.keyboard.press(key)
    expect(page.locator("#spoken")).to_have_text("column 2 to 7, row 3 to 10")
    until(page, f"() => ({PLACES})().a[0] === 1")
    page.keyboard.press("Shift+ArrowRight")
    until(page, f"() => ({PLACES})().a[2] === 7")
    page.keyboard.press("Control+ArrowRight")
    until(page, "() => getComputedStyle(document.querySelector('[data-tile=a]')).left !== '0px'")
    page.keyboard.press("Control+d")
    until(page, f"() => Object.keys(({PLACES})()).length === 5")
    page.keyboard.press("Control+k")
    page.get_by_label("What to do").fill("choose all")
    page.keyboard.press("Enter")
    expect(page.locator("#margin h2")).to_have_text("4 chosen")
    page.keyboard.press("Control+k")
    page.get_by_label("What to do").fill("same size")
    page.keyboard.press("Enter")
    until(page, f"() => new Set(['a', 'b', 'c'].map((name) => ({PLACES})()[name][2])).size === 1")
    page.locator('[data-tile="b"] [data-pick]').focus()
    page.keyboard.press("Delete")
    until(page, f"() => Object.keys(({PLACES})()).length === 1")
    undo(page)
    until(page, f"() => Object.keys(({PLACES})()).length === 5")
    page.locator('[data-tile="b"] [data-pick]').focus()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")


def test_f6_goes_from_the_bands_to_the_page_to_the_settings(bench):
    page = bench
    where = (
        "() => ['ladder', 'board', 'margin'].find((id) => document.getElementById(id).contains(document.activeElement))"
    )
    seen = []
    for _ in range(3):
        page.keyboard.press("F6")
        seen.append(page.evaluate(where))
    assert seen == ["ladder", "board", "margin"]


def test_what_is_copied_is_pasted_with_its_look_also_into_another_report(bench, server):
    page = bench
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    choose(page, "a", "b")
    expect(page.locator("#margin h2")).to_have_text("2 chosen")
    page.keyboard.press("Control+c")
    page.keyboard.press("Control+v")
    until(page, f"() => Object.keys(({PLACES})()).length === 6")
    page.keyboard.press("Control+c")
    page.goto(f"{server}/reports/new/")
    page.get_by_label("Title").fill("Another")
    page.locator("main form button").last.click()
    editor_is_ready(page)
    expect(page.locator("#margin h2").first).to_be_visible()
    page.keyboard.press("Control+v")
    until(page, f"() => Object.keys(({PLACES})()).length === 3")


def test_bands_are_reordered_by_drag_and_by_keys_and_set(bench):
    page = bench
    order = "() => [...document.querySelectorAll('#page [data-band]')].map((band) => band.dataset.band).join()"
    grips = page.locator("#ladder [data-grip]")
    box, other = grips.nth(0).bounding_box(), grips.nth(1).bounding_box()
    page.mouse.move(box["x"] + 5, box["y"] + 5)
    page.mouse.down()
    page.mouse.move(box["x"] + 5, other["y"] + 60, steps=6)
    page.mouse.up()
    until(page, f"() => ({order})() === 'two,one'")
    page.locator("#ladder [data-grip]").nth(1).focus()
    page.keyboard.press("Alt+ArrowUp")
    until(page, f"() => ({order})() === 'one,two'")
    assert page.locator("#ladder [data-mini] use").count() >= 4
    page.locator("#ladder [data-go]").nth(0).click()
    page.get_by_label("Show it as the band's heading").check()
    expect(page.locator('[data-band="one"] h1, [data-band="one"] h2').first).to_contain_text("First")
    page.locator("#ground-colour").select_option("ink")
    expect(page.locator('[data-band="one"] svg.ground')).to_be_attached()
    until(page, "() => document.querySelector('[data-tile=a] svg text').getAttribute('fill') === '#ffffff'")


def test_tidying_is_shown_before_it_is_done(bench):
    page = bench
    page.locator("#ladder [data-go]").nth(0).click()
    page.get_by_role("button", name="Tidy it").first.click()
    expect(page.locator("[data-tidy-said]")).to_contain_text("would stand as outlined")
    assert page.locator(".would-be").count() == 3
    page.get_by_role("button", name="Leave it").click()
    assert places(page)["a"][2] == 6
    page.keyboard.press("t")
    page.locator("[data-tidy-do]").click()
    until(page, f"() => ['a', 'b', 'c'].every((name) => ({PLACES})()[name][2] === 8)")


def test_the_page_is_at_least_800_px_wide_and_zooms(bench):
    page = bench
    width = "() => document.getElementById('page').clientWidth"
    assert page.evaluate(width) >= 800
    page.get_by_role("button", name="100 %").click()
    assert page.evaluate(width) == 800
    page.mouse.move(600, 400)
    page.keyboard.down("Control")
    page.mouse.wheel(0, -200)
    page.keyboard.up("Control")
    until(page, f"() => ({width})() > 840")
    page.get_by_role("button", name="Whole").click()
    until(page, "() => document.getElementById('page').clientHeight <= document.getElementById('board').clientHeight")
    assert json.loads(page.evaluate("() => JSON.stringify(localStorage.getItem('ypsil-zoom'))")) == "page"
    page.get_by_role("button", name="Width").click()


def test_another_format_reflows_the_page(bench):
    page = bench
    page.keyboard.press("Control+k")
    page.get_by_label("What to do").fill("settings of the report")
    page.keyboard.press("Enter")
    page.get_by_label("Format").select_option("slide-4x3")
    until(page, "() => getComputedStyle(document.getElementById('page')).getPropertyValue('--wide').trim() === '960'")
    assert set(places(page)) == {"a", "b", "c", "d"}


def test_a_ready_made_band_comes_filled_below_what_is_chosen_and_its_places_are_filled(bench):
    page = bench
    page.locator("#ladder [data-go]").nth(0).click()
    page.get_by_role("button", name="Ready-made bands").click()
    page.locator("#ready-made .suggestion", has_text="A picture and text").click()
    until(page, "() => document.querySelectorAll('#page [data-band]')[1].querySelector('.spot') !== null")
    spot = page.locator(".tile.spot")
    expect(spot.locator(".invite")).to_have_text("A picture of what it is about")
    spot.locator("[data-pick]").click()
    page.get_by_role("button", name="Choose what stands here").click()
    page.get_by_role("button", name="Who is biggest").click()
    page.locator("#choices button.suggestion").first.click()
    expect(page.locator(".tile.spot")).to_have_count(0)


def test_cells_that_are_pasted_become_a_table_and_a_visual(bench):
    page = bench
    page.locator("#ladder [data-go]").nth(1).click()
    page.evaluate("""() => {
      const held = new DataTransfer();
      held.setData('text/plain', 'Branch\\tVisits\\nElm\\t120\\nMarket\\t300\\nOak\\t90');
      document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: held, bubbles: true }));
    }""")
    expect(page.locator('[data-band="two"] [data-kind="visual"]')).to_be_visible()


def test_edits_without_a_connection_are_counted_kept_and_sent_in_their_order(bench):
    page = bench
    page.context.set_offline(True)
    choose(page, "a")
    for key in ("Shift+ArrowDown", "Shift+ArrowDown", "ArrowDown"):
        page.keyboard.press(key)
        page.wait_for_timeout(400)
    expect(page.locator(".saved")).to_have_text("No connection: 3 changes kept in this browser")
    assert page.locator("header.strip").evaluate("strip => strip.scrollWidth - strip.clientWidth") == 0
    page.context.set_offline(False)
    # Nobody presses anything: they go by themselves.
    until(page, f"() => ({PLACES})().a[1] === 1")
    expect(page.locator(".saved")).to_contain_text("Saved")
    page.reload()
    editor_is_ready(page)
    assert places(page)["a"][1:4] == [1, 6, 10]


def test_that_others_are_not_heard_of_any_longer_is_said(bench):
    page = bench
    page.route("**/live/", lambda route: route.abort())
    page.reload()
    editor_is_ready(page)
    expect(page.locator(".saved")).to_have_text("No connection: what others change is not seen", timeout=30_000)
    page.unroute("**/live/")
    expect(page.locator(".saved")).to_contain_text("Saved", timeout=20_000)


def test_history_goes_back_and_says_what_was_undone(bench):
    page = bench
    choose(page, "d")
    for key in ("ArrowDown", "Shift+ArrowRight"):
        page.keyboard.press(key)
        page.wait_for_timeout(400)
    saved(page)
    page.get_by_role("button", name="History").click()
    lines = page.locator("#done li")
    expect(lines.first).to_contain_text("Resized tiles")
    expect(lines.nth(1)).to_contain_text("Moved tiles")
    lines.nth(1).get_by_role("button").click()
    expect(page.locator(".saved")).to_have_text("Undone: 2 changes")
    assert places(page)["d"][:4] == [0, 0, 6, 8]


def test_the_page_is_looked_at_as_a_skeleton_and_without_tools(bench):
    page = bench
    page.get_by_role("button", name="Skeleton").click()
    assert page.evaluate("() => getComputedStyle(document.querySelector('.tile .drawn')).visibility") == "hidden"
    page.get_by_role("button", name="Read", exact=True).click()
    expect(page.locator("#ladder")).to_be_hidden()
    page.keyboard.press("Escape")
    expect(page.locator("#ladder")).to_be_visible()


def test_what_is_done_in_another_window_is_seen_within_a_second_and_who_is_there(bench):
    page = bench
    other = page.context.new_page()
    other.goto(page.url)
    editor_is_ready(other)
    expect(page.locator("#company")).to_contain_text("Also here: sample")
    other.locator('[data-tile="d"] [data-pick]').click()
    other.keyboard.press("Escape")
    expect(tile(page, "d")).to_have_attribute("data-theirs", "sample")
    other.locator('[data-tile="d"] [data-pick]').focus()
    other.keyboard.press("ArrowRight")
    expect(other.locator(".saved")).to_contain_text("Saved")
    until(other, f"() => ({PLACES})().d[0] === 1")
    begun = time.monotonic()
    until(page, f"() => ({PLACES})().d[0] === 1")
    # Half of it is the time between two looks; the machine is shared.
    assert time.monotonic() - begun < 3
    # What both do to different tiles merges.
    choose(page, "a")
    page.keyboard.press("ArrowDown")
    until(other, f"() => ({PLACES})().a[1] === 1")
    other.close()
    assert not page.locator(".notice").is_visible()


def test_a_press_after_a_drag_that_was_given_up_elsewhere_chooses_as_usual(bench):
    page = bench
    drag(page, "a", 100, 60)
    page.keyboard.press("Escape")
    page.mouse.move(1180, 500)
    page.mouse.up()
    choose(page, "d")
    expect(tile(page, "d")).to_have_class("tile text t-d chosen")


def test_a_look_is_copied_onto_others_and_tiles_go_to_the_next_band_by_name(bench):
    page = bench
    choose(page, "a")
    page.get_by_label("Card", exact=True).select_option("ink")
    expect(tile(page, "a").locator("svg.card")).to_be_attached()
    page.get_by_label("Its lines stand").select_option("middle")
    expect(tile(page, "a")).to_have_attribute("data-align", "middle")
    page.locator('[data-tile="a"] [data-pick]').focus()
    page.keyboard.press("Control+Alt+c")
    expect(page.locator("#spoken")).to_have_text("The look is copied")
    choose(page, "b")
    page.keyboard.press("Control+Alt+v")
    expect(tile(page, "b").locator("svg.card")).to_be_attached()
    expect(tile(page, "b")).to_have_attribute("data-align", "middle")
    page.keyboard.press("Control+k")
    page.get_by_label("What to do").fill("band below")
    page.keyboard.press("Enter")
    page.wait_for_timeout(300)
    until(page, f"() => ({PLACES})().b[4] === 'two'")


def test_a_band_stands_on_a_picture_that_is_brought_and_its_text_stays_readable(bench, tmp_path):
    page = bench
    file = tmp_path / "leaves.png"
    shades = Image.new("RGB", (300, 100), "white")
    shades.paste((20, 60, 20), (150, 0, 300, 100))
    shades.save(file)
    page.locator("#ladder [data-go]").first.click()
    margin = page.locator("#margin")
    margin.locator("[data-bring-ground]").set_input_files(file)
    expect(page.locator("[data-band=one] [data-ground] svg")).to_be_visible()
    expect(margin.get_by_label("Picture", exact=True)).to_have_value(re.compile("^picture:"))
    ink = tile(page, "a").locator("svg text").first.get_attribute("fill")
    assert contrast_ratio(ink, "#0b3a46") > 4.5
    # It is there for the next band, and taken away again like any other choice.
    margin.get_by_label("Picture", exact=True).select_option("")
    expect(
        page.locator("[data-band=one] [data-ground] svg image, [data-band=one] [data-ground] pattern")
    ).to_have_count(0)
    page.locator("#ladder [data-go]").nth(1).click()
    expect(margin.get_by_label("Picture", exact=True).locator("option")).to_contain_text(["none", "leaves"])


def test_what_is_no_picture_is_refused_in_words(bench, tmp_path):
    page = bench
    file = tmp_path / "leaves.png"
    file.write_text("no picture")
    page.locator("#ladder [data-go]").first.click()
    page.locator("#margin [data-bring-ground]").set_input_files(file)
    expect(page.locator("#margin [data-picture-problem]")).to_contain_text("not a picture")


def test_a_tile_is_seen_through_and_solid_again(bench):
    page = bench
    choose(page, "a")
    page.locator("#margin details[data-topic=Place] summary").click()
    margin = page.locator("#margin")
    margin.get_by_label("How solid it is").select_option("55")
    until(page, "getComputedStyle(document.querySelector('[data-tile=a]')).opacity === '0.55'")
    expect(margin.get_by_label("How solid it is")).to_have_value("55")
    undo(page)
    until(page, "getComputedStyle(document.querySelector('[data-tile=a]')).opacity === '1'")
