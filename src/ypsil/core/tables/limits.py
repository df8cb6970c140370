"""How large the things may be that Ypsil takes in, and the refusals of what is larger."""

from __future__ import annotations

from ypsil.core.errors import UnreadableFile

MAX_UPLOAD_BYTES = 200 * 1024 * 1024
MAX_ROWS = 5_000_000
MAX_COLUMNS = 2_000
# Of a table as a whole, filled or empty: five million rows of ten columns, or fifty thousand of a thousand.
MAX_CELLS = 50_000_000
# A workbook's cells are objects one by one before they are columns, and take several times as much room.
MAX_SHEET_CELLS = 20_000_000
MAX_UNPACKED_BYTES = 1024**3
MAX_UNPACK_RATIO = 20
# Small files may unpack further than the ratio: a sheet of zeros does, and harms nobody.
RATIO_FREE_BYTES = 64 * 1024 * 1024


def check_width(width: int, where: str) -> None:
    """Raise UnreadableFile for more columns than are read."""
    if width > MAX_COLUMNS:
        raise UnreadableFile(
            f"the table has {width:,} columns; at most {MAX_COLUMNS:,} are read",
            where=where,
            remedy="leave out the columns you do not need",
        )


def check_size(rows: int, columns: int, where: str, *, most_cells: int = MAX_CELLS) -> None:
    """Raise UnreadableFile for more rows, columns or cells than are read; asked before any cell is made."""
    check_width(columns, where)
    if rows > MAX_ROWS:
        raise UnreadableFile(
            f"the table has {rows:,} rows; at most {MAX_ROWS:,} are read",
            where=where,
            remedy="split it or sum it up first",
        )
    if rows * columns > most_cells:
        raise UnreadableFile(
            f"the table has {rows:,} rows of {columns:,} columns, filled or empty; at most {most_cells:,} cells are "
            "read",
            where=where,
            remedy="leave out columns, clear what stands far outside the table, or split it",
        )
