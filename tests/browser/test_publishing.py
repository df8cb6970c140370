"""Publish in the browser: files in turn, pictures on the clipboard."""

import contextlib
import re
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.conftest import editor_is_ready, made_report, open_report, send, unfold, until
from tests.browser.test_access import violations

pytestmark = pytest.mark.browser


def uid_of(page):
    return re.search(r"/reports/([\w-]+)/", page.url)[1]


def test_a_file_is_ordered_followed_and_got(desk, server):
    open_report(desk, server, "A year at your libraries")
    desk.goto(f"{server}/reports/{uid_of(desk)}/publish/")
    desk.get_by_text("A part of it, another size, paper for print").click()
    desk.get_by_label("Kind of file").select_option("png")
    expect(desk.get_by_label("300dpi")).to_be_visible()
    expect(desk.get_by_text("A page for each band")).to_be_hidden()
    desk.get_by_label("Kind of file").select_option("pdf")
    expect(desk.get_by_label("300dpi")).to_be_hidden()
    desk.get_by_label("A page for each band").check()
    assert violations(desk) == []
    desk.get_by_role("button", name="Make the file").click()
    expect(desk.get_by_role("link", name="Download it")).to_be_visible(timeout=30_000)
    with desk.expect_download() as got:
        desk.get_by_role("link", name="Download it").click()
    assert len(PdfReader(got.value.path()).pages) == 9
    desk.get_by_role("link", name="Back to the files of this report").click()
    expect(desk.get_by_role("heading", name="Made lately")).to_be_visible()


def test_a_tile_is_copied_as_a_picture(desk, server):
    desk.context.grant_permissions(["clipboard-read", "clipboard-write"], origin=server)
    open_report(desk, server, "A year at your libraries")
    editor_is_ready(desk)
    desk.locator(".tile.visual").nth(1).click()
    unfold(desk)
    desk.get_by_role("button", name="Copy as picture").click()
    expect(desk.locator("[data-picture-copied]")).to_have_text("Copied. Paste it where you need it.", timeout=15_000)
    size = desk.evaluate(
        "async () => { const [item] = await navigator.clipboard.read(); "
        "const found = await createImageBitmap(await item.getType('image/png')); return [found.width, found.height]; }"
    )
    assert min(size) > 100
    desk.context.clear_permissions()


def test_open_pages_follow_within_a_second_with_a_quiet_sign(desk, server, browser):
    text = {"id": "n1", "type": "text", "text": "Before", "place": {"column": 0, "row": 0, "width": 12, "height": 6}}
    still = {"id": "n2", "type": "text", "text": "Stays", "place": {"column": 12, "row": 0, "width": 12, "height": 6}}
    made_report(desk, server, "Followed", [{"type": "add_band", "band": {"id": "b1", "tiles": [text, still]}}])
    uid = uid_of(desk)
    desk.goto(f"{server}/reports/{uid}/publish/")
    desk.get_by_label("Anyone with the link").check()
    desk.get_by_role("button", name="Keep this", exact=True).click()
    desk.get_by_role("button", name="Show each change at once").click()
    link = desk.locator("a.address").get_attribute("href")
    context = browser.new_context(viewport={"width": 390, "height": 800})
    reader = context.new_page()
    reader.goto(link)
    expect(reader.locator("#at-n1 .spoken")).to_have_text("Before")
    mark = reader.locator("#at-n2").evaluate("(tile) => (tile.before = true)")
    assert mark
    desk.goto(f"{server}/reports/{uid}/")
    editor_is_ready(desk)
    send(desk, [{"type": "change_tile", "tile": "n1", "changes": {"text": "After"}}])
    expect(reader.locator("#at-n1 .spoken")).to_have_text("After", timeout=8_000)
    expect(reader.locator(".tile.newer")).to_have_count(1)
    expect(reader.get_by_role("status").first).to_have_text("One part of this page has newer numbers.")
    assert reader.locator("#at-n2").evaluate("(tile) => tile.before === true"), "what did not change is left alone"
    # What arrives does so gently, and is paler for as long.
    until(reader, "() => document.getAnimations().length === 0")
    assert violations(reader) == []
    send(desk, [{"type": "add_band", "band": {"id": "b2", "tiles": [{"type": "text", "text": "One more"}]}}])
    expect(reader.get_by_text("One more").first).to_be_attached(timeout=8_000)
    context.close()


def test_a_report_is_read_by_somebody_who_is_named_and_knows_the_password(desk, server, browser):
    made_report(
        desk, server, "For few", [{"type": "add_band", "band": {"tiles": [{"type": "text", "text": "Secret"}]}}]
    )
    desk.goto(f"{server}/reports/{uid_of(desk)}/publish/")
    desk.get_by_label("People I name").check()
    desk.get_by_text("A password, an end, no copying").click()
    desk.get_by_label("Password").fill("open sesame")
    assert violations(desk) == []
    desk.get_by_role("button", name="Keep this", exact=True).click()
    desk.get_by_label("Name people").fill("reader.of.few@example.org")
    desk.get_by_role("button", name="Name them, and write to them").click()
    expect(desk.get_by_text("reader.of.few@example.org is named.")).to_be_visible()
    link = desk.locator("a.address").get_attribute("href")
    context = browser.new_context()
    reader = context.new_page()
    reader.goto(link)
    expect(reader.get_by_role("heading")).to_have_text("This report is for people whom its author named")
    assert violations(reader) == []
    for _ in range(40):
        reader.goto(f"{server}/outbox/")
        found = re.search(rf"{re.escape(link)}come/[\w-]+/", reader.locator("body").inner_text())
        if found:
            break
        reader.wait_for_timeout(250)
    reader.goto(found[0])
    assert violations(reader) == []
    reader.get_by_label("The password of this report").fill("wrong")
    reader.get_by_role("button", name="Read it").click()
    expect(reader.get_by_role("alert")).to_contain_text("That is not the password")
    reader.get_by_label("The password of this report").fill("open sesame")
    reader.keyboard.press("Enter")
    expect(reader.get_by_text("Secret").first).to_be_attached()
    context.close()
    desk.goto(f"{server}/reports/{uid_of(desk)}/as-others/")
    expect(desk.frame_locator("iframe.phone").get_by_text("Secret").first).to_be_attached()
    assert violations(desk) == []


@contextlib.contextmanager
def another_site(page):
    """Serve one page from another origin on this machine."""

    class Answer(BaseHTTPRequestHandler):
        def do_GET(self):
            self.send_response(200)
            self.send_header("Content-Type", "text/html; charset=utf-8")
            self.end_headers()
            self.wfile.write(page.encode())

        def log_message(self, *_):
            pass

    server = ThreadingHTTPServer(("127.0.0.1", 0), Answer)
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    try:
        yield f"http://127.0.0.1:{server.server_port}"
    finally:
        server.shutdown()
        thread.join()
        server.server_close()


def test_a_tile_stands_in_the_page_of_a_site_that_may_show_it_and_in_no_other(desk, server, browser):
    open_report(desk, server, "A year at your libraries")
    stage = f"{server}/reports/{uid_of(desk)}/publish/"
    desk.goto(stage)
    desk.get_by_label("Sites that may show it").fill("*")
    desk.get_by_role("button", name="Let these show it").click()
    desk.get_by_label("What is shown there").select_option(
        label=desk.locator("#its-part option", has_text="per month").inner_text()
    )
    desk.get_by_role("button", name="Give me its lines").click()
    lines = desk.locator("#its-lines").input_value()
    column = f"<!doctype html><html lang=en><title>Ours</title><main style='width:420px'><h1>Ours</h1>{lines}</main>"
    context = browser.new_context(viewport={"width": 900, "height": 700})
    reader = context.new_page()
    with another_site(column) as site:
        reader.goto(site)
        frame = reader.frame_locator("iframe")
        expect(frame.get_by_text("The whole report")).to_be_visible(timeout=15_000)
        place = reader.locator("iframe")
        expect(place).to_have_css("opacity", "1")
        expect(reader.locator("main img")).to_have_count(0)
        tall = place.bounding_box()
        inside = frame.locator("body").evaluate("(page) => page.getBoundingClientRect().height")
        assert round(tall["width"]) == 420 and abs(tall["height"] - inside) <= 2
        reader.locator("main").evaluate("(main) => (main.style.width = '300px')")
        reader.wait_for_function("(was) => document.querySelector('iframe').offsetHeight < was", arg=tall["height"])
        desk.get_by_label("Sites that may show it").fill("https://another.example")
        desk.get_by_role("button", name="Let these show it").click()
        reader.goto(site)
        expect(reader.locator("main img")).to_be_visible()
        reader.wait_for_timeout(1_000)
        expect(reader.locator("iframe")).to_have_css("opacity", "0")
        without = browser.new_context(java_script_enabled=False)
        plain = without.new_page()
        plain.goto(site)
        assert plain.locator("main img").evaluate("(one) => one.complete && one.naturalWidth") == 1200
        without.close()
    context.close()


def test_bands_are_shown_on_a_screen_by_keys_with_notes_in_a_second_window(desk, server):
    open_report(desk, server, "A year at your libraries")
    desk.goto(f"{server}/reports/{uid_of(desk)}/present/")
    place = desk.locator("[data-place]")
    expect(place).to_have_text("1 / 9")
    for key, said in (("ArrowRight", "2 / 9"), ("PageDown", "3 / 9"), ("ArrowLeft", "2 / 9"), ("End", "9 / 9"),
                      ("ArrowRight", "9 / 9"), ("Home", "1 / 9")):  # fmt: skip
        desk.keyboard.press(key)
        expect(place).to_have_text(said)
        shown = desk.locator(".band:visible")
        expect(shown).to_have_count(1)
        box = shown.bounding_box()
        assert box["x"] >= -1 and box["y"] >= -1 and box["x"] + box["width"] <= 1281 and box["y"] + box["height"] <= 801
    assert violations(desk) == []
    with desk.expect_popup() as opened:
        desk.keyboard.press("n")
    notes = opened.value
    expect(notes.locator("[data-place]")).to_have_text("1 / 9")
    expect(notes.locator("li.now h2")).to_have_text(desk.locator(".band.now").get_attribute("aria-label"))
    notes.keyboard.press("ArrowRight")
    expect(place).to_have_text("2 / 9")
    expect(notes.locator("[data-place]")).to_have_text("2 / 9")
    assert violations(notes) == []
    notes.close()
    desk.reload()
    expect(place).to_have_text("2 / 9"), "the address says where one is"
    desk.get_by_role("link", name="End").click()
    expect(desk.get_by_role("heading", name="Publish")).to_be_visible()


@pytest.mark.parametrize("motion", ["no-preference", "reduce"])
def test_numbers_count_up_once_where_the_author_wants_it_and_nobody_asked_for_none(desk, server, browser, motion):
    open_report(desk, server, "A year at your libraries")
    desk.goto(f"{server}/reports/{uid_of(desk)}/publish/")
    link = desk.locator("a.address").get_attribute("href")
    context = browser.new_context(viewport={"width": 900, "height": 900}, reduced_motion=motion)
    reader = context.new_page()
    reader.add_init_script(
        "window.seen = new Set(); new MutationObserver((all) => all.forEach((one) => "
        "window.seen.add(one.target.textContent))).observe(document, "
        "{ subtree: true, childList: true, characterData: true });"
    )
    reader.goto(link)
    figure = reader.locator(".tile.visual svg.wide text", has_text="159,896").first
    expect(figure).to_have_text("159,896", timeout=10_000)
    reader.wait_for_timeout(1_300)
    expect(figure).to_have_text("159,896")
    said = reader.evaluate("[...window.seen].filter(Boolean)")
    stands = set(reader.locator("svg text, td").all_text_contents())
    counted = [one for one in said if re.fullmatch(r"[\d,]{1,7}", one) and one not in stands]
    assert (len(counted) > 3) is (motion == "no-preference")
    context.close()
