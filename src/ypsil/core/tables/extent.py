"""How far a workbook's sheet reaches, looked at in its file before any cell of it is built.

A sheet is stored as the cells that somebody filled, and built as the whole rectangle to the last of them: one cell at
the far corner of a file of a kilobyte is seventeen thousand million cells. Office Open XML: ECMA-376, 18.3.1.4 (c),
18.3.1.73 (row). OpenDocument 1.3, part 3: 9.1.3 and 9.1.4, ``number-rows-repeated``, ``number-columns-repeated``.
"""

from __future__ import annotations

import io
import re
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from posixpath import join, normpath
from xml.etree import ElementTree

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.limits import MAX_COLUMNS, MAX_SHEET_CELLS, check_size

# What the standard library raises for archives that are damaged, locked, or packed in another way.
BROKEN_ARCHIVE = (
    zipfile.BadZipFile, zlib.error, OSError, ValueError, EOFError, KeyError, NotImplementedError, RuntimeError,
)  # fmt: skip
_RELATION = "{http://schemas.openxmlformats.org/officeDocument/2006/relationships}id"
_CELL_PLACE = re.compile(rb"\br\s*=\s*[\"']([A-Za-z]{1,9})(\d{1,9})")


@dataclass(frozen=True, slots=True)
class _Patterns:
    row_number: re.Pattern[bytes]
    place: bytes


_PLAIN = _Patterns(re.compile(rb' r="(\d{1,9})"'), rb' r="')
_ANY = _Patterns(re.compile(rb"\br\s*=\s*[\"'](\d{1,9})"), rb"\br\s*=\s*[\"']")
_CELL_WITHOUT_PLACE = re.compile(rb"<(?:\w+:)?c(?=[\s/>])(?![^>]*\sr\s*=)")
_ROW_START = re.compile(rb"<(?:\w+:)?row(?=[\s/>])")
_ODS_TOKEN = re.compile(rb"<(/?)table:(table-row|table-cell|covered-table-cell|table)(?=[\s/>])([^>]*?)(/?)>")
_ROWS_REPEATED = re.compile(rb"number-rows-repeated\s*=\s*[\"'](\d{1,12})")
_COLUMNS_REPEATED = re.compile(rb"number-columns-repeated\s*=\s*[\"'](\d{1,12})")


def check_document(data: bytes, where: str) -> None:
    """Raise UnreadableFile where a table of an OpenDocument workbook reaches further than is read.

    It is asked before the file is opened, since opening one builds all its tables.
    """
    with _opened(data, where) as archive:
        if "content.xml" in archive.namelist():
            rows, columns = _reach_of_tables(archive.read("content.xml"))
            check_size(rows, columns, where, most_cells=MAX_SHEET_CELLS)


def check_sheet(data: bytes, sheet: str, where: str) -> None:
    """Raise UnreadableFile where a sheet of an Office Open XML workbook reaches further than is read."""
    with _opened(data, where) as archive:
        for part in _parts_of(archive, sheet):
            rows, columns = _reach_of_sheet(archive.read(part))
            check_size(rows, columns, where, most_cells=MAX_SHEET_CELLS)


@contextmanager
def _opened(data: bytes, where: str) -> Iterator[zipfile.ZipFile]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            yield archive
    except BROKEN_ARCHIVE:
        raise UnreadableFile("the workbook is broken", where=where, remedy="open it and save it again") from None


def _parts_of(archive: zipfile.ZipFile, sheet: str) -> list[str]:
    """Return the part of the package that holds a sheet; all sheets' where the package does not say."""
    every = [name for name in archive.namelist() if name.lower().startswith("xl/worksheets/") and name.endswith(".xml")]
    try:
        book = ElementTree.fromstring(archive.read("xl/workbook.xml"))
        ties = ElementTree.fromstring(archive.read("xl/_rels/workbook.xml.rels"))
    except (KeyError, ElementTree.ParseError):
        return every
    targets = {tie.get("Id"): tie.get("Target", "") for tie in ties}
    wanted = [one.get(_RELATION) for one in book.iter() if one.tag.endswith("}sheet") and one.get("name") == sheet]
    paths = [normpath(join("xl", targets.get(one, ""))).lstrip("/") for one in wanted]
    return paths if paths and all(path in every for path in paths) else every


def _reach_of_sheet(markup: bytes) -> tuple[int, int]:
    """Return the rows and columns from the first cell of the sheet to the last.

    A cell's column is looked at only where some cell lies beyond what the rows leave room for, which one search
    tells: a sheet of a million honest rows is not taken apart here.
    """
    markup = markup[max(markup.find(b"sheetData"), 0) :]
    patterns = _PLAIN if _is_plain(markup) else _ANY
    rows = max((int(found[1]) for found in patterns.row_number.finditer(markup)), default=0)
    rows = max(rows, _last_place(markup))
    limit = min(MAX_COLUMNS, MAX_SHEET_CELLS // max(rows, 1))
    columns = limit
    if re.search(patterns.place + rb"(?:" + _beyond(limit) + rb")\d", markup):
        columns = max(_column_number(found[1]) for found in _CELL_PLACE.finditer(markup))
    if patterns is _ANY and _CELL_WITHOUT_PLACE.search(markup):
        # Cells that do not say where they stand follow each other.
        parts = _ROW_START.split(markup)
        rows = max(rows, len(parts) - 1)
        columns = max(columns if columns > limit else 0, *(_cells_in(part) for part in parts))
    return rows, columns


def _is_plain(markup: bytes) -> bool:
    """Tell whether a sheet is written as nearly all are: attributes tight, in double quotes, each cell with its place.

    Fixed pieces are found ten times as fast as patterns.
    """
    if any(odd in markup for odd in (b"='", b"= ", b" =", b"\n", b"\t", b"\r", b":c ", b":c>")):
        return False
    return markup.count(b'<c r="') == sum(markup.count(start) for start in (b"<c ", b"<c>", b"<c/"))


def _cells_in(part: bytes) -> int:
    return sum(1 for _ in re.finditer(rb"<(?:\w+:)?c(?=[\s/>])", part))


def _last_place(markup: bytes) -> int:
    """Return the row of the last cell, which may be further down than its row says."""
    found = None
    for found in _CELL_PLACE.finditer(markup, max(0, len(markup) - 65_536)):  # noqa: B007
        pass
    return int(found[2]) if found else 0


def _beyond(limit: int) -> bytes:
    """Return a pattern for the letters of every column after the one at ``limit``, counted from 1.

    >>> _beyond(25), _beyond(28)
    (b'[Z-Zz-z]|[A-Za-z]{2,9}', b'[B-Zb-z][A-Za-z]{1}|[Aa][C-Zc-z]|[A-Za-z]{3,9}')
    """
    letters = _letters(max(limit, 1))
    parts = []
    for place, letter in enumerate(letters):
        if letter != "Z":
            same = "".join(f"[{one}{one.lower()}]" for one in letters[:place])
            after = chr(ord(letter) + 1)
            rest = f"[A-Za-z]{{{len(letters) - place - 1}}}" if place < len(letters) - 1 else ""
            parts.append(f"{same}[{after}-Z{after.lower()}-z]{rest}")
    return "|".join([*parts, f"[A-Za-z]{{{len(letters) + 1},9}}"]).encode()


def _letters(column: int) -> str:
    """Return a column's letters.

    >>> _letters(1), _letters(26), _letters(27), _letters(16384)
    ('A', 'Z', 'AA', 'XFD')
    """
    found = ""
    while column:
        column, place = divmod(column - 1, 26)
        found = chr(ord("A") + place) + found
    return found


def _column_number(letters: bytes) -> int:
    number = 0
    for letter in letters.upper():
        number = number * 26 + letter - ord("A") + 1
    return number


def _reach_of_tables(markup: bytes) -> tuple[int, int]:
    """Return the rows and columns of the largest table of an OpenDocument: as far as cells are filled."""
    rows = columns = 0
    for height, width in _tables(markup):
        if height * width > rows * columns:
            rows, columns = height, width
    return rows, columns


def _tables(markup: bytes) -> Iterator[tuple[int, int]]:
    """Yield the height and width of each table up to its last filled cell."""
    height = width = 0
    reached_height = reached_width = repeat = 0
    for closes, what, said, ends in _ODS_TOKEN.findall(markup):
        if what == b"table":
            if closes:
                yield reached_height, reached_width
            height = reached_height = reached_width = 0
        elif what == b"table-row" and not closes:
            found = _ROWS_REPEATED.search(said)
            repeat = int(found[1]) if found else 1
            height, width = height + repeat, 0
        elif not closes:
            found = _COLUMNS_REPEATED.search(said)
            width += int(found[1]) if found else 1
            if not ends or b"value" in said:
                reached_height, reached_width = height, max(reached_width, width)
