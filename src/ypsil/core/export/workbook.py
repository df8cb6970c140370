"""A page as a workbook: a sheet for each visual, with its question in words, its answer, and what belongs to that."""

from __future__ import annotations

import datetime as dt
import io
import re
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Any

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.errors import YpsilError
from ypsil.core.export.number_codes import PERIOD_CODES, number_code
from ypsil.core.figures import POINTS
from ypsil.core.tables.defused import defused_text
from ypsil.core.tables.write import MAX_SHEET_ROWS
from ypsil.core.visuals.shared.summary import group_name

if TYPE_CHECKING:
    from ypsil.core.render import Page, TileView

# A sheet's name has at most 31 letters, and none of these (ECMA-376, part 1, 18.2.19).
_MOST_NAME = 31
_NOT_IN_NAMES = re.compile(r"[\[\]:*?/\\']")
_NO_DAY = dt.datetime(2000, 1, 1)
_CONTENTS = "Contents"
_HEAD_ROW = 4
_MOST_LETTERS = 32_767


def page_to_xlsx(page: Page) -> bytes:
    """Return the answers behind a page as a workbook, unrounded, each with the number format that the page shows it
    in; the first sheet says what is in which. Raises YpsilError where the page has no answer.

    Texts that begin with = + - @ have an apostrophe in front, so that no program runs them.
    """
    found = [(view, view.drawn.answer) for view in page.tiles() if view.drawn.answer is not None]
    if not found:
        raise YpsilError(
            "no tile of the report asks a table, so there is nothing for a workbook", where=page.report.title,
            remedy="add a chart or a figure first",
        )  # fmt: skip
    import xlsxwriter

    buffer = io.BytesIO()
    plain = {"strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    with xlsxwriter.Workbook(buffer, plain) as book:
        # No day of making: the same page gives the same bytes.
        book.set_properties({"title": page.report.title[:255], "created": _NO_DAY})
        formats = _Formats(book)
        contents = book.add_worksheet(_CONTENTS)
        names = list(_names([_titled(view) for view, _ in found]))
        for name, (view, answer) in zip(names, found, strict=True):
            _sheet(book.add_worksheet(name), view, answer, formats)
        _contents(contents, page, names, [answer for _, answer in found], formats)
    return buffer.getvalue()


class _Formats:
    """The formats of a workbook, each made once."""

    def __init__(self, book: Any) -> None:
        self._book = book
        self._made: dict[str, Any] = {}
        self.title = book.add_format({"bold": True, "font_size": 14})
        self.bold = book.add_format({"bold": True, "bottom": 1, "text_wrap": True, "valign": "top"})
        self.quiet = book.add_format({"font_color": "#5f5d6e"})

    def numbered(self, code: str) -> Any:
        if code not in self._made:
            self._made[code] = self._book.add_format({"num_format": code})
        return self._made[code]


def _titled(view: TileView) -> str:
    return getattr(view.tile, "title", "") or view.tile.label()


def _names(titles: Sequence[str]) -> Iterator[str]:
    """Yield a name for each sheet: its title as far as it goes, and a number where two would be the same."""
    taken = {_CONTENTS.lower()}
    for title in titles:
        tidy = " ".join(_NOT_IN_NAMES.sub(" ", title).split())[:_MOST_NAME].strip() or "Sheet"
        name, number = tidy, 2
        while name.lower() in taken:
            ending = f" {number}"
            name, number = tidy[: _MOST_NAME - len(ending)] + ending, number + 1
        taken.add(name.lower())
        yield name


def _contents(sheet: Any, page: Page, names: Sequence[str], answers: Sequence[Answer], formats: _Formats) -> None:
    sheet.write_string(0, 0, defused_text(page.report.title), formats.title)
    row = 2
    for name, answer in zip(names, answers, strict=True):
        sheet.write_url(row, 0, f"internal:'{name}'!A1", string=name)
        sheet.write_string(row, 1, defused_text(answer.sentence)[:_MOST_LETTERS])
        row += 1
    for source in page.context.sources:
        row += 1
        sheet.write_string(row, 1, defused_text(f"Source: {source.words}")[:_MOST_LETTERS], formats.quiet)
    sheet.set_column(0, 0, _MOST_NAME)
    sheet.set_column(1, 1, 90)


def _sheet(sheet: Any, view: TileView, answer: Answer, formats: _Formats) -> None:
    sheet.write_string(0, 0, defused_text(_titled(view))[:_MOST_LETTERS], formats.title)
    sheet.write_string(1, 0, defused_text(answer.sentence)[:_MOST_LETTERS])
    notes = "; ".join([f"n = {answer.base}", *answer.notes])
    sheet.write_string(2, 0, defused_text(notes)[:_MOST_LETTERS], formats.quiet)
    for place, column in enumerate(answer.columns):
        values = answer.values(column)[: MAX_SHEET_ROWS - _HEAD_ROW]
        sheet.write_string(_HEAD_ROW, place, defused_text(column.shown or column.name), formats.bold)
        code = number_code(column, values)
        for row, value in enumerate(values, _HEAD_ROW + 1):
            _cell(sheet, row, place, value, column, formats.numbered(code) if code else None)
        widest = max([len(column.shown or column.name), *(len(group_name(one, column)) for one in values[:200])])
        sheet.set_column(place, place, min(60, max(10, widest + 2)))
    sheet.freeze_panes(_HEAD_ROW + 1, 0)


def _cell(sheet: Any, row: int, place: int, value: Any, column: AnswerColumn, style: Any) -> None:
    if value is None:
        return
    if column.role == "measure" and isinstance(value, int | float) and not isinstance(value, bool):
        sheet.write_number(row, place, 100 * value if column.unit == POINTS else value, style)
    elif isinstance(value, dt.date) and column.grain in PERIOD_CODES and value.year > 1900:
        sheet.write_datetime(row, place, value, style)
    else:
        sheet.write_string(row, place, defused_text(group_name(value, column))[:_MOST_LETTERS])
