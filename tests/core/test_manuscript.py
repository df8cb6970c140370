"""A page as a text document: read back with python-docx, a general-purpose library."""

import io
import zipfile

import docx
import pytest
from docx.oxml.ns import qn

from tests.core.test_drafts import TABLES, subject
from tests.core.test_templates import MONTHS, fitting, made
from tests.factories import total
from ypsil.core.draft import draft
from ypsil.core.errors import YpsilError
from ypsil.core.export import file_format
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.document import Band
from ypsil.core.style.grounds import Ground
from ypsil.core.templates import templates
from ypsil.core.tiles import TextTile, VisualTile
from ypsil.core.visuals.shared.summary import numbers_table

TABLE = subject(MONTHS)
PER_MONTH = total("Visits", per=[{"column": "Month", "by": "month"}])


def page_of(body, about=TABLE):
    return compose(body, {about.key: about.table}, is_opened=True)


def text_of(body, about=TABLE):
    return docx.Document(io.BytesIO(file_format("docx").page(page_of(body, about))))


def of(*tiles, **more):
    return ReportBody(title="Ours", bands=(Band(tiles=tiles, **more),))


def typed(*blocks):
    return TextTile.model_validate({"text": {"blocks": list(blocks)}})


def drawn(question=PER_MONTH, **more):
    return VisualTile.model_validate({"table": "t", "question": question, "visual": "line"} | more)


def described(text):
    return [one._inline.docPr.get("descr") for one in text.inline_shapes]


def test_headings_and_words_stand_in_reading_order():
    body = made("month-in-figures").body.as_read()
    page, text = page_of(body), text_of(body)
    said = [" ".join(one.text.split()) for one in text.paragraphs if one.text.strip()]
    wanted = []
    for view in page.tiles():
        written = view.tile.writes(view.context)
        if written is not None and not view.scene.name:
            lines = written.spoken(view.context).split("\n")
            wanted += [" ".join(line.split()) for line in lines if line.strip()]
    places = [said.index(line) for line in wanted]
    assert wanted and places == sorted(places)
    first = next(one for one in text.paragraphs if one.style.name == "Title")
    heading = next(view for view in page.tiles() if view.tile.heading())
    assert first.text == heading.tile.writes(heading.context).spoken(heading.context)
    assert text.core_properties.title == body.title and text.core_properties.author == ""


def test_a_drawing_is_a_picture_with_its_description_and_its_numbers():
    body = of(drawn(title="Visits month by month"))
    page, text = page_of(body), text_of(body)
    (view,) = page.tiles()
    assert described(text) == [f"{view.scene.name}. {view.scene.description}".rstrip(".")]
    assert [one.text for one in text.paragraphs if one.style.name == "Heading 2"] == ["Visits month by month"]
    headings, rows = numbers_table(view.drawn.answer)
    (table,) = text.tables
    assert [[cell.text for cell in row.cells] for row in table.rows] == [headings, *rows]
    assert table.rows[0]._tr.find(qn("w:trPr")).find(qn("w:tblHeader")) is not None


def test_long_tables_say_how_many_rows_there_are():
    rows = "Name,Visits\n" + "".join(f"Branch {n},{n}\n" for n in range(60))
    question = total("Visits", per=[{"column": "Name"}])
    text = text_of(of(drawn(question, visual="bar")), subject(rows))
    assert len(text.tables[0].rows) == 41
    assert any(one.text == "The first 40 of 60 rows." for one in text.paragraphs)


def test_lists_count_from_one_again_and_looks_stay():
    items = [{"kind": "number", "runs": [{"text": word}]} for word in ("a", "b")]
    tile = typed(
        {"runs": [{"text": "bold", "looks": ["bold"]}, {"text": " up", "looks": ["above"]}]},
        *items,
        {"kind": "bullet", "runs": [{"text": "dot"}]},
        *items,
    )
    text = text_of(of(tile))
    numbers = [one._p.pPr.numPr.numId.val for one in text.paragraphs if one.style.name == "List Number"]
    assert len(numbers) == 4 and numbers[0] == numbers[1] != numbers[2] == numbers[3]
    assert [one.text for one in text.paragraphs if one.style.name == "List Bullet"] == ["dot"]
    bold, up = next(one for one in text.paragraphs if one.text.startswith("bold")).runs
    assert bold.bold and up.font.superscript


def test_links_lead_out_and_to_bands():
    goal = Band(tiles=(TextTile(text="There"),))
    runs = [{"text": "out", "link": "https://example.org/a"}, {"text": "on", "link": f"#{goal.id}"}]
    text = text_of(ReportBody(title="T", bands=(Band(tiles=(typed({"runs": runs}),)), goal)))
    links = list(text.element.body.iter(qn("w:hyperlink")))
    assert [text.part.rels[links[0].get(qn("r:id"))].target_ref] == ["https://example.org/a"]
    marks = [one.get(qn("w:name")) for one in text.element.body.iter(qn("w:bookmarkStart"))]
    assert links[1].get(qn("w:anchor")) == marks[-1]
    body = list(text.element.body)
    mark = next(one for one in body if one.get(qn("w:name")) == marks[-1])
    assert "There" in "".join(body[body.index(mark) + 2].itertext())


def test_whole_tiles_lead_where_they_do_on_the_page():
    text = text_of(
        of(TextTile(text="Go on", leads_to="https://example.org/a"), drawn(leads_to="https://example.org/b", title="C"))
    )
    links = [text.part.rels[one.get(qn("r:id"))].target_ref for one in text.element.body.iter(qn("w:hyperlink"))]
    assert links == ["https://example.org/a", "https://example.org/b"]


def test_words_of_other_directions_begin_at_the_right():
    text = text_of(of(TextTile(text="שלום לכולם"), TextTile(text="Left")))
    right = {one.text: one._p.pPr is not None and one._p.pPr.find(qn("w:bidi")) is not None for one in text.paragraphs}
    assert right["שלום לכולם"] and not right["Left"]


def test_what_was_white_on_dark_can_be_read_on_paper():
    ground = Ground(colour="accent")
    text = text_of(of(typed({"runs": [{"text": "seen", "colour": "quiet"}, {"text": "plain"}]}), ground=ground))
    (paragraph,) = [one for one in text.paragraphs if one.text == "seenplain"]
    assert str(paragraph.runs[0].font.color.rgb) != "FFFFFF" and paragraph.runs[1].font.color.rgb is None


@pytest.mark.parametrize("name", templates())
def test_every_template_becomes_a_document_whose_pictures_say_something(name):
    text = text_of(made(name).body.as_read(), fitting(name))
    assert text.paragraphs and all(described(text))


@pytest.mark.parametrize("name", TABLES)
def test_any_draft_becomes_a_document(name):
    about = subject(TABLES[name]())
    assert text_of(draft([about], ReportBody(title="T")).body, about).paragraphs


@pytest.mark.parametrize("awkward", ["a < b & “c”\x0b d", "x" * 3000, "図書館 📚", "\u202eevil"])
def test_awkward_words_stand_in_it(awkward):
    text = text_of(of(TextTile(text=awkward), drawn(title=awkward[:500])))
    assert any(one.text.startswith(awkward[:3]) for one in text.paragraphs)


def test_the_same_page_gives_the_same_bytes_and_an_empty_one_none():
    body = made("snapshot").body
    first = file_format("docx").page(page_of(body))
    assert first == file_format("docx").page(page_of(body))
    with zipfile.ZipFile(io.BytesIO(first)) as found:
        assert b"2000-01-01T00:00:00Z" in found.read("docProps/core.xml")
    with pytest.raises(YpsilError, match="the report is empty"):
        text_of(ReportBody(title="Empty"))
