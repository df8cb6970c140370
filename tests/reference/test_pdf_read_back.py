"""The PDF, read back with pypdf: text, tags, headings, alternative text (ISO 14289-1, PDF/UA-1)."""

import io

import pytest
from pypdf import PdfReader
from pypdf.generic import IndirectObject

from tests.factories import report_table, total
from ypsil.core.export import page_to_pdf
from ypsil.core.render import compose
from ypsil.core.report import Band, ReportBody, SourcesTile, TextTile, VisualTile

CHART = VisualTile.model_validate(
    {
        "table": "t", "question": total(per=[{"column": "Branch"}]), "visual": "bar",
        "alt": "Market Square leads", "title": "Visits",
    }
)  # fmt: skip
REPORT = ReportBody(
    title="Visits of the spring",
    bands=(
        Band(
            tiles=(
                TextTile(role="title", text="Visits are “up”, #1 *ever* in £ & <more> $x$ at Łódź"),
                TextTile(role="heading", text="Where people go"),
                TextTile(role="body", text="Branches send their counts. " * 12),
            )
        ),
        Band(tiles=(CHART,)),
        Band(tiles=(SourcesTile(),)),
    ),
)


@pytest.fixture(scope="module")
def pdf():
    return PdfReader(io.BytesIO(page_to_pdf(compose(REPORT, {"t": report_table()}))))


def elements(node):
    """Yield the structure elements of a tag tree, depth first."""
    if isinstance(node, IndirectObject):
        node = node.get_object()
    if isinstance(node, list):
        for one in node:
            yield from elements(one)
    elif isinstance(node, dict):
        if "/S" in node:
            yield node
        yield from elements(node.get("/K", []))


def test_the_text_is_real_and_whole(pdf):
    text = " ".join(pdf.pages[0].extract_text().split())
    assert "Visits are “up”, #1 *ever* in £ & <more> $x$ at Łódź" in text
    assert "Market Square" in text
    assert "610" in text
    assert "Visits (test)" in text


def test_there_is_one_page_of_the_pages_size_in_points(pdf):
    page = compose(REPORT, {"t": report_table()})
    assert len(pdf.pages) == 1
    # 1 px is 1/96 inch, 1 pt 1/72 inch (CSS Values and Units 4, section 6.2).
    assert float(pdf.pages[0].mediabox.width) == pytest.approx(page.width * 0.75, abs=0.1)
    assert float(pdf.pages[0].mediabox.height) == pytest.approx(page.height * 0.75, abs=0.1)


def test_it_is_tagged_with_headings_and_alternative_text(pdf):
    found = list(elements(pdf.trailer["/Root"]["/StructTreeRoot"]["/K"]))
    tags = [element["/S"] for element in found]
    assert tags.index("/H1") < tags.index("/H2") < tags.index("/Figure")
    figures = [element for element in found if element["/S"] == "/Figure"]
    assert [figure["/Alt"] for figure in figures] == ["Visits. Market Square leads"]


@pytest.mark.parametrize(
    ("roles", "levels"),
    [
        (["heading", "heading"], ["/H1", "/H2"]),
        (["heading", "title"], ["/H1", "/H1"]),
        (["title", "heading", "title"], ["/H1", "/H2", "/H1"]),
        (["body", "note"], []),
    ],
)
def test_no_heading_level_is_skipped_whatever_the_author_sets(roles, levels):
    # ISO 14289-1, 7.4.2: levels are not skipped, the first is 1.
    tiles = tuple(TextTile(role=role, text=f"Text {number}") for number, role in enumerate(roles))
    made = PdfReader(io.BytesIO(page_to_pdf(compose(ReportBody(title="T", bands=(Band(tiles=tiles),)), {}))))
    tags = [element["/S"] for element in elements(made.trailer["/Root"]["/StructTreeRoot"]["/K"])]
    assert [tag for tag in tags if tag.startswith("/H")] == levels


def test_awkward_words_are_set_as_they_are():
    nasty = '\\ "quoted" #x $y @z [a] {b} _c_ *d* `e` <f> 😀 ספרייה'
    tiles = (TextTile(role="title", text=nasty), CHART.model_copy(update={"alt": nasty, "title": nasty}))
    made = PdfReader(
        io.BytesIO(page_to_pdf(compose(ReportBody(title=nasty, bands=(Band(tiles=tiles),)), {"t": report_table()})))
    )
    assert made.metadata.title == nasty
    assert '\\ "quoted" #x $y @z [a] {b} _c_ *d* `e` <f>' in " ".join(made.pages[0].extract_text().split())


def test_it_says_what_it_is(pdf):
    root = pdf.trailer["/Root"]
    assert root["/MarkInfo"]["/Marked"]
    assert root["/Lang"].startswith("en")
    assert pdf.metadata.title == "Visits of the spring"
    assert b"<pdfuaid:part>1</pdfuaid:part>" in root["/Metadata"].get_object().get_data()


def test_it_is_drawn_with_vectors_not_pixels(pdf):
    resources = pdf.pages[0]["/Resources"]
    found = [one.get_object() for one in resources.get("/XObject", {}).values()]
    assert not any(one.get("/Subtype") == "/Image" for one in found)


TABLES = {
    "table": {"measures": [{"stat": "sum", "column": "Visits"}, {"stat": "mean", "column": "Cost"}]},
    "cross_table": {"measures": [{"stat": "count"}], "split": {"column": "Kind"}},
}


@pytest.mark.parametrize("visual", TABLES)
def test_a_table_is_tagged_as_one_and_read_row_by_row(visual):
    """A table has rows of cells with its headings in header cells (ISO 32000-2, 14.8.4.8.3)."""
    question = TABLES[visual] | {"per": [{"column": "Branch"}]}
    tile = VisualTile.model_validate({"table": "t", "question": question, "visual": visual})
    page = compose(ReportBody(title="Visits", bands=(Band(tiles=(tile,)),)), {"t": report_table()})
    found = PdfReader(io.BytesIO(page_to_pdf(page)))
    every = list(elements(found.trailer["/Root"]["/StructTreeRoot"]["/K"]))
    kinds = [element["/S"] for element in every]
    rows = kinds.count("/TR")
    assert kinds.count("/Table") == 1 and rows >= 4
    assert kinds.count("/TH") * (rows - 1) == kinds.count("/TD"), "one heading a column"
    assert "/Figure" not in kinds
    text = " ".join(found.pages[0].extract_text().split())
    assert text.index("Market Square") < text.index("Quayside") if "Quayside" in text else "Market Square" in text
