"""The same page in Chromium, as PNG and as PDF: looked at beside each other; and the HTML file as readers use it."""

import io
import shutil
import subprocess

import numpy as np
import pytest
from PIL import Image, ImageFilter

from tests.browser.conftest import checked
from tests.core.test_templates import fitting, made
from ypsil.core.export import file_format, page_to_pdf, page_to_png
from ypsil.core.export.base import Delivery
from ypsil.core.render import compose

pytestmark = pytest.mark.browser
NAMES = ("month-in-figures", "two-sides", "process")


def page_of(name):
    body, about = made(name).body.as_read(), fitting(name)
    return compose(body, {about.key: about.table}, is_opened=True)


def tones(picture, size):
    """Return a picture's tones from 0 to 1, letters blurred: renderers smooth their edges otherwise."""
    shown = picture.convert("L").resize(size, Image.Resampling.LANCZOS).filter(ImageFilter.GaussianBlur(2))
    return np.asarray(shown, dtype=float) / 255


@pytest.fixture
def reader(browser):
    context = browser.new_context(viewport={"width": 1000, "height": 800}, offline=True)
    yield context.new_page()
    context.close()


@pytest.fixture
def opened(reader, tmp_path):
    def go(name):
        path = tmp_path / f"{name}.html"
        path.write_bytes(file_format("html").page(page_of(name)))
        reader.goto(path.as_uri())
        reader.evaluate("document.fonts.ready")
        return reader

    return go


@pytest.mark.parametrize("name", NAMES)
def test_chromium_png_and_pdf_show_the_same(opened, name, tmp_path):
    page = page_of(name)
    shown = opened(name)
    bands = shown.locator("main.page").bounding_box()
    seen = Image.open(io.BytesIO(shown.screenshot(full_page=True)))
    left, top = round(bands["x"]), round(bands["y"]) + 8
    seen = seen.crop((left, top, left + round(page.width), top + round(page.height)))
    png = Image.open(io.BytesIO(page_to_png(page, scale=1)))
    size = (round(page.width), round(page.height))
    assert np.abs(tones(seen, size) - tones(png, size)).mean() < 0.01
    if not shutil.which("pdftoppm"):
        pytest.skip("poppler is not installed; PNG was compared")
    (tmp_path / "page.pdf").write_bytes(page_to_pdf(page))
    subprocess.run(
        ["pdftoppm", "-r", "96", "-png", "-singlefile", str(tmp_path / "page.pdf"), str(tmp_path / "page")], check=True
    )
    with Image.open(tmp_path / "page.png") as printed:
        rows = round(printed.height * page.width / printed.width)
        size = (size[0], min(size[1], rows))
        first = png.crop((0, 0, png.width, round(png.height * size[1] / page.height)))
        assert np.abs(tones(printed.convert("RGB"), (size[0], rows))[: size[1]] - tones(first, size)).mean() < 0.01


def test_the_file_is_read_by_keys_on_a_phone_and_without_network(opened):
    page = opened("month-in-figures")
    assert checked(page, {}) == []
    chart = page.locator("svg[role=graphics-document]").first
    chart.focus()
    page.keyboard.press("ArrowRight")
    said = page.locator(".tip").text_content()
    assert said and any(said == title for title in chart.locator("title").all_text_contents())
    page.keyboard.press("Escape")
    numbers = page.locator("details.numbers").first
    numbers.locator("summary").focus()
    page.keyboard.press("Enter")
    assert numbers.locator("td").first.is_visible()
    page.keyboard.press("Enter")
    page.set_viewport_size({"width": 360, "height": 740})
    assert page.evaluate("document.documentElement.scrollWidth") <= 360
    assert checked(page, {}) == []


def test_pictures_of_a_size_are_what_the_page_is(opened):
    page = page_of("two-sides")
    small = Image.open(io.BytesIO(file_format("webp").page(page, Delivery(width=400))))
    large = Image.open(io.BytesIO(page_to_png(page, scale=2)))
    assert np.abs(tones(small, small.size) - tones(large, small.size)).mean() < 0.01
