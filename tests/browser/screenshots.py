"""Pictures of the main views, made from the demo data: ``make screenshots`` writes docs/screenshots."""

from __future__ import annotations

import io
import re
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.conftest import SCREEN, launched_browser, running_demo, sign_in

# Four pages beside each other.
_FOUR, _WIDE, _HIGH, _GAP = 4, 420, 1000, 20
FOLDER = Path(__file__).parents[2] / "docs/screenshots"


def shoot(page: Page, name: str, *, whole: bool = False) -> None:
    page.mouse.move(2, 400)
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER / f"{name}.png", full_page=whole)


def take(page: Page, address: str) -> None:
    sign_in(page, address)
    expect(page.locator("[data-miniature]")).to_have_count(0)
    shoot(page, "desk")
    page.get_by_role("link", name="Visits", exact=True).click()
    table = page.url
    expect(page.get_by_role("gridcell").first).to_be_visible()
    shoot(page, "table")
    page.goto(table + "comparison/")
    shoot(page, "comparison", whole=True)
    take_templates(page, address, table)
    page.goto(address)
    page.get_by_role("link", name=re.compile("^Brackenshire")).click()
    report = page.url
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Visits in the last 12 months")).click()
    page.locator("#margin .word").first.click()
    shoot(page, "sentence")
    page.keyboard.press("Escape")
    page.locator(".add-tile").nth(2).click()
    page.get_by_role("button", name="How it changes").click()
    expect(page.locator(".suggestion").first).to_be_visible()
    shoot(page, "what-should-the-reader-see")
    page.goto(address)
    page.get_by_role("link", name=re.compile("^Gallery")).click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    page.goto(page.url + "preview/")
    expect(page.locator("svg").first).to_be_visible()
    page.screenshot(
        path=FOLDER / "gallery.png", full_page=True, clip={"x": 40, "y": 1750, "width": 1200, "height": 1250}
    )
    page.goto(report + "proof/")
    page.frame_locator("iframe").get_by_role("heading", name=re.compile("^Brackenshire")).wait_for(state="attached")
    shoot(page, "proof")
    page.goto(report + "publish/")
    shoot(page, "publish")
    page.goto(address)
    page.get_by_role("link", name="A year at your libraries").click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    year = page.url
    page.get_by_role("button", name=re.compile("^visits in the last 12 months")).click()
    expect(page.locator(".sentence")).to_be_visible()
    shoot(page, "compose")
    page.get_by_role("button", name="Ready-made bands").click()
    expect(page.locator("#ready-made .suggestion").nth(8)).to_be_visible()
    shoot(page, "ready-made")
    page.goto(year + "preview/")
    shoot(page, "published-year", whole=True)
    page.goto(report + "preview/")
    shoot(page, "published-libraries", whole=True)
    page.goto(address)
    page.get_by_role("link", name=re.compile("^What readers told us")).click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    survey = page.url
    page.locator(".add-tile").first.click()
    page.get_by_role("button", name="What people answered").click()
    expect(page.locator(".suggestion").nth(8)).to_be_visible()
    shoot(page, "what-people-answered")
    page.goto(survey + "preview/")
    shoot(page, "published-survey", whole=True)
    page.goto(address)
    page.get_by_role("link", name="Readers survey, both waves", exact=True).click()
    page.get_by_role("link", name="Words and answers").click()
    page.get_by_role("button", name=re.compile("^Read the answers about Opening hours")).click()
    expect(page.get_by_role("heading", name=re.compile("^About Opening hours"))).to_be_visible()
    shoot(page, "themes")
    page.goto(report)
    page.get_by_role("button", name=re.compile("^Number of uses per word in Comment")).press("Enter")
    page.get_by_role("region", name="Words that are counted").get_by_role("button", name="story time").press("Enter")
    expect(page.get_by_role("heading", name="“story time”")).to_be_visible()
    shoot(page, "words")
    page.goto(address)
    page.get_by_role("link", name=re.compile("^Compost wins")).click()
    page.goto(page.url + "preview/")
    page.set_viewport_size({"width": 390, "height": 844})
    page.reload()
    shoot(page, "published-on-a-phone")
    page.set_viewport_size(SCREEN)
    page.goto(address)
    page.get_by_role("link", name=re.compile("^Sampler")).click()
    page.goto(page.url + "preview/")
    page.set_viewport_size({"width": 832, "height": 800})
    page.reload()
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER.parent / "guide/kinds.png", full_page=True)


def take_templates(page: Page, address: str, table: str) -> None:
    """Show the gallery with the sample's visits, and four of its pages beside each other."""
    chosen = f"?table={table.rstrip('/').rsplit('/', 1)[-1]}"
    page.goto(f"{address}/gallery/{chosen}")
    for card in page.locator(".card-of .picture").all():
        card.scroll_into_view_if_needed()
    expect(page.locator("[data-miniature]")).to_have_count(0)
    shoot(page, "templates", whole=True)
    # In a narrow window the whole page stands there, and does not scroll within it.
    page.set_viewport_size({"width": 880, "height": 800})
    sheet = Image.new("RGB", (_FOUR * _WIDE + (_FOUR - 1) * _GAP, _HIGH), "#f6f4f9")
    for place, name in enumerate(("month-in-figures", "two-sides", "ranked-list", "place-by-place")):
        page.goto(f"{address}/gallery/{name}/{chosen}")
        drawn = page.locator(".sheet-of-page > svg")
        expect(drawn).to_be_visible()
        page.evaluate("document.fonts.ready")
        one = Image.open(io.BytesIO(drawn.screenshot()))
        one = one.convert("RGB").resize((_WIDE, round(one.height * _WIDE / one.width)))
        sheet.paste(one.crop((0, 0, _WIDE, min(one.height, _HIGH))), (place * (_WIDE + _GAP), 0))
    sheet.save(FOLDER / "four-templates.png", optimize=True)
    page.set_viewport_size(SCREEN)


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with running_demo() as address, launched_browser() as browser:
        take(browser.new_context(viewport=SCREEN).new_page(), address)


if __name__ == "__main__":
    main()
