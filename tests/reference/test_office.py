"""Office files opened by LibreOffice, from Debian: skipped only where that is not installed. `.ci/run` installs it."""

import io
import os
import shutil
import subprocess

import numpy as np
import pytest
from PIL import Image, ImageFilter
from pypdf import PdfReader

from tests.core.test_drafts import subject
from tests.core.test_slides import NATIVE, drawn, of
from tests.core.test_templates import MONTHS, fitting, made
from ypsil.core.drawing.faces import FONT_FOLDER
from ypsil.core.export import file_format, page_to_png
from ypsil.core.render import compose

pytestmark = pytest.mark.skipif(
    not (shutil.which("soffice") and shutil.which("pdftoppm")), reason="LibreOffice or poppler is not installed"
)
FONTS = """<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd">
<fontconfig><dir>{fonts}</dir><cachedir>{cache}</cachedir></fontconfig>"""
# Pages for slides: the month in figures, two sides with cards, and every chart that office programs draw themselves.
PAGES = {
    "month": lambda: (made("month-in-figures").body, subject(MONTHS)),
    "sides": lambda: (made("two-sides").body, fitting("two-sides")),
    "charts": lambda: (
        of(*(drawn(name, question, title=name) for name, question, _ in NATIVE)).model_copy(
            update={"bands": tuple(of(drawn(name, ask, title=f"As {name}")).bands[0] for name, ask, _ in NATIVE)}
        ),
        subject(MONTHS),
    ),
}


@pytest.fixture(scope="module")
def pages():
    found = {}
    for name, make in PAGES.items():
        body, about = make()
        found[name] = compose(body, {about.key: about.table}, is_opened=True)
    return found


@pytest.fixture(scope="module")
def opened(pages, tmp_path_factory):
    """Each file as LibreOffice shows it: a PDF, by the name of its page and its ending."""
    folder = tmp_path_factory.mktemp("office")
    (folder / "fonts.conf").write_text(FONTS.format(fonts=FONT_FOLDER, cache=folder / "cache"))
    files = []
    for name, page in pages.items():
        for ending in ("pptx", "docx", "xlsx"):
            files.append(folder / f"{name}-{ending}.{ending}")
            files[-1].write_bytes(file_format(ending).page(page))
    run = subprocess.run(
        ["soffice", f"-env:UserInstallation=file://{folder}/profile", "--headless", "--convert-to", "pdf",
         "--outdir", str(folder), *map(str, files)],
        env=os.environ | {"FONTCONFIG_FILE": str(folder / "fonts.conf"), "HOME": str(folder)},
        capture_output=True, text=True, timeout=240, check=True,
    )  # fmt: skip
    assert "Error" not in run.stderr, run.stderr
    return folder


def pictures(path):
    subprocess.run(["pdftoppm", "-r", "36", "-png", str(path), str(path.with_suffix(""))], check=True, timeout=60)
    return [Image.open(one).convert("RGB") for one in sorted(path.parent.glob(f"{path.stem}-*.png"))]


@pytest.mark.parametrize("name", PAGES)
def test_slides_open_a_page_for_each_band_with_its_words(opened, pages, name):
    found = PdfReader(opened / f"{name}-pptx.pdf").pages
    bands = [band for band in pages[name].bands if band.tiles]
    assert len(found) == len(bands)
    for one, band in zip(found, bands, strict=True):
        text = " ".join(one.extract_text().split())
        for view in band.tiles:
            written = view.tile.writes(view.context)
            if written is not None and view.scene.shapes:
                assert " ".join(written.spoken(view.context).split())[:40] in text


@pytest.mark.parametrize("name", ["month", "sides"])
def test_slides_look_as_the_page_does(opened, pages, name):
    page = pages[name]
    whole = Image.open(io.BytesIO(page_to_png(page, scale=1))).convert("RGB")
    seen = pictures(opened / f"{name}-pptx.pdf")
    for slide, band in zip(seen, [one for one in page.bands if one.tiles], strict=True):
        assert difference(as_slide(whole, band, slide.size), slide) < 0.05, band.band.message


def as_slide(whole, band, size):
    """Return what a band is on its page, as large as it is on a slide of that size."""
    top, foot = round(band.place.y), round(band.place.y + band.place.height)
    part = whole.crop((0, top, whole.width, foot))
    by = min(size[0] / part.width, size[1] / part.height)
    part = part.resize((round(part.width * by), round(part.height * by)), Image.Resampling.LANCZOS)
    slide = Image.new("RGB", size, part.getpixel((1, part.height // 2)))
    slide.paste(part, ((size[0] - part.width) // 2, (size[1] - part.height) // 2))
    return slide


def difference(one, other):
    """Return how far two pictures are apart on average, of what black is from white, letters blurred to tones."""
    tones = [np.asarray(each.convert("L").filter(ImageFilter.GaussianBlur(3)), dtype=float) for each in (one, other)]
    return float(np.abs(tones[0] - tones[1]).mean()) / 255


def test_each_chart_is_drawn_in_the_colours_of_the_page(opened, pages):
    for slide, band in zip(pictures(opened / "charts-pptx.pdf"), pages["charts"].bands, strict=True):
        drawn = [shape for shape in band.tiles[0].scene.shapes if getattr(shape, "title", "")]
        wanted = {colour for one in drawn for colour in (one.fill, getattr(one, "stroke", "none"))}
        found = [colour for colour in wanted - {"none", "#ffffff"} if share_of(slide, colour) > 0.0004]
        assert found, band.tiles[0].tile.visual


def share_of(picture, colour):
    """Return the part of a picture that is nearly in a colour."""
    apart = np.abs(np.asarray(picture, dtype=int) - [int(colour[place : place + 2], 16) for place in (1, 3, 5)])
    return float((apart.max(axis=2) < 24).mean())


@pytest.mark.parametrize("name", PAGES)
def test_workbooks_open_with_what_they_hold(opened, pages, name):
    text = " ".join(page.extract_text() for page in PdfReader(opened / f"{name}-xlsx.pdf").pages)
    answers = [view.drawn.answer for view in pages[name].tiles() if view.drawn.answer is not None]
    assert answers and " ".join(answers[0].sentence.split()[:3]) in " ".join(text.split())


@pytest.mark.parametrize("name", PAGES)
def test_documents_open_with_their_words_and_numbers(opened, pages, name):
    text = " ".join(" ".join(page.extract_text() for page in PdfReader(opened / f"{name}-docx.pdf").pages).split())
    for view in pages[name].tiles():
        written = view.tile.writes(view.context)
        if written is not None and view.scene.shapes:
            assert " ".join(written.spoken(view.context).split())[:40] in text
        if view.drawn.answer is not None:
            assert view.drawn.answer.sentence.split()[0] in text
