"""Any supported file to a Table: bytes, grid of text, laid out rows, columns of one kind each."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import PurePath

import numpy as np
import polars as pl

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.archives import OLE_SIGNATURE, ZIP_SIGNATURE
from ypsil.core.tables.bundle import read_bundle
from ypsil.core.tables.decimal_marks import with_marks_of_others
from ypsil.core.tables.delimited import decode, is_blank, read_delimited
from ypsil.core.tables.doubts import doubts_of
from ypsil.core.tables.kinds import Judged, judge
from ypsil.core.tables.layout import lay_out
from ypsil.core.tables.limits import MAX_UPLOAD_BYTES
from ypsil.core.tables.model import WEIGHT, Column, Offer, RawGrid, ReadTable, Remark
from ypsil.core.tables.pasted import has_heading
from ypsil.core.tables.periods_in_names import note_periods
from ypsil.core.tables.plain_numbers import plain_numbers
from ypsil.core.tables.reading import Reading
from ypsil.core.tables.records import read_json, read_json_lines, read_parquet
from ypsil.core.tables.side_by_side import for_each

DELIMITED_ENDINGS = (".csv", ".tsv", ".tab", ".txt", ".psv")
WORKBOOK_ENDINGS = (".xlsx", ".xlsm", ".xls", ".ods")
ENDINGS = (*DELIMITED_ENDINGS, *WORKBOOK_ENDINGS, ".json", ".jsonl", ".ndjson", ".parquet", ".zip")
NAMED = "CSV, XLSX, XLS, ODS, JSON, JSON Lines, Parquet, or a zip of several"
Progress = Callable[[float], None]
TEXT_COLUMN = "Answer"


@dataclass(frozen=True, slots=True)
class Way:
    """How a file was read where it did not say so itself; empty where that does not apply."""

    encoding: str = ""
    separator: str = ""


def table_name(file_name: str) -> str:
    """Return a table's name from its file's: without ending, date or counter.

    >>> table_name("/tmp/visits_2026-03.xlsx"), table_name("Readers survey (2).csv")
    ('visits', 'Readers survey')
    """
    stem = PurePath(file_name).stem
    short = re.sub(r"[\s_-]*(\(\d+\)|\d{4}([-_]\d{2}){0,2}|v\d+)$", "", stem).strip(" _-")
    return short.replace("_", " ") or stem or "table"


def read_table(
    data: bytes,
    file_name: str,
    *,
    sheet: str | None = None,
    reading: Reading | None = None,
    progress: Progress | None = None,
) -> ReadTable:
    """Read a file of any of the kinds in ``ENDINGS``; ``reading`` holds what people chose or undid.

    ``progress`` is told the part done, 0 to 1; what it raises ends the reading. Raises UnreadableFile for
    anything that is not a table: empty, header only, broken, too large, of another type. Every change made
    on the way is among the table's remarks.
    """
    return read_with_way(data, file_name, sheet=sheet, reading=reading, progress=progress)[0]


def read_with_way(
    data: bytes,
    file_name: str,
    *,
    sheet: str | None = None,
    reading: Reading | None = None,
    progress: Progress | None = None,
) -> tuple[ReadTable, Way]:
    """Read a file as ``read_table`` does; say also which encoding and separator it was read with."""
    where = PurePath(file_name).name
    reading = reading or Reading()
    if sheet is not None:
        reading = reading.model_copy(update={"sheet": sheet})
    if len(data) > MAX_UPLOAD_BYTES:
        raise UnreadableFile(
            f"the file has {len(data) // 1024**2:,} MB; at most {MAX_UPLOAD_BYTES // 1024**2} MB are read",
            where=where,
            remedy="split it or leave out what you do not need",
        )
    if is_blank(data):
        raise UnreadableFile("the file is empty", where=where, remedy="choose a file with rows in it")
    name = table_name(file_name)
    if where.lower().endswith(".zip"):

        def read_one(content: bytes, inner: str) -> ReadTable:
            if inner.lower().endswith(".zip"):
                raise UnreadableFile("an archive within an archive is not read", where=inner, remedy="unpack it first")
            return read_table(content, inner, reading=reading)

        return replace(read_bundle(data, where, read_one, progress), name=name), Way()
    grid = _read_grid(data, where, reading)
    if grid.is_text:
        column = grid.cells.columns[0]
        described = Column(column, "text", None, 0, grid.cells[column].n_unique())
        return ReadTable(name, grid.cells, (described,), grid.remarks, (name,)), Way(grid.encoding)
    table = _understand(grid, name, where, reading, progress)
    return table, Way(grid.encoding, grid.separator)


def _understand(grid: RawGrid, name: str, where: str, reading: Reading, progress: Progress | None) -> ReadTable:
    laid = lay_out(grid, where, reading)
    remarks = list(laid.remarks)
    columns, series = [], []
    plain = plain_numbers(laid.cells, laid.text_cells, reading)

    def one(column: str) -> Judged:
        if column in plain:
            return plain[column]
        flags = laid.text_cells[column] if laid.text_cells is not None else None
        cells, is_list = laid.cells[column], column in grid.lists
        return judge(column, cells, laid.row_numbers, flags, reading, is_list=is_list)

    if laid.cells.width == 1 and grid.separator:
        offer = Offer("Each line is an answer", {"reading": {"text_rows": "line"}})
        remarks.append(Remark("one-column", "info", "There is one column only.", state="proposed", offers=(offer,)))
    found = []
    for position, judged in enumerate(for_each(one, laid.cells.columns, laid.cells.height)):
        if progress:
            progress(0.3 + 0.6 * position / laid.cells.width)
        found.append(judged)
    for judged in with_marks_of_others(found, laid, reading):
        columns.append(judged.column)
        series.append(judged.values)
        remarks += judged.remarks
    frame = pl.DataFrame(series)
    remarks += _note_duplicates(frame, laid.row_numbers)
    remarks += note_periods(tuple(columns))
    remarks += doubts_of(frame, columns, laid.row_numbers)
    remarks.sort(key=lambda remark: WEIGHT[remark.severity])
    return ReadTable(name, frame, tuple(columns), tuple(remarks), grid.sheets or (name,))


def _read_grid(data: bytes, where: str, reading: Reading) -> RawGrid:
    low = where.lower()
    if low.endswith(WORKBOOK_ENDINGS):
        return _read_workbook(data, where, reading.sheet)
    if not low.endswith(ENDINGS):
        raise UnreadableFile("files of this kind are not read", where=where, remedy=f"give {NAMED}")
    if reading.sheet is not None:
        raise UnreadableFile("this kind of file has no sheets", where=where, remedy="leave the sheet out")
    if low.endswith(".json"):
        return read_json(data, where, reading)
    if low.endswith((".jsonl", ".ndjson")):
        return read_json_lines(data, where, reading)
    if low.endswith(".parquet"):
        return read_parquet(data, where)
    if data.startswith((ZIP_SIGNATURE, OLE_SIGNATURE)):
        raise UnreadableFile(
            "this is a workbook under the name of a text file",
            where=where,
            remedy="give it the ending .xlsx, .xls or .ods",
        )
    if reading.text_rows is not None:
        return _read_answers(data, where, reading)
    return read_delimited(data, where, reading)


def _read_workbook(data: bytes, where: str, sheet: str | None) -> RawGrid:
    if "EncryptedPackage".encode("utf-16-le") in data and data.startswith(OLE_SIGNATURE):
        raise UnreadableFile("the workbook is locked with a password", where=where, remedy="save it without a password")
    if not data.startswith((ZIP_SIGNATURE, OLE_SIGNATURE)):
        kind = PurePath(where).suffix.lstrip(".").upper()
        raise UnreadableFile(
            f"this is not an {kind} workbook", where=where, remedy="open it and save it as XLSX or CSV"
        )
    # Only who brings a workbook waits for its reader.
    from ypsil.core.tables.workbook import read_workbook

    return read_workbook(data, where, sheet)


def _read_answers(data: bytes, where: str, reading: Reading) -> RawGrid:
    """Read plain text: an answer a line, or a paragraph a row."""
    raw, encoding, remark = decode(data, where, reading.encoding)
    text = raw.decode("utf-8").replace("\r\n", "\n").replace("\r", "\n")
    parts = re.split(r"\n\s*\n", text) if reading.text_rows == "paragraph" else text.split("\n")
    answers = [part.strip() for part in parts if part.strip()]
    if not answers:
        raise UnreadableFile("there is no text", where=where, remedy="paste or choose some")
    remarks = [remark] if remark else []
    column = TEXT_COLUMN
    if has_heading(answers) and not reading.leaves("question-above"):
        column, answers = answers[0], answers[1:]
        remarks.append(Remark("question-above", "info", f"The first line is what was asked: “{column}”.", state="done"))
    remarks.append(_answers_remark(len(answers), reading))
    column = reading.renames.get(column, reading.renames.get(TEXT_COLUMN, column))
    cells = pl.DataFrame({column: answers})
    return RawGrid(cells, tuple(remarks), named=True, encoding=encoding, is_text=True)


def _answers_remark(count: int, reading: Reading) -> Remark:
    """Say how text became rows, and offer the other ways."""
    is_line = reading.text_rows == "line"
    how = "Each line" if is_line else "What stands between empty lines"
    other = ("An empty line parts them", "paragraph") if is_line else ("Each line is an answer", "line")
    offers = (
        Offer(other[0], {"reading": {"text_rows": other[1]}}),
        Offer("They are cells of a table", {"reading": {"text_rows": None}}),
    )
    message = f"{how} was read as an answer: {count:,} answer{'s' if count != 1 else ''}."
    return Remark("answers-read", "info", message, state="proposed", offers=offers)


def _note_duplicates(frame: pl.DataFrame, rows: pl.Series) -> list[Remark]:
    """Say which whole rows stand more than once; they are kept, since they may be right."""
    if frame.width < 2:
        return []
    firsts = frame.hash_rows().arg_unique().to_numpy()
    count = frame.height - len(firsts)
    if not count:
        return []
    # The first row that is missing among those that are the first of their kind.
    gaps = np.flatnonzero(firsts != np.arange(len(firsts)))
    first = int(rows[int(gaps[0]) if len(gaps) else len(firsts)])
    message = "Rows stand more than once; they were kept."
    offer = Offer("Keep each row once", {"step": {"type": "remove_duplicates", "columns": []}})
    return [Remark("duplicate-rows", "warning", message, row=first, count=count, state="proposed", offers=(offer,))]
