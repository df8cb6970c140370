"""A prepared table as a file: CSV (RFC 4180), XLSX, JSON or Parquet."""

from __future__ import annotations

import datetime as dt
import io
import json
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import polars as pl

from ypsil.core.errors import YpsilError
from ypsil.core.figures import format_number
from ypsil.core.tables.convert import LIST_MARK
from ypsil.core.tables.defused import defused_text
from ypsil.core.tables.model import Field
from ypsil.core.tables.rows import Rows

# A sheet of Office Open XML has at most 1,048,576 rows (ECMA-376, part 1, 18.3.1.73), one of them the header.
MAX_SHEET_ROWS = 1_048_575
_XLSX_MOST_CELLS = 4_000_000
# Spreadsheet programs run cells that begin so (OWASP, "CSV Injection").
_DANGEROUS = r"^[=+\-@\t\r]"
_NO_DAY = dt.datetime(2000, 1, 1)
_XLSX_FORMATS = {"date": "yyyy-mm-dd", "moment": "yyyy-mm-dd hh:mm", "time": "hh:mm", "%": "0.0%"}


class TooLargeToWrite(YpsilError):
    """A table that a kind of file cannot hold."""


Progress = Callable[[float], None]
# Workbooks are written cell by cell: about ten seconds a million.
_CELLS_AT_ONCE = {"xlsx": 40_000, "json": 1_000_000}
_ROWS_BETWEEN_REPORTS = 2_000


def takes_long(rows: int, columns: int, ending: str) -> bool:
    """Tell whether writing a table of this size takes more than a moment.

    >>> takes_long(1_000, 5, "xlsx"), takes_long(100_000, 5, "xlsx"), takes_long(1_000_000, 5, "csv")
    (False, True, False)
    """
    return rows * columns > _CELLS_AT_ONCE.get(ending, rows * columns)


def write_table(rows: Rows, ending: str, *, sheet: str = "Table", progress: Progress | None = None) -> bytes:
    """Return the rows as a file with this ending (csv, xlsx, json or parquet).

    ``progress`` is told the part done, 0 to 1; what it raises ends the writing.

    In CSV and XLSX a text that begins with = + - @ is given an apostrophe in front, so that no program runs
    it. What is no number (infinity) is missing: neither a sheet nor JSON has it (RFC 8259, 6). Raises TooLargeToWrite
    where a sheet cannot hold the rows.
    """
    return WRITERS[ending](_numbers_only(rows), sheet, progress or (lambda part: None))


def _numbers_only(rows: Rows) -> Rows:
    floats = [name for name, kind in rows.frame.schema.items() if kind.is_float()]
    return replace(rows, frame=rows.frame.with_columns(pl.when(pl.col(n).is_finite()).then(pl.col(n)) for n in floats))


def _csv(rows: Rows, sheet: str, progress: Progress) -> bytes:
    frame = _defused(_with_lists_joined(rows))
    frame = frame.with_columns(pl.col(pl.Boolean).replace_strict({True: "Yes", False: "No"}, return_dtype=pl.String))
    return frame.write_csv(line_terminator="\r\n", datetime_format="%Y-%m-%d %H:%M:%S").encode()


def _defused(frame: pl.DataFrame) -> pl.DataFrame:
    """Put an apostrophe before texts and names that a spreadsheet program would run."""
    cell = pl.col(pl.String)
    safe = pl.when(cell.str.contains(_DANGEROUS)).then(pl.lit("'") + cell).otherwise(cell)
    return frame.with_columns(safe.name.keep()).rename({name: defused_text(name) for name in frame.columns})


def _with_lists_joined(rows: Rows) -> pl.DataFrame:
    return rows.frame.with_columns(
        pl.col(name).list.join(LIST_MARK, ignore_nulls=True) for name in rows.of_kind("list")
    )


def _xlsx(rows: Rows, sheet: str, progress: Progress) -> bytes:
    frame = _with_lists_joined(rows)
    if frame.height > MAX_SHEET_ROWS or frame.height * frame.width > _XLSX_MOST_CELLS:
        raise TooLargeToWrite(
            f"the table has {format_number(frame.height)} rows and {format_number(frame.width)} columns, which is too "
            "much for a workbook",
            remedy="download it as CSV or Parquet",
        )
    buffer = io.BytesIO()
    options = {
        "constant_memory": True,
        "strings_to_formulas": False,
        "strings_to_urls": False,
        "strings_to_numbers": False,
    }
    import xlsxwriter

    with xlsxwriter.Workbook(buffer, options) as book:
        # No day of making: the same rows give the same bytes.
        book.set_properties({"created": _NO_DAY})
        page = book.add_worksheet(_sheet_name(sheet))
        bold = book.add_format({"bold": True})
        formats = {name: book.add_format({"num_format": code}) for name, code in _XLSX_FORMATS.items()}
        page.freeze_panes(1, 0)
        for column, name in enumerate(frame.columns):
            page.write_string(0, column, defused_text(name), bold)
        chosen = [formats.get(_format_of(field)) for field in rows.fields.values()]
        for number, row in enumerate(frame.iter_rows(), 1):
            if number % _ROWS_BETWEEN_REPORTS == 0:
                progress(0.9 * number / frame.height)
            for column, value in enumerate(row):
                if value is not None:
                    _write_cell(page, number, column, value, chosen[column])
    return buffer.getvalue()


def _format_of(field: Field) -> str:
    if field.kind == "number":
        return field.unit or ""
    return (field.form if field.form in ("moment", "time") else "date") if field.kind == "date" else ""


def _write_cell(page: Any, row: int, column: int, value: Any, style: Any) -> None:
    if isinstance(value, bool):
        page.write_string(row, column, "Yes" if value else "No")
    elif isinstance(value, str):
        page.write_string(row, column, defused_text(value)[:32_767])
    elif isinstance(value, dt.time) or (isinstance(value, dt.date) and value.year > 1900):
        page.write_datetime(row, column, value, style)
    elif isinstance(value, dt.date):
        # Workbooks count days from 1900, with a leap day in it that never was; earlier ones are written out.
        page.write_string(row, column, value.isoformat(*([" "] if isinstance(value, dt.datetime) else [])))
    else:
        page.write_number(row, column, value, style)


def _sheet_name(name: str) -> str:
    """Return a name that a workbook takes: at most 31 characters, without ``[]:*?/\\`` and outer apostrophes."""
    return "".join(letter for letter in name if letter not in "[]:*?/\\").strip("' ")[:31] or "Table"


def _json(rows: Rows, sheet: str, progress: Progress) -> bytes:
    """Return a list of records; dates in ISO 8601, shares as fractions."""
    records = rows.frame.to_dicts()
    return json.dumps(records, ensure_ascii=False, default=lambda value: value.isoformat()).encode()


def _parquet(rows: Rows, sheet: str, progress: Progress) -> bytes:
    buffer = io.BytesIO()
    rows.frame.write_parquet(buffer, compression="zstd")
    return buffer.getvalue()


WRITERS: dict[str, Callable[[Rows, str, Progress], bytes]] = {
    "csv": _csv,
    "xlsx": _xlsx,
    "json": _json,
    "parquet": _parquet,
}
MEDIA_TYPES = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "json": "application/json",
    "parquet": "application/vnd.apache.parquet",
}
