"""A page as PDF on sheets of paper, with what is cut off after print, and with its numbers at the end."""

from __future__ import annotations

import io
from collections.abc import Iterator

from ypsil.core.answers.model import Answer
from ypsil.core.export.base import Delivery
from ypsil.core.export.setting import set_sheets
from ypsil.core.export.sheets import Sheet, px_of, sheets_of
from ypsil.core.export.typesetting import POINTS_PER_PX, TypstPage
from ypsil.core.render import Page, TileView
from ypsil.core.visuals.shared.summary import numbers_table

# Common in printing houses, no source.
_BLEED_MM, _MARK_MM, _MARK_GAP_MM = 3.0, 5.0, 2.0
# More rows than these are for a workbook.
_MOST_ROWS = 500
_MOST_COLUMNS = 12
_RUNNING_PX, _EDGE_MM = 10.0, 10.0


def print_pdf(page: Page, delivery: Delivery) -> bytes:
    """Return a page as tagged PDF/UA-1, on the paper that is wanted or as it is laid out."""
    sheets = sheets_of(page, delivery.paper)
    around = px_of(_BLEED_MM + _MARK_MM) if delivery.has_bleed else 0.0
    made = set_sheets(page, sheets, around=around, bleed=px_of(_BLEED_MM) if delivery.has_bleed else 0.0)
    if delivery.paper in ("A4", "Letter"):
        style = page.report.style
        made.run_along(page.report.title, style.body(_RUNNING_PX), style.muted, around + px_of(_EDGE_MM))
    if delivery.has_bleed:
        made.mark_corners(around, px_of(_MARK_GAP_MM), px_of(_MARK_MM - _MARK_GAP_MM))
    if delivery.has_numbers:
        _numbers(made, page, sheets[-1], around)
    content = made.compile("pdf")
    return _boxed(content, around * POINTS_PER_PX) if delivery.has_bleed else content


def _numbers(made: TypstPage, page: Page, sheet: Sheet, around: float) -> None:
    """Write the numbers behind the drawings, a table each, on sheets of their own."""
    style = page.report.style
    made.flow(sheet.width + 2 * around, sheet.height + 2 * around, around + px_of(18), style.body(12), style.ink)
    single = [pair for view in page.tiles() for pair in _single(view)]
    if single:
        made.add_rows("Figures", ["What", "Value"], [list(pair) for pair in single], [False, True], "", style.grid)
    for view in page.tiles():
        answer = view.drawn.answer
        if answer is None or answer.height < 2 or len(answer.columns) > _MOST_COLUMNS:
            continue
        headings, rows = numbers_table(answer.for_show(), _MOST_ROWS)
        more = answer.height - len(rows)
        said = f"{more:,} more rows are in the workbook." if more > 0 else ""
        are_numbers = [column.role == "measure" for column in answer.columns]
        made.add_rows(_asked(view, answer), headings, rows, are_numbers, said, style.grid)


def _single(view: TileView) -> Iterator[tuple[str, str]]:
    """Yield what a drawing of one row says: what it is, and its value."""
    answer = view.drawn.answer
    if answer is None or answer.height != 1:
        return
    headings, (cells,) = numbers_table(answer.for_show())
    asked = _asked(view, answer)
    for heading, cell in zip(headings, cells, strict=True):
        yield (asked if len(headings) == 1 else f"{asked}: {heading}"), cell


def _asked(view: TileView, answer: Answer) -> str:
    return getattr(view.tile, "title", "") or answer.sentence


def _boxed(content: bytes, around: float) -> bytes:
    """Say where sheets are cut and how far ink goes beyond that (ISO 32000-2, 14.11.2); ``around`` is in pt."""
    import pikepdf

    bleed = px_of(_BLEED_MM) * POINTS_PER_PX
    buffer = io.BytesIO()
    with pikepdf.open(io.BytesIO(content)) as file:
        for sheet in file.pages:
            left, foot, right, top = (float(side) for side in sheet.mediabox)
            trim = (left + around, foot + around, right - around, top - around)
            sheet.trimbox = pikepdf.Array(trim)
            sheet.bleedbox = pikepdf.Array([trim[0] - bleed, trim[1] - bleed, trim[2] + bleed, trim[3] + bleed])
        file.save(buffer, deterministic_id=True)
    return buffer.getvalue()
