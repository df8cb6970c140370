"""Cells and text that people paste or type: kept as the file they would have been."""

from __future__ import annotations

import csv
import io
from typing import Any

from django.core.exceptions import BadRequest

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.pasted import has_heading, what_is_pasted
from ypsil.core.tables.read import TEXT_COLUMN
from ypsil.web.gather.blobs import content
from ypsil.web.gather.models import Table
from ypsil.web.json_bodies import json_value

FILE_NAME = "typed.csv"
EMPTY_GRID = (8, 4)
LONGEST_NAME = 200
_MOST_CELLS = 20_000
_TEXT_ROWS = {"lines": "line", "paragraphs": "paragraph"}


def pasted(text: str, text_is: str, asked: str = "") -> tuple[str, bytes, dict[str, Any]]:
    """Return pasted text as a file name, its bytes, and how it is read: cells, or answers a line or a paragraph, as
    somebody said or as it looks; ``asked`` is what they answer."""
    if not text.strip():
        raise UnreadableFile("nothing was pasted", remedy="paste cells or text into the field")
    rows = _TEXT_ROWS.get(text_is, what_is_pasted(text) if text_is != "cells" else "cells")
    if rows == "cells":
        return "pasted.tsv", text.encode(), {}
    named = {"renames": {TEXT_COLUMN: asked[:LONGEST_NAME]}} if asked else {}
    return "pasted.txt", text.encode(), {"text_rows": rows, **named}


def question_in(text: str) -> str:
    """Return the question that stands above pasted answers, or nothing."""
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    return lines[0][:LONGEST_NAME] if has_heading(lines) else ""


def typed_rows(cells: str) -> bytes:
    """Return typed cells (JSON: a list of rows) as CSV; empty rows and columns at the end are left out."""
    rows = _rows_in(cells)
    while rows and not any(rows[-1]):
        rows.pop()
    width = max((index + 1 for row in rows for index, cell in enumerate(row) if cell), default=0)
    if len(rows) < 2 or not width:
        raise UnreadableFile("there are no rows yet", remedy="type names in the first row and values below")
    buffer = io.StringIO()
    csv.writer(buffer).writerows(row[:width] + [""] * (width - len(row)) for row in rows)
    return buffer.getvalue().encode()


def _rows_in(cells: str) -> list[list[str]]:
    try:
        rows = [[str(cell).strip() for cell in row] for row in json_value(cells or "[]")]
    except (BadRequest, TypeError):
        raise UnreadableFile("the rows could not be understood", remedy="load the page again") from None
    if sum(map(len, rows)) > _MOST_CELLS:
        raise UnreadableFile(f"more than {_MOST_CELLS:,} cells were typed", remedy="give them as a file")
    return rows


def grid_of(table: Table | None, cells: str) -> list[list[str]]:
    """Return the cells to start typing with: those just sent, else those typed before, else empty ones."""
    rows: list[list[str]] = []
    if cells:
        try:
            rows = _rows_in(cells)
        except UnreadableFile:
            rows = []
    elif table is not None and table.current is not None and table.current.file_name == FILE_NAME:
        text = content(table.current.original_id).decode()
        rows = [*csv.reader(io.StringIO(text, newline=""))]
    height, width = EMPTY_GRID
    width = max([width, *map(len, rows)])
    rows += [[] for _ in range(max(2, height - len(rows)))] if rows else [[] for _ in range(height)]
    return [row + [""] * (width - len(row)) for row in rows]
