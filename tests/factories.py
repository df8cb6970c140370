"""Small builders: a table or an answer in a line or two."""

from __future__ import annotations

import io
import re
from functools import lru_cache
from pathlib import Path
from typing import Any

from openpyxl import Workbook

from ypsil.core.answers import Answer, answer
from ypsil.core.export import FORMATS
from ypsil.core.questions import parse_question
from ypsil.core.report import ReportTable
from ypsil.core.tables import ReadTable
from ypsil.core.tables.read import read_table
from ypsil.core.tables.store import digest, frame_to_blob

VISITS = """Day,Branch,Kind,Visits,Cost,Open,Comment
2026-01-05,Alder Lane,Adult,120,300,yes,Warm rooms and kind staff
2026-01-19,Alder Lane,Child,80,150,yes,Longer opening hours
2026-02-02,Market Square,Adult,300,620,yes,Longer opening hours on Sunday
2026-02-16,Market Square,Child,,200,no,Kind staff in warm rooms
2026-03-02,Book bus,Adult,40,90,yes,
2026-03-16,Market Square,Adult,310,640,no,The staff know all of us
"""


@lru_cache(maxsize=256)
def csv_table(text: str = VISITS, name: str = "visits.csv") -> ReadTable:
    # Nothing changes a table: what many tests ask is read once.
    return read_table(text.encode(), name)


def workbook_bytes(*rows: list[Any], title: str = "visits") -> bytes:
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = title
    for row in rows:
        sheet.append(row)
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()


def ask(question: dict[str, Any], table: ReadTable | None = None) -> Answer:
    table = table or csv_table()
    return answer(table.frame, table.columns, parse_question(question))


def total(column: str = "Visits", **more: Any) -> dict[str, Any]:
    return {"measures": [{"stat": "sum", "column": column}], **more}


def report_table(table: ReadTable | None = None) -> ReportTable:
    table = table or csv_table()
    return ReportTable(
        "Visits", table.columns, lambda: table.frame, digest(frame_to_blob(table.frame)), "Visits (test)"
    )


def codes(table: ReadTable) -> list[str]:
    return [remark.code for remark in table.remarks]


def kinds(table: ReadTable) -> dict[str, str]:
    return {column.name: column.kind for column in table.columns}


def rows_of_page(page, section):
    """Return the rows of the table in a section of a page in docs/formats, as texts of their cells."""
    text = (Path(__file__).parents[1] / "docs/formats" / page).read_text(encoding="utf-8")
    text = text.partition(f"## {section}\n")[2].partition("\n## ")[0]
    return [[cell.strip() for cell in line.strip("|").split("|")] for line in re.findall(r"^\|.*\|$", text, re.M)][2:]


# The kinds of files that hold drawings as they stand on the page.
DRAWN_FORMATS = [name for name, one in FORMATS.items() if one.scene is not None]
