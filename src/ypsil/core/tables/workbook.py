"""Workbooks (XLSX, XLS, ODS) to a grid of text cells."""

from __future__ import annotations

import datetime as dt
import io
from typing import Any

import polars as pl
from python_calamine import CalamineError, CalamineSheet, CalamineWorkbook, PasswordError

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.archives import ZIP_SIGNATURE, check_unpacked_size
from ypsil.core.tables.extent import check_document, check_sheet
from ypsil.core.tables.limits import (
    MAX_SHEET_CELLS,
    check_size,
    check_width,
)
from ypsil.core.tables.model import RawGrid


def read_workbook(data: bytes, where: str, sheet: str | None) -> RawGrid:
    """Read one sheet of a workbook: the named one, else the first that has cells."""
    if data.startswith(ZIP_SIGNATURE):
        check_unpacked_size(data, where)
        check_document(data, where)
    try:
        workbook = CalamineWorkbook.from_filelike(io.BytesIO(data))
    except PasswordError:
        raise UnreadableFile(
            "the workbook is locked with a password", where=where, remedy="save it without one"
        ) from None
    except (CalamineError, ValueError, OSError):
        raise UnreadableFile(
            "the workbook is broken or of another type than its name says",
            where=where,
            remedy="open it and save it again",
        ) from None
    names = tuple(workbook.sheet_names)
    if sheet is not None and sheet not in names:
        raise UnreadableFile(
            f"the workbook has no sheet “{sheet}”", where=where, remedy="choose one of: " + ", ".join(names)
        )
    for name in [sheet] if sheet is not None else names:
        if data.startswith(ZIP_SIGNATURE):
            check_sheet(data, name, f"{where}, sheet {name}")
        found = _sheet(workbook, name, where)
        rows = _rows_of(found, name, where)
        if rows:
            merged = tuple((*first, *last) for first, last in found.merged_cell_ranges or ())
            return _grid(rows, names, f"{where}, sheet {name}", merged)
    raise UnreadableFile("the sheet is empty", where=where, remedy="choose a sheet with rows in it")


def _sheet(workbook: CalamineWorkbook, name: str, where: str) -> CalamineSheet:
    try:
        return workbook.get_sheet_by_name(name)
    except (CalamineError, ValueError):
        raise UnreadableFile(
            "the sheet cannot be read", where=f"{where}, sheet {name}", remedy="save the workbook again"
        ) from None


def _rows_of(sheet: CalamineSheet, name: str, where: str) -> list[list[Any]]:
    # It is filled up from the first cell of the sheet, wherever its own first one stands.
    _, right = sheet.end or (0, 0)
    check_size(sheet.total_height, right + 1, f"{where}, sheet {name}", most_cells=MAX_SHEET_CELLS)
    rows = sheet.to_python(skip_empty_area=False)
    while rows and all(cell == "" for cell in rows[-1]):
        rows.pop()
    return rows


def _grid(
    rows: list[list[Any]], sheets: tuple[str, ...], where: str, merged: tuple[tuple[int, int, int, int], ...]
) -> RawGrid:
    width = max(map(len, rows))
    check_width(width, where)
    names = [f"c{index}" for index in range(width)]
    columns = list(zip(*rows, strict=False))
    texts = {name: [_as_text(cell) for cell in column] for name, column in zip(names, columns, strict=True)}
    is_text = {
        name: [isinstance(cell, str) and cell != "" for cell in column]
        for name, column in zip(names, columns, strict=True)
    }
    return RawGrid(
        pl.DataFrame(texts, schema=dict.fromkeys(names, pl.String)),
        sheets=sheets,
        merged=merged,
        text_cells=pl.DataFrame(is_text, schema=dict.fromkeys(names, pl.Boolean)),
    )


def _as_text(cell: Any) -> str | None:
    """Return a cell as the text that reads back to the same value."""
    if isinstance(cell, str):
        return cell or None
    if isinstance(cell, bool):
        return "yes" if cell else "no"
    if isinstance(cell, float):
        return str(int(cell)) if cell == int(cell) and abs(cell) < 1e15 else repr(cell)
    if isinstance(cell, dt.datetime):
        midnight = cell.time() == dt.time()
        return cell.date().isoformat() if midnight else cell.isoformat(sep=" ", timespec="seconds")
    if isinstance(cell, dt.date | dt.time):
        return cell.isoformat()
    return None if cell is None else str(cell)
