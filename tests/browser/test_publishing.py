"""Publish in the browser: files in turn, pictures on the clipboard."""

import re

import pytest
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.conftest import editor_is_ready, open_report, unfold
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
