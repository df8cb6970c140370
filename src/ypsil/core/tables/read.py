"""Any supported file to a Table: bytes, grid of text, laid out rows, columns of one kind each."""

from __future__ import annotations

import re
from collections.abc import Callable
from pathlib import PurePath

import polars as pl

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.delimited import read_delimited
from ypsil.core.tables.kinds import judge
from ypsil.core.tables.layout import lay_out
from ypsil.core.tables.limits import MAX_UPLOAD_BYTES
from ypsil.core.tables.model import WEIGHT, RawGrid, Remark, Table
from ypsil.core.tables.workbook import OLE_SIGNATURE, read_workbook

DELIMITED_ENDINGS = (".csv", ".tsv", ".tab", ".txt")
_ZIP_SIGNATURE = b"PK\x03\x04"


def table_name(file_name: str) -> str:
    """Return a table's name from its file's: without ending, date or counter.

    >>> table_name("/tmp/visits_2026-03.xlsx"), table_name("Readers survey (2).csv")
    ('visits', 'Readers survey')
    """
    stem = PurePath(file_name).stem
    short = re.sub(r"[\s_-]*(\(\d+\)|\d{4}([-_]\d{2}){0,2}|v\d+)$", "", stem).strip(" _-")
    return short.replace("_", " ") or stem or "table"


def read_table(
    data: bytes, file_name: str, *, sheet: str | None = None, progress: Callable[[float], None] | None = None
) -> Table:
    """Read a CSV or XLSX file. ``progress`` is told the part done, 0 to 1; what it raises ends the reading.

    Raises UnreadableFile for anything that is not a table: empty, header only, broken, too large, of
    another type. Every change made on the way is among the table's remarks.
    """
    where = PurePath(file_name).name
    if len(data) > MAX_UPLOAD_BYTES:
        raise UnreadableFile(
            f"the file has {len(data) // 1024**2:,} MB; at most {MAX_UPLOAD_BYTES // 1024**2} MB are read",
            where=where,
            remedy="split it or leave out what you do not need",
        )
    grid = _read_grid(data, where, sheet)
    laid = lay_out(grid, where)
    remarks = list(laid.remarks)
    columns, series = [], []
    for position, name in enumerate(laid.cells.columns):
        if progress:
            progress(0.3 + 0.6 * position / laid.cells.width)
        flags = laid.text_cells[name] if laid.text_cells is not None else None
        judged = judge(name, laid.cells[name], laid.row_numbers, flags)
        columns.append(judged.column)
        series.append(judged.values)
        remarks += judged.remarks
    frame = pl.DataFrame(series)
    remarks += _note_duplicates(laid.cells, laid.row_numbers)
    remarks.sort(key=lambda remark: WEIGHT[remark.severity])
    name = table_name(file_name)
    return Table(name, frame, tuple(columns), tuple(remarks), grid.sheets or (name,))


def _read_grid(data: bytes, where: str, sheet: str | None) -> RawGrid:
    if not data.strip():
        raise UnreadableFile("the file is empty", where=where, remedy="choose a file with rows in it")
    if data.startswith(_ZIP_SIGNATURE) and where.lower().endswith((".xlsx", ".xlsm")):
        return read_workbook(data, where, sheet)
    if data.startswith(OLE_SIGNATURE) or where.lower().endswith((".xlsx", ".xlsm")):
        locked = "EncryptedPackage".encode("utf-16-le") in data
        raise UnreadableFile(
            "the workbook is locked with a password" if locked else "this is not an XLSX workbook",
            where=where,
            remedy="save it without a password" if locked else "open it and save it as XLSX or CSV",
        )
    if not where.lower().endswith(DELIMITED_ENDINGS):
        raise UnreadableFile(
            "only CSV and XLSX files are read so far", where=where, remedy="save the table as one of these"
        )
    if sheet is not None:
        raise UnreadableFile("a text file has no sheets", where=where, remedy="leave the sheet out")
    return read_delimited(data, where)


def _note_duplicates(cells: pl.DataFrame, rows: pl.Series) -> list[Remark]:
    """Say which whole rows stand more than once; they are kept, since they may be right."""
    if cells.width < 2:
        return []
    again = ~cells.hash_rows().is_first_distinct()
    if not again.any():
        return []
    first = int(rows.filter(again)[0])
    count = int(again.sum())
    return [Remark("duplicate-rows", "warning", "Rows stand more than once; they were kept.", row=first, count=count)]
