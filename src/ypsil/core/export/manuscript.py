"""A page as a text document: its headings and texts in reading order, each drawing as a picture with its description
and its numbers in a table."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.bidi import runs_rightwards
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.svg import allowed
from ypsil.core.errors import YpsilError
from ypsil.core.export.pictures import tile_picture
from ypsil.core.export.steady import steady
from ypsil.core.figures import format_number
from ypsil.core.prose.model import Block, Run
from ypsil.core.prose.setting import colour_of
from ypsil.core.render import Page, heading_levels
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles.leading import band_of
from ypsil.core.visuals import Box
from ypsil.core.visuals.shared.footnotes import left_out_words
from ypsil.core.visuals.shared.summary import numbers_table

if TYPE_CHECKING:
    from ypsil.core.render import TileView

# Longer tables than this are for a workbook.
MOST_ROWS = 40
_MOST_COLUMNS = 12
_PX_PER_INCH = 96.0
_TEXT_INCHES = 6.3
_SHEET_MM = (210, 297)
_MARGIN_MM = 25
_BODY_PT, _NOTE_PT = 11, 9
_HEADING_PTS = {"Title": 24, "Heading 1": 18, "Heading 2": 14, "Heading 3": 12}
_INK = "#22212b"
_PAPER = "#ffffff"
_READABLE = 4.5
_STYLES = {"quote": "Quote", "note": "Caption"}


def page_to_docx(page: Page) -> bytes:
    """Return a page as a text document in the ECMA-376 format. The same page gives the same bytes.

    Raises YpsilError for a report without anything in it.
    """
    if not page.tiles():
        raise YpsilError("the report is empty", where=page.report.title, remedy="add something to it first")
    import docx

    manuscript = _Manuscript(page, docx.Document())
    manuscript.write()
    buffer = io.BytesIO()
    manuscript.file.save(buffer)
    return steady(buffer.getvalue())


class _Manuscript:
    """A document that is being written."""

    def __init__(self, page: Page, file: Any) -> None:
        self.page = page
        self.file = file
        self.levels = heading_levels(page)
        self.places: dict[str, str] = {}
        self._lists = 0

    def write(self) -> None:
        report = self.page.report
        core = self.file.core_properties
        core.title, core.language = allowed(report.title)[:255], report.language
        core.author = core.last_modified_by = core.comments = core.keywords = core.subject = ""
        _set_styles(self.file, report.style, report.language)
        self._set_sheet()
        self.places = {band.band.id: f"part{number}" for number, band in enumerate(self.page.bands, 1)}
        if not self.levels:
            self._paragraph("Title", [report.title])
        for number, band in enumerate(self.page.bands, 1):
            first = len(self.file.element.body)
            for view in band.tiles:
                self._tile(view)
            self._mark(first, number, self.places[band.band.id])

    def _set_sheet(self) -> None:
        from docx.shared import Mm

        section = self.file.sections[0]
        section.page_width, section.page_height = (Mm(side) for side in _SHEET_MM)
        section.left_margin = section.right_margin = section.top_margin = section.bottom_margin = Mm(_MARGIN_MM)
        _number_pages(section.footer.paragraphs[0])

    def _tile(self, view: TileView) -> None:
        tile, context = view.tile, view.context
        if tile.joins() or tile.decorates() or not view.scene.shapes:
            return
        if view.header is not None and view.header.words:
            self._paragraph("Heading 3", [view.header.words])
        written = tile.writes(context)
        if written is not None and not view.scene.name:
            level = self.levels.get(tile.id, 0)
            said = iter([one.text for one in written.said(context)])
            style = ("Title" if level == 1 else "Heading 1") if level else _STYLES.get(written.role, "Normal")
            self._blocks(written.prose.blocks, said, style, tile.leads())
            return
        title = getattr(tile, "title", "")
        if title:
            self._paragraph("Heading 2", [title])
        self._picture(_untitled(view) if title else view)
        if tile.leads():
            self._run(self._paragraph("Caption", []), Run(text=tile.label(), link=tile.leads()), tile.label())
        answer = view.drawn.answer
        if answer is not None:
            self._about(view, answer)

    def _blocks(self, blocks: Sequence[Block], said: Iterator[str], style: str, leads: str) -> None:
        """Write paragraphs; what leads nowhere of its own leads where the whole does."""
        before: Block | None = None
        for block in blocks:
            named = {"bullet": "List Bullet", "number": "List Number"}.get(block.kind, style)
            if block.kind != "paragraph" and block.level:
                named += f" {min(3, block.level + 1)}"
            made = self._paragraph(named, [])
            if block.kind == "number" and (before is None or before.kind != "number"):
                self._lists = _counted_anew(self.file, made)
            elif block.kind == "number":
                _counted_on(made, self._lists)
            words = []
            for run in block.runs:
                words.append(run.text if run.figure is None else next(said, ""))
                self._run(made, run if run.link or not leads else run.model_copy(update={"link": leads}), words[-1])
            _direct(made, "".join(words))
            before = block

    def _run(self, paragraph: Any, run: Run, words: str) -> None:
        from docx.shared import RGBColor

        made = paragraph.add_run(allowed(words))
        made.bold = True if "bold" in run.looks else None
        made.italic = True if "italic" in run.looks else None
        made.underline = True if "underline" in run.looks else None
        if "above" in run.looks:
            made.font.superscript = True
        if "below" in run.looks:
            made.font.subscript = True
        if run.colour or run.link:
            colour = colour_of(run.colour or "accent", self.page.report.style)
            made.font.color.rgb = RGBColor.from_string(_on_paper(colour).removeprefix("#")[:6].upper())
        if run.link:
            made.underline = True
            self._link(paragraph, made, run.link)

    def _link(self, paragraph: Any, run: Any, address: str) -> None:
        """Let a stretch of text lead to an address, or to where a band begins."""
        from docx.opc.constants import RELATIONSHIP_TYPE
        from docx.oxml import OxmlElement
        from docx.oxml.ns import qn

        link = OxmlElement("w:hyperlink")
        band = band_of(address)
        if band and band not in self.places:
            return
        if band:
            link.set(qn("w:anchor"), self.places[band])
        else:
            part = paragraph.part
            link.set(qn("r:id"), part.relate_to(address, RELATIONSHIP_TYPE.HYPERLINK, is_external=True))
        run._r.addprevious(link)
        link.append(run._r)

    def _mark(self, first: int, number: int, name: str) -> None:
        """Set a mark where a band begins, for what leads there."""
        from docx.oxml import OxmlElement
        from docx.oxml.ns import qn

        body = self.file.element.body
        if first > len(body) - 1:
            return
        for tag in ("w:bookmarkEnd", "w:bookmarkStart"):
            made = OxmlElement(tag)
            made.set(qn("w:id"), str(number))
            if tag == "w:bookmarkStart":
                made.set(qn("w:name"), name)
            body.insert(first - 1, made)

    def _paragraph(self, style: str, words: Sequence[str]) -> Any:
        made = self.file.add_paragraph(style=style)
        for part in words:
            made.add_run(allowed(part))
        _direct(made, "".join(words))
        return made

    def _picture(self, view: TileView) -> None:
        from docx.shared import Inches

        wide = min(_TEXT_INCHES, view.scene.width / _PX_PER_INCH)
        paragraph = self._paragraph("Normal", [])
        paragraph.paragraph_format.keep_with_next = view.drawn.answer is not None
        inline = paragraph.add_run().add_picture(io.BytesIO(tile_picture(self.page, view)), width=Inches(wide))
        named = inline._inline.docPr
        named.set("name", allowed(view.tile.label())[:120])
        named.set("descr", allowed(view.scene.told or view.tile.label()))

    def _about(self, view: TileView, answer: Answer) -> None:
        """Write what a drawing shows below it: in words, then its numbers."""
        notes = [*answer.footnotes, *left_out_words(view.scene, answer.locale)]
        base = f"n = {format_number(answer.base, locale=answer.locale)}"
        self._paragraph("Caption", ["; ".join([answer.sentence, base, *notes]) + "."])
        if answer.height < 2 or len(answer.columns) > _MOST_COLUMNS:
            return
        headings, rows = numbers_table(answer.for_show(), MOST_ROWS)
        self._table(headings, rows, [column.role == "measure" for column in answer.columns])
        if answer.height > MOST_ROWS:
            count = format_number(answer.height, locale=answer.locale)
            self._paragraph("Caption", [f"The first {MOST_ROWS} of {count} rows."])
        else:
            self._paragraph("Caption", [""])

    def _table(self, headings: list[str], rows: list[list[str]], are_numbers: list[bool]) -> None:
        from docx.enum.text import WD_ALIGN_PARAGRAPH
        from docx.oxml import OxmlElement

        table = self.file.add_table(rows=1 + len(rows), cols=len(headings), style="Table Grid")
        _rule(table, self.page.report.style.grid)
        # Pages that a table goes on to begin with its headings.
        properties = table.rows[0]._tr.get_or_add_trPr()
        properties.append(OxmlElement("w:tblHeader"))
        cells = table._cells
        for place, text in enumerate([*headings, *(cell for row in rows for cell in row)]):
            paragraph = cells[place].paragraphs[0]
            paragraph.style = "Numbers"
            run = paragraph.add_run(allowed(text))
            run.bold = True if place < len(headings) else None
            if are_numbers[place % len(headings)]:
                paragraph.alignment = WD_ALIGN_PARAGRAPH.RIGHT
            else:
                _direct(paragraph, text)


def _untitled(view: TileView) -> TileView:
    """Return a tile without the title that stands in its drawing, where it stands above it as a heading."""
    plain = view.tile.model_copy(update={"title": ""})
    drawn = plain.draws(Box(view.scene.width, view.scene.height), view.context)
    if drawn.problem:
        return view
    scene = replace(drawn.scene, name=view.scene.name, description=view.scene.description)
    return replace(view, tile=plain, drawn=replace(drawn, scene=scene))


def _rule(table: Any, colour: str) -> None:
    """Draw light lines between the rows of a table, and none between its columns (ECMA-376, part 1, 17.4.38)."""
    from docx.oxml import OxmlElement
    from docx.oxml.ns import qn

    borders = OxmlElement("w:tblBorders")
    for side in ("top", "left", "bottom", "right", "insideH", "insideV"):
        line = OxmlElement(f"w:{side}")
        is_drawn = side in ("top", "bottom", "insideH")
        found = {"w:val": "single" if is_drawn else "nil", "w:sz": "4", "w:color": colour.removeprefix("#")[:6].upper()}
        for name, value in found.items():
            line.set(qn(name), value)
        borders.append(line)
    table._tbl.tblPr.append(borders)


def _set_styles(file: Any, style: HouseStyle, language: str) -> None:
    """Give the document's styles the typefaces and the colours of a house style."""
    from docx.enum.style import WD_STYLE_TYPE
    from docx.oxml import OxmlElement
    from docx.oxml.ns import qn
    from docx.shared import Pt, RGBColor

    numbers = file.styles.add_style("Numbers", WD_STYLE_TYPE.PARAGRAPH)
    numbers.paragraph_format.space_after = numbers.paragraph_format.space_before = Pt(1)
    sizes = {"Normal": _BODY_PT, "Caption": _NOTE_PT, "Quote": _BODY_PT + 1, "Numbers": _NOTE_PT, **_HEADING_PTS}
    for name, size in sizes.items():
        one = file.styles[name]
        is_heading = name in _HEADING_PTS
        family = style.heading_family if is_heading else style.body_family
        colour = _on_paper(style.muted if name == "Caption" else style.ink)
        one.font.name, one.font.size = family, Pt(size)
        one.font.color.rgb = RGBColor.from_string(colour.removeprefix("#")[:6].upper())
        one.font.bold = is_heading
        one.font.italic = name == "Quote"
        fonts = one.element.rPr.rFonts
        for attribute in list(fonts.attrib):
            if attribute.endswith("Theme"):
                del fonts.attrib[attribute]
        for script in ("w:cs", "w:eastAsia"):
            fonts.set(qn(script), family)
    spoken = OxmlElement("w:lang")
    for attribute in ("w:val", "w:bidi"):
        spoken.set(qn(attribute), language)
    found = file.styles["Normal"].element.rPr
    for old in found.findall(qn("w:lang")):
        found.remove(old)
    found.append(spoken)
    for border in file.styles["Title"].element.iter(qn("w:pBdr")):
        border.getparent().remove(border)
        break


def _on_paper(colour: str) -> str:
    """Return a colour as it can be read on white; ink where it cannot."""
    return colour if contrast_ratio(colour[:7], _PAPER) >= _READABLE else _INK


def _direct(paragraph: Any, words: str) -> None:
    """Let a paragraph begin at the right where its words do."""
    from docx.oxml import OxmlElement

    if runs_rightwards(words):
        return
    paragraph._p.get_or_add_pPr().append(OxmlElement("w:bidi"))
    for run in paragraph.runs:
        run._r.get_or_add_rPr().append(OxmlElement("w:rtl"))


def _counted_anew(file: Any, paragraph: Any) -> int:
    """Let a list count from one again; return the number of its counting (ECMA-376, part 1, 17.9.15)."""
    from docx.oxml.ns import qn

    numbering = file.part.numbering_part.element
    used = file.styles["List Number"].element.pPr.numPr.numId.val
    abstract = next(one for one in numbering.findall(qn("w:num")) if one.numId == used).abstractNumId.val
    made = numbering.add_num(abstract)
    made.add_lvlOverride(ilvl=0).add_startOverride(1)
    _counted_on(paragraph, made.numId)
    return int(made.numId)


def _counted_on(paragraph: Any, number: int) -> None:
    if number:
        properties = paragraph._p.get_or_add_pPr().get_or_add_numPr()
        properties.get_or_add_ilvl().val = 0
        properties.get_or_add_numId().val = number


def _number_pages(paragraph: Any) -> None:
    """Write the number of the page (ECMA-376, part 1, 17.16.5.44)."""
    from docx.enum.text import WD_ALIGN_PARAGRAPH
    from docx.oxml import OxmlElement
    from docx.oxml.ns import qn

    paragraph.alignment = WD_ALIGN_PARAGRAPH.RIGHT
    run = paragraph.add_run()
    for kind in ("begin", "", "end"):
        made = OxmlElement("w:fldChar" if kind else "w:instrText")
        if kind:
            made.set(qn("w:fldCharType"), kind)
        else:
            made.text = "PAGE"
        run._r.append(made)
