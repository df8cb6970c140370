"""The rows of a sheet that name its columns: where they stand, and what the columns are called."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ypsil.core.tables.model import RawGrid, Remark
from ypsil.core.tables.numbers_in_text import looks_like_number
from ypsil.core.tables.reading import Reading

_HEADER_SEARCH_ROWS = 30
_DATE_LIKE = re.compile(r"^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}$")
_YEAR_LIKE = re.compile(r"^(19|20)\d\d([/-]\d\d)?$")

Cells = tuple[str | None, ...]


@dataclass(frozen=True, slots=True)
class Header:
    """The rows that name columns, counted from 0; ``last`` is -1 where there is none.

    ``groups`` is the row of names that stand over several columns each, where there is one.
    """

    last: int
    groups: int | None = None

    @property
    def first(self) -> int:
        return self.last if self.groups is None else self.groups


def find_header(grid: RawGrid, reading: Reading) -> Header:
    """Return where the column names stand: the first row about as wide as the table with names in it."""
    if grid.named:
        return Header(-1)
    if any(reading.leaves(code) for code in ("header-not-first", "no-header")):
        return Header(0)
    rows = [tuple(_clean(cell) for cell in row) for row in grid.cells.head(_HEADER_SEARCH_ROWS).rows()]
    index = _first_wide_row(rows)
    if index is None:
        return Header(-1)
    if not reading.leaves("header-two-rows"):
        for upper in (index, index - 1):
            if upper >= 0 and _names_groups(rows, upper, upper + 1):
                return Header(upper + 1, upper)
    return Header(index)


def _clean(cell: str | None) -> str | None:
    return " ".join(cell.split()) or None if cell else None


def _is_value(cell: str) -> bool:
    """Tell whether a cell holds a number or a day, as cells under a name do."""
    return looks_like_number(cell) or _DATE_LIKE.match(cell) is not None


def _first_wide_row(rows: list[Cells]) -> int | None:
    filled = [sum(cell is not None for cell in row) for row in rows]
    widest = max(filled, default=0)
    for index, row in enumerate(rows):
        present = [cell for cell in row if cell]
        names = sum(not _is_value(cell) for cell in present)
        wide_enough = filled[index] >= max(min(2, widest), round(0.6 * widest))
        if wide_enough and names >= max(1, 0.5 * len(present)):
            return index
    named = bool(rows) and any(cell and not _is_value(cell) for cell in rows[0])
    return 0 if named or not any(filled) else None


def _names_groups(rows: list[Cells], upper: int, lower: int) -> bool:
    """Tell whether ``upper`` names groups of the columns that ``lower`` names.

    The upper row has gaps that the lower one fills with names or years, each different from its neighbours
    in the group, and numbers follow. The lower names alone must not be enough: they repeat, are years, or
    leave out what the upper row says. A single cell at the left is a title.
    """
    if lower + 1 >= len(rows) or not any(rows[upper][1:]):
        return False
    above, below, data = rows[upper], rows[lower], rows[lower + 1]
    groups = _spread_right(above, below)
    spans = [position for position, cell in enumerate(above) if cell is None and groups[position] and below[position]]
    if not spans:
        return False
    names = [cell for cell in below if cell]
    if not all(not _is_value(cell) or _YEAR_LIKE.match(cell) for cell in names):
        return False
    pairs = [(groups[position], cell) for position, cell in enumerate(below) if cell]
    alone_enough = (
        len(set(names)) == len(names)
        and not any(_YEAR_LIKE.match(cell) for cell in names)
        and not any(over and not under for over, under in zip(above, below, strict=True))
    )
    if alone_enough:
        return False
    numbers_follow = any(data[position] and _is_value(data[position] or "") for position in spans)
    return len(pairs) == len(set(pairs)) and numbers_follow


def _spread_right(above: Cells, below: Cells) -> list[str | None]:
    """Return for each column the name of its group: the nearest one to the left, while the lower row goes on."""
    groups: list[str | None] = []
    current: str | None = None
    for over, under in zip(above, below, strict=True):
        current = over or (current if under else None)
        groups.append(current)
    return groups


def column_names(grid: RawGrid, header: Header) -> tuple[dict[str, str], list[Remark]]:
    """Return a unique name for each grid column, empty where the header has none, and what is to be said."""
    keys = grid.cells.columns
    if grid.named:
        return {key: key for key in keys}, []
    if header.last < 0:
        message = "The first row holds numbers, so it was read as data and the columns were numbered."
        remark = Remark("no-header", "warning", message, row=1, state="done")
        return {key: f"Column {position}" for position, key in enumerate(keys, 1)}, [remark]
    below = tuple(_clean(cell) for cell in grid.cells.row(header.last))
    remarks = _note_titles(grid, header)
    written = [cell or "" for cell in below]
    if header.groups is not None:
        groups = _spread_right(tuple(_clean(cell) for cell in grid.cells.row(header.groups)), below)
        written = [" ".join(filter(None, pair)) for pair in zip(groups, below, strict=True)]
        example = next(name for name, group in zip(written, groups, strict=True) if group)
        message = f"Two rows name the columns; their names were joined, such as “{example}”."
        remarks.append(Remark("header-two-rows", "info", message, row=header.groups + 1, count=2, state="done"))
    names, repeated = _unique(written)
    if repeated:
        said = ", ".join(f"“{name}”" for name in dict.fromkeys(repeated))
        message = f"Several columns are called {said}; the later ones were given a number."
        row = header.last + 1
        remarks.append(Remark("duplicate-column-names", "warning", message, repeated[0], row, len(repeated)))
    return dict(zip(keys, names, strict=True)), remarks


def _note_titles(grid: RawGrid, header: Header) -> list[Remark]:
    if header.first == 0:
        return []
    titles = [cell for row in grid.cells.head(header.first).rows() for cell in row if _clean(cell)]
    said = f" (“{titles[0].strip()[:80]}”)" if titles else ""
    message = f"The column names stand in row {header.first + 1}; what is above them{said} was left out."
    return [Remark("header-not-first", "info", message, row=header.first + 1, state="done")]


def _unique(written: list[str]) -> tuple[list[str], list[str]]:
    """Return the names with a number behind repeated ones, and those that were repeated."""
    taken: set[str] = set()
    names, repeated = [], []
    for name in written:
        final, number = name, 2
        while final and final in taken:
            final, number = f"{name} ({number})", number + 1
        if final != name:
            repeated.append(name)
        taken.add(final)
        names.append(final)
    return names, repeated
