"""A page as PDF on sheets of paper, with what is cut off after print, and with its numbers at the end."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.export.base import Delivery
from ypsil.core.export.page import refuse_empty, set_tile
from ypsil.core.export.sheets import Piece, Sheet, px_of, sheets_of
from ypsil.core.export.typesetting import POINTS_PER_PX, TypstPage
from ypsil.core.render import Page, TileView, heading_levels
from ypsil.core.tiles.leading import band_of
from ypsil.core.visuals.shared.summary import numbers_table

# Common in printing houses, no source.
_BLEED_MM, _MARK_MM, _MARK_GAP_MM = 3.0, 5.0, 2.0
# More rows than these are for a workbook.
_MOST_ROWS = 500
_MOST_COLUMNS = 12
_RUNNING_PX, _EDGE_MM = 10.0, 10.0


def print_pdf(page: Page, delivery: Delivery) -> bytes:
    """Return a page as tagged PDF/UA-1 on the paper that is wanted."""
    refuse_empty(page)
    sheets = sheets_of(page, delivery.paper) if delivery.paper else list(_as_laid_out(page))
    around = px_of(_BLEED_MM + _MARK_MM) if delivery.has_bleed else 0.0
    made = TypstPage(
        sheets[0].width + 2 * around,
        sheets[0].height + 2 * around,
        page.report.title,
        page.report.language,
        page.report.style.paper,
    )
    if delivery.paper in ("A4", "Letter"):
        style = page.report.style
        made.run_along(page.report.title, style.body(_RUNNING_PX), style.muted, around + px_of(_EDGE_MM))
    levels = heading_levels(page)
    for number, sheet in enumerate(sheets):
        if number:
            made.turn(sheet.height + 2 * around)
        with made.scaled(around, around, 1.0):
            for piece in sheet.pieces:
                _ground(made, piece, sheet, px_of(_BLEED_MM) if delivery.has_bleed else 0.0)
            for view in page.painted():
                for piece in sheet.pieces:
                    if view in piece.band.tiles and piece.holds(view, page):
                        _tile(made, view, piece, page, sheets, levels.get(view.tile.id, 0))
        if delivery.has_bleed:
            made.mark_corners(sheet.width, sheet.height, around, px_of(_MARK_GAP_MM), px_of(_MARK_MM - _MARK_GAP_MM))
    if delivery.has_numbers:
        _numbers(made, page, sheets[-1], around)
    content = made.compile("pdf")
    return _boxed(content, around * POINTS_PER_PX) if delivery.has_bleed else content


def _as_laid_out(page: Page) -> Iterator[Sheet]:
    """Yield the pages of a page's own format as sheets."""
    for place in page.layout.pages:
        sheet = Sheet(page.width, place.height)
        for band in page.bands:
            top = band.place.y
            if place.y <= top < place.foot:
                sheet.pieces.append(Piece(band, top, top + band.place.height, 0.0, top - place.y, 1.0))
        yield sheet


def _ground(made: TypstPage, piece: Piece, sheet: Sheet, bleed: float) -> None:
    """Set what a part of a band stands on, over the sheet's edges where it reaches them."""
    ground = piece.band.ground
    if ground is None:
        return
    shapes = tuple(shape.moved(ground.x, ground.y - piece.top) for shape in ground.scene.shapes)
    scene = replace(ground.scene, height=piece.foot - piece.top, shapes=shapes)
    out = 0.0 if piece.band.band.is_inset else bleed
    left, right = piece.x, piece.x + scene.width * piece.scale
    top, foot = piece.y, piece.y + piece.height
    left -= out if left <= 0.5 else 0.0
    right += out if right >= sheet.width - 0.5 else 0.0
    top -= out if top <= 0.5 else 0.0
    foot += out if foot >= sheet.height - 0.5 else 0.0
    made.add_stretched(scene, left, top, right - left, foot - top)


def _tile(made: TypstPage, view: TileView, piece: Piece, page: Page, sheets: list[Sheet], level: int) -> None:
    x, y = view.middle
    with made.scaled(piece.x, piece.y, piece.scale), made.turned(x, y - piece.top, view.turn):
        set_tile(made, view, piece.top, level)
        _lead(made, view, piece.top, page, sheets)


def _lead(made: TypstPage, view: TileView, top: float, page: Page, sheets: list[Sheet]) -> None:
    at = (view.x, view.y - top, view.scene.width, view.scene.height)
    goal = band_of(view.tile.leads())
    if view.tile.leads() and not goal:
        made.add_link(view.tile.leads(), *at)
    sources = page.sources()
    if goal:
        for place in _places(sheets, goal):
            made.add_leap(*place, *at)
            break
    elif view.tile.points(view.context) and sources is not None and not view.tile.leads():
        band = next(band for band in page.bands if sources in band.tiles)
        high = view.context.font("note").line_height
        for place in _places(sheets, band.band.id):
            made.add_leap(*place, view.x, view.y - top + view.scene.height - high, view.scene.width, high)
            break


def _places(sheets: list[Sheet], band: str) -> Iterator[tuple[int, float]]:
    """Yield the numbers of the sheets that a band stands on, from 1, with how far down it begins there."""
    for number, sheet in enumerate(sheets, 1):
        for piece in sheet.pieces:
            if piece.band.band.id == band:
                yield number, piece.y


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
