"""Pictures of the main views, made from the demo data: ``make screenshots`` writes docs/screenshots."""

from __future__ import annotations

import io
import os
import re
import shutil
import subprocess
import tempfile
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.conftest import SCREEN, launched_browser, running_demo, sign_in, table_called
from tests.browser.test_publishing import another_site
from tests.reference.test_office import FONTS
from ypsil.core.drawing.faces import FONT_FOLDER

# Four pages beside each other.
_FOUR, _WIDE, _HIGH, _GAP = 4, 420, 1000, 20
_SCHOOL = """<!doctype html><html lang="en"><title>A school</title>
<body style="font-family: serif; background: #f4efe6; margin: 28px"><h1>Hilltop School: our library week</h1>
<p>Year 5 has visited the branches. Which one did people go to most this year?</p>LINES
<p>Next week we ask what they read there.</p>"""
FOLDER = Path(__file__).parents[2] / "docs/screenshots"


def shoot(page: Page, name: str, *, whole: bool = False) -> None:
    page.mouse.move(2, 400)
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER / f"{name}.png", full_page=whole)


def take(page: Page, address: str) -> None:
    sign_in(page, address)
    expect(page.locator("[data-miniature]")).to_have_count(0)
    shoot(page, "desk")
    table_called(page, "Visits").click()
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


def take_readers(page: Page, address: str) -> None:
    """Show a page as its readers see it, a chart of it in the page of another site, and the same page as slides."""
    page.goto(address)
    page.get_by_role("link", name=re.compile("^A year at")).click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    stage, files = page.url + "publish/", page.url + "files/pptx/"
    page.goto(stage)
    link = page.locator("a.address").get_attribute("href") or ""
    chart = page.locator("#its-part option", has_text="per Branch").first.inner_text()
    page.get_by_label("What is shown there").select_option(label=chart)
    page.get_by_role("button", name="Give me its lines").click()
    lines = page.locator("#its-lines").input_value()
    slides = _slides(page.request.get(files).body())
    page.set_viewport_size({"width": 800, "height": 1160})
    page.goto(link)
    page.evaluate("document.fonts.ready")
    seen = [page.screenshot()]
    page.set_viewport_size({"width": 520, "height": 700})
    with another_site(_SCHOOL.replace("LINES", lines)) as site:
        page.goto(site)
        expect(page.locator("iframe")).to_have_css("opacity", "1", timeout=15_000)
        page.wait_for_timeout(500)
        seen.append(page.screenshot())
    page.set_viewport_size(SCREEN)
    _beside([Image.open(io.BytesIO(one)) for one in seen] + slides).save(
        FOLDER.parent / "guide/as-readers.png", optimize=True
    )


def take_filters(page: Page, address: str) -> None:
    """Show a page as a reader chose to see it."""
    page.goto(address)
    page.get_by_role("link", name=re.compile("^Brackenshire")).click()
    expect(page.get_by_role("heading", name="This report")).to_be_visible()
    page.goto(page.url + "publish/")
    link = page.locator("a.address").get_attribute("href") or ""
    page.set_viewport_size({"width": 800, "height": 1660})
    page.goto(f"{link}?month-last=12")
    for name in ("Elmstow", "Dunmere"):
        page.locator("[data-chooses=branch] svg:visible [data-group]").and_(
            page.locator(f"[data-group={name}]")
        ).click()
        expect(page.locator(".now").first).to_contain_text(name)
    page.locator("main:not([aria-busy])").wait_for()
    page.get_by_text("Branch:").locator("..").click()
    page.mouse.move(2, 40)
    page.evaluate("document.fonts.ready")
    page.wait_for_timeout(500)
    page.screenshot(path=FOLDER.parent / "guide/filtered.png")
    page.set_viewport_size(SCREEN)


def _slides(deck: bytes) -> list[Image.Image]:
    """Return the first slides of a deck below each other, as LibreOffice shows them; nothing where that is not here."""
    if not (shutil.which("soffice") and shutil.which("pdftoppm")):
        return []
    with tempfile.TemporaryDirectory() as folder:
        at = Path(folder)
        (at / "deck.pptx").write_bytes(deck)
        (at / "fonts.conf").write_text(FONTS.format(fonts=FONT_FOLDER, cache=at / "cache"))
        around = os.environ | {"FONTCONFIG_FILE": str(at / "fonts.conf"), "HOME": folder}
        profile = f"-env:UserInstallation=file://{at}/profile"
        convert = ["soffice", profile, "--headless", "--convert-to", "pdf", "--outdir", folder, str(at / "deck.pptx")]
        subprocess.run(convert, env=around, check=True, capture_output=True)
        subprocess.run(["pdftoppm", "-r", "48", "-l", "4", "-png", str(at / "deck.pdf"), str(at / "s")], check=True)
        found = [Image.open(one).convert("RGB") for one in sorted(at.glob("s-*.png"))]
    sheet = Image.new("RGB", (found[0].width, sum(one.height + 12 for one in found)), "#8d8a99")
    for place, one in enumerate(found):
        sheet.paste(one, (0, place * (one.height + 12)))
    return [sheet]


def _beside(pictures: list[Image.Image]) -> Image.Image:
    """Return pictures beside each other, each as high as the others."""
    scaled = [one.convert("RGB").resize((round(one.width * _HIGH / one.height), _HIGH)) for one in pictures]
    sheet = Image.new("RGB", (sum(one.width + _GAP for one in scaled) - _GAP, _HIGH), "#f6f4f9")
    x = 0
    for one in scaled:
        sheet.paste(one, (x, 0))
        x += one.width + _GAP
    return sheet


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with running_demo() as address, launched_browser() as browser:
        page = browser.new_context(viewport=SCREEN).new_page()
        take(page, address)
        take_readers(page, address)
        take_filters(page, address)


if __name__ == "__main__":
    main()
