"""Files of a few kilobytes that stand for thousands of millions of cells: refused before one of them is made."""

import io
import json
import zipfile

import openpyxl
import polars as pl
import pytest

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.extent import check_sheet
from ypsil.core.tables.limits import MAX_CELLS, MAX_ROWS, MAX_SHEET_CELLS
from ypsil.core.tables.read import read_table

MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"


def workbook(*cells):
    book = openpyxl.Workbook()
    for row, column, value in cells:
        book.active.cell(row, column, value)
    kept = io.BytesIO()
    book.save(kept)
    return kept.getvalue()


def with_sheet(markup):
    """Return a workbook whose sheet's rows are written by hand."""
    given = zipfile.ZipFile(io.BytesIO(workbook((1, 1, "A"))))
    kept = io.BytesIO()
    with zipfile.ZipFile(kept, "w", zipfile.ZIP_DEFLATED) as archive:
        for name in given.namelist():
            data = given.read(name)
            if name == "xl/worksheets/sheet1.xml":
                data = f'<worksheet xmlns="{MAIN}"><sheetData>{markup}</sheetData></worksheet>'.encode()
            archive.writestr(name, data)
    return kept.getvalue()


MANIFEST = (
    '<?xml version="1.0"?><manifest:manifest '
    'xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"></manifest:manifest>'
)


def open_document(rows):
    kept = io.BytesIO()
    names = " ".join(
        f'xmlns:{short}="urn:oasis:names:tc:opendocument:xmlns:{short}:1.0"' for short in ("office", "table", "text")
    )
    with zipfile.ZipFile(kept, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        archive.writestr("META-INF/manifest.xml", MANIFEST)
        archive.writestr(
            "content.xml",
            f'<?xml version="1.0"?><office:document-content {names}>'
            "<office:body><office:spreadsheet>"
            f'<table:table table:name="One">{rows}</table:table>'
            "</office:spreadsheet></office:body></office:document-content>",
        )
    return kept.getvalue()


def filled(text, repeated=1):
    return (
        f'<table:table-cell office:value-type="string" table:number-columns-repeated="{repeated}">'
        f"<text:p>{text}</text:p></table:table-cell>"
    )


CORNER = (1_048_576, 16_384)
CELL = '<c r="{}" t="n"><v>1</v></c>'
SMALL_AND_FAR = {
    "one cell at the far corner": ("far.xlsx", workbook((1, 1, "Branch"), (*CORNER, 1))),
    "far down and somewhat right": ("far.xlsx", workbook((1, 1, "Branch"), (1, 40, "Visits"), (1_000_000, 1, 5))),
    "letters in small": ("far.xlsx", with_sheet(f'<row r="1">{CELL.format("xfd1")}</row><row r="1048576"></row>')),
    "other quotes": ("far.xlsx", with_sheet("<row r='1'><c r='XFD1'/></row><row r='1048576'><c r='A1048576'/></row>")),
    "cells that do not say where": (
        "far.xlsx",
        with_sheet('<row r="1">' + "<c><v>1</v></c>" * 1_900 + '</row><row r="1048576"><c><v>1</v></c></row>'),
    ),
    "a cell below its row": ("far.xlsx", with_sheet(f'<row r="1">{CELL.format("AZ1")}{CELL.format("A1048576")}</row>')),
    "cells repeated": (
        "far.ods",
        open_document(f'<table:table-row table:number-rows-repeated="1000000">{filled("a", 1000)}</table:table-row>'),
    ),
    "a filled cell after a million empty ones": (
        "far.ods",
        open_document(
            f"<table:table-row>{filled('Branch')}</table:table-row>"
            '<table:table-row table:number-rows-repeated="1048000"><table:table-cell/></table:table-row>'
            f'<table:table-row><table:table-cell table:number-columns-repeated="1900"/>{filled("x")}</table:table-row>'
        ),
    ),
    "a record of many names, and many of none": (
        "wide.json",
        json.dumps([{f"key {number}": 1 for number in range(1_999)}] + [{}] * 60_000).encode(),
    ),
    "records a line": (
        "wide.jsonl",
        (json.dumps({f"k{n}": 1 for n in range(1_999)}) + "\n" + "{}\n" * 60_000).encode(),
    ),
    "a long first line, and many short ones": ("wide.csv", b"a" + b",b" * 1_998 + b"\n" + b"1\n" * 400_000),
}


@pytest.mark.parametrize(("name", "data"), SMALL_AND_FAR.values(), ids=SMALL_AND_FAR)
def test_a_small_file_that_stands_for_too_many_cells_is_refused(name, data):
    with pytest.raises(UnreadableFile) as refused:
        read_table(data, name)
    assert "at most" in refused.value.what and refused.value.remedy, refused.value.line()


def test_a_column_of_more_zeros_than_are_read_is_refused_by_what_its_file_says(tmp_path):
    path = tmp_path / "zeros.parquet"
    pl.DataFrame({"a": pl.zeros(MAX_ROWS + 1, pl.Int8, eager=True)}).write_parquet(path)
    with pytest.raises(UnreadableFile, match=r"at most 5,000,000 are read"):
        read_table(path.read_bytes(), path.name)


def test_a_wide_column_file_is_counted_in_cells(tmp_path):
    zeros = pl.zeros(MAX_CELLS // 1_000 + 1, pl.Int8, eager=True)
    path = tmp_path / "zeros.parquet"
    pl.DataFrame({f"c{number}": zeros for number in range(1_000)}).write_parquet(path)
    with pytest.raises(UnreadableFile, match="cells are read"):
        read_table(path.read_bytes(), path.name)


def test_a_sheet_whose_last_cell_is_far_within_what_is_read_is_read():
    table = read_table(workbook((1, 1, "Branch"), (1, 2, "Visits"), (2, 1, "Alder Lane"), (2, 2, 5)), "near.xlsx")
    assert table.rows == 1
    table = read_table(
        open_document(
            f"<table:table-row>{filled('Branch')}{filled('Visits')}</table:table-row>"
            f"<table:table-row>{filled('Alder Lane')}{filled('5')}"
            '<table:table-cell table:number-columns-repeated="16382"/></table:table-row>'
            '<table:table-row table:number-rows-repeated="1048574">'
            '<table:table-cell table:number-columns-repeated="16384"/></table:table-row>'
        ),
        "near.ods",
    )
    assert (table.rows, [column.name for column in table.columns]) == (1, ["Branch", "Visits"])


@pytest.mark.parametrize("spare", [0, 1])
def test_the_limit_of_a_sheets_cells_is_its_own_last_cell(spare):
    rows, columns = 100_000, MAX_SHEET_CELLS // 100_000
    data = workbook((1, 1, "a"), (rows, columns + spare, "z"))
    if spare:
        with pytest.raises(UnreadableFile, match="cells are read"):
            check_sheet(data, "Sheet", "far.xlsx")
    else:
        check_sheet(data, "Sheet", "far.xlsx")
