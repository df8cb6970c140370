"""A few numbers typed or pasted as plain text: cells, with names in the first row."""

from __future__ import annotations

import csv
import io
import re

from ypsil.core.errors import UnreadableFile

MOST_CELLS = 2_000
_SEPARATORS = ("\t", ";", "|", ",")
_NUMBER = re.compile(r"^[-−+]?[£€$]?\d[\d.,  ]*%?$")
_NAME_AND_NUMBER = re.compile(r"^(.*\S)\s+([-−+]?[£€$]?\d[\d.,]*%?)$")


def cells_of(text: str) -> list[list[str]]:
    """Return typed text as rows of cells, all of one width, with a row of names first.

    Cells are parted by tabs, semicolons, bars or commas; without any, the last word of a line is its number.
    Names are made up where the first row holds numbers already. Raises UnreadableFile where there is nothing
    to draw.

    >>> cells_of("Alder Lane 12\\nBook bus 7")
    [['Name', 'Amount'], ['Alder Lane', '12'], ['Book bus', '7']]
    >>> cells_of("Branch\\tVisits\\nAlder Lane\\t12"), cells_of("3\\n5")[1:]
    ([['Branch', 'Visits'], ['Alder Lane', '12']], [['1', '3'], ['2', '5']])
    >>> cells_of("\\t\\nAlder Lane\\t12\\t\\nBook bus\\t7\\t")[1:], cells_of("Beans 3\\t\\nPeas 4\\t")[1:]
    ([['Alder Lane', '12'], ['Book bus', '7']], [['Beans', '3'], ['Peas', '4']])
    >>> cells_of("Alder Lane 1,204\\nBook bus 1,007")[1]
    ['Alder Lane', '1,204']
    """
    lines = [line.strip("\r\n") for line in text.split("\n") if line.strip()]
    if not lines:
        raise UnreadableFile("there are no numbers yet", remedy="type a name and a number a line")
    separator = next((one for one in _SEPARATORS if all(one in line for line in lines)), None)
    if separator == "," and all(_NAME_AND_NUMBER.match(line.strip()) for line in lines):
        # The comma stands inside the numbers: Alder Lane 1,204.
        separator = None
    if separator:
        parted = csv.reader(io.StringIO("\n".join(lines)), delimiter=separator)
        rows = [[cell.strip() for cell in row] for row in parted]
    else:
        rows = [_name_and_number(line.strip()) for line in lines]
    width = max(map(len, rows))
    if width * len(rows) > MOST_CELLS:
        raise UnreadableFile(f"these are more than {MOST_CELLS:,} cells", remedy="take them in as a table of their own")
    rows = _without_empty_columns([row + [""] * (width - len(row)) for row in rows])
    if len(rows[0]) == 1 and separator:
        # Lines of names with numbers, in the first cells of a grid.
        rows = [_name_and_number(row[0]) for row in rows]
        width = max(map(len, rows))
        rows = [row + [""] * (width - len(row)) for row in rows]
    if len(rows[0]) == 1:
        rows = [["", row[0]] if _is_number(row[0]) else [row[0], ""] for row in rows]
        rows = [[name or str(place), value] for place, (name, value) in enumerate(rows, 1)]
    named = not any(_is_number(cell) for cell in rows[0][1:])
    if named and len(rows) == 1:
        raise UnreadableFile("there are names but no numbers", remedy="type a number behind each name")
    return rows if named else [_names(len(rows[0])), *rows]


def _without_empty_columns(rows: list[list[str]]) -> list[list[str]]:
    kept = [place for place in range(len(rows[0])) if any(row[place] for row in rows)]
    return [[row[place] for place in kept or [0]] for row in rows]


def _name_and_number(line: str) -> list[str]:
    found = _NAME_AND_NUMBER.match(line)
    return [found[1], found[2]] if found else [line]


def _is_number(cell: str) -> bool:
    return bool(_NUMBER.match(cell))


def _names(width: int) -> list[str]:
    return ["Name", "Amount", *(f"Amount {index}" for index in range(2, width))]


def turned(rows: list[list[str]]) -> list[list[str]]:
    """Return rows as columns and columns as rows.

    >>> turned([["Branch", "2025", "2026"], ["Alder Lane", "3", "4"]])
    [['Branch', 'Alder Lane'], ['2025', '3'], ['2026', '4']]
    """
    return [list(column) for column in zip(*rows, strict=True)]


def as_text(rows: list[list[str]]) -> str:
    """Return cells as text parted by tabs, as spreadsheets copy them."""
    return "\n".join("\t".join(cell.replace("\t", " ").replace("\n", " ") for cell in row) for row in rows)


def as_csv(rows: list[list[str]]) -> bytes:
    """Return cells as CSV (RFC 4180)."""
    buffer = io.StringIO()
    csv.writer(buffer).writerows(rows)
    return buffer.getvalue().encode()
