"""A page as one HTML file: validated with html5lib's strict parser (the HTML Standard, 13.2)."""

import base64
import hashlib
import re

import html5lib
import pytest

from tests.core.test_drafts import TABLES, subject
from tests.core.test_templates import MONTHS, fitting, made
from tests.factories import total
from ypsil.core.draft import draft
from ypsil.core.errors import YpsilError
from ypsil.core.export import file_format
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.document import Band
from ypsil.core.templates import templates
from ypsil.core.tiles import TextTile, VisualTile
from ypsil.core.visuals.shared.summary import numbers_table

TABLE = subject(MONTHS)


def page_of(body, about=TABLE):
    return compose(body, {about.key: about.table}, is_opened=True)


def file_of(body, about=TABLE):
    return file_format("html").page(page_of(body, about)).decode()


def read(content):
    """Parse a file; raises where it is not as the standard says."""
    return html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(content)


@pytest.mark.parametrize("name", templates())
def test_every_template_becomes_a_valid_file_with_its_words_and_descriptions(name):
    body = made(name).body.as_read()
    page = page_of(body, fitting(name))
    root = read(file_of(body, fitting(name)))
    text = " ".join("".join(root.itertext()).split())
    assert root.findtext(".//title") == body.title and root.get("lang") == "en" and root.get("dir") == "ltr"
    for view in page.tiles():
        written = view.tile.writes(view.context)
        if written is not None and not view.scene.name and view.scene.shapes:
            assert " ".join(written.spoken(view.context).split())[:60] in text
        if view.scene.name and not view.tile.listed(view.context):
            assert view.scene.name.split("\n")[0] in text
    levels = [one.tag for one in root.iter() if isinstance(one.tag, str) and re.fullmatch(r"h[1-6]", one.tag)]
    assert levels.count("h1") == 1


@pytest.mark.parametrize("name", TABLES)
def test_any_draft_becomes_a_valid_file(name):
    about = subject(TABLES[name]())
    read(file_of(draft([about], ReportBody(title="T")).body, about))


def test_nothing_is_loaded_from_elsewhere_and_nothing_else_runs():
    content = file_of(made("month-in-figures").body)
    root = read(content)
    loading = [one.get(name) for one in root.iter() for name in ("src", "poster", "data") if one.get(name)]
    assert not [one for one in loading if not one.startswith("data:")]
    assert not root.findall(".//link") and not re.search(r"url\((?!data:|#)", content)
    policy = root.find(".//meta[@http-equiv='Content-Security-Policy']").get("content")
    for tag in ("style", "script"):
        (one,) = root.findall(f".//{tag}")
        said = base64.b64encode(hashlib.sha256(one.text.encode()).digest()).decode()
        assert f"{tag}-src 'sha256-{said}'" in policy
    assert "default-src 'none'" in policy
    assert not [one for one in root.iter() if one.get("style") or any(name.startswith("on") for name in one.attrib)]


def test_numbers_stand_behind_each_drawing():
    asked = total("Visits", per=[{"column": "Branch"}])
    tile = VisualTile.model_validate({"table": "t", "question": asked, "visual": "bar"})
    body = ReportBody(title="T", bands=(Band(tiles=(tile,)),))
    (table,) = read(file_of(body)).findall(".//table")
    found = [[cell.text for cell in row] for row in table.iter("tr")]
    headings, rows = numbers_table(page_of(body).tiles()[0].drawn.answer)
    assert found == [headings, *rows]


@pytest.mark.parametrize("awkward", ["</script><script>alert(1)</script>", "a & <b> “c”\x0b", "\u202eevil", "x" * 4000])
def test_awkward_words_are_words(awkward):
    body = ReportBody(title=awkward[:200], bands=(Band(tiles=(TextTile(text=awkward),), message=awkward[:200]),))
    root = read(file_of(body))
    assert len(root.findall(".//script")) == 1
    assert " ".join(awkward.replace("\x0b", " ").split()) in " ".join("".join(root.itertext()).split())


def test_a_report_in_another_language_says_so_with_its_direction():
    body = ReportBody(title="דוח", language="he", bands=(Band(tiles=(TextTile(text="שלום"),)),))
    root = read(file_of(body))
    assert (root.get("lang"), root.get("dir")) == ("he", "rtl")


def test_the_same_page_gives_the_same_bytes_and_an_empty_one_none():
    body = made("snapshot").body
    assert file_of(body) == file_of(body)
    with pytest.raises(YpsilError, match="the report is empty"):
        file_of(ReportBody(title="Empty"))
