"""Finding the table among the rows of a sheet: titles above it, its header, totals and notes below."""

from __future__ import annotations

import re
from dataclasses import dataclass

import polars as pl

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.header import column_names, find_header
from ypsil.core.tables.model import Offer, RawGrid, Remark
from ypsil.core.tables.reading import Reading

_TOTAL = r"(?i)^\s*(grand\s+|sub-?\s*)?(total|totals|gesamt|summe)\b[\s:]*$|^\s*(grand\s+|sub-?)total\b"
_NOTE = r"(?i)^\s*(\*|†|source\b|note\b|notes\b|footnote\b|\(?\d\)\s)"
_ROW = "\x00row"


@dataclass(frozen=True, slots=True)
class Laid:
    """The data rows under their column names; ``row_numbers`` are those of the file, from 1."""

    cells: pl.DataFrame
    row_numbers: pl.Series
    text_cells: pl.DataFrame | None
    remarks: tuple[Remark, ...]


# A header cell that is longer is no name.
_LONGEST_NAME = 200


def lay_out(grid: RawGrid, where: str, reading: Reading | None = None) -> Laid:
    """Return the rows of the table itself; what was left out or filled is said in remarks.

    Cells keep their outer spaces. A repair that ``reading`` leaves is not made.
    """
    reading = reading or Reading()
    cells, filled = _fill_merged(grid, reading)
    header = find_header(grid, reading)
    names, remarks = column_names(grid, header)
    index = pl.Series(_ROW, range(1, cells.height + 1), dtype=pl.UInt32)
    body = cells.with_columns(index).slice(header.last + 1)
    body, dropped = _drop_rows(body, reading)
    if body.height == 0:
        longest = max((len(value) for value in cells.row(0) if value), default=0) if cells.height else 0
        is_prose = longest > _LONGEST_NAME and cells.width == 1
        raise UnreadableFile(
            "there is a header but no rows under it",
            where=where,
            remedy="running text can be pasted, with each line or paragraph as an answer"
            if is_prose
            else "choose a file with rows in it",
        )
    rows = body[_ROW]
    kept = [name for name in cells.columns if names[name] or _has_text(body[name])]
    final = {name: names[name] or f"Column {position}" for position, name in enumerate(kept, 1)}
    final = _with_renames(final, reading.renames)
    body = body.select(kept).rename(final)
    flags = None
    if grid.text_cells is not None:
        flags = grid.text_cells[(rows - 1).cast(pl.Int64).to_list()].select(kept).rename(final)
    gaps = _note_gaps(body, rows) if not grid.named else []
    return Laid(body, rows, flags, (*grid.remarks, *remarks, *filled, *dropped, *gaps))


def _has_text(cells: pl.Series) -> bool:
    return bool(cells.count() > 0 and (cells.str.strip_chars() != "").any())


def _with_renames(names: dict[str, str], renames: dict[str, str]) -> dict[str, str]:
    """Give a column that arrives under another name the name it has here, unless that is taken."""
    taken = set(names.values())
    return {
        key: renames[name] if name in renames and renames[name] not in taken else name for key, name in names.items()
    }


def _fill_merged(grid: RawGrid, reading: Reading) -> tuple[pl.DataFrame, list[Remark]]:
    """Give each row of a cell merged downwards the cell's value: the workbook says that it belongs to all."""
    cells = grid.cells
    down = [area for area in grid.merged if area[2] > area[0]]
    if not down or reading.leaves("merged-cells-filled"):
        return cells, []
    count = 0
    for column in {area[1] for area in down}:
        if column >= cells.width:
            continue
        values = cells.to_series(column).to_list()
        for first, _, last, _ in (area for area in down if area[1] == column):
            value = values[first] if first < len(values) else None
            for row in range(first + 1, min(last + 1, len(values))):
                if value is not None and values[row] is None:
                    values[row] = value
                    count += 1
        cells = cells.with_columns(pl.Series(cells.columns[column], values, dtype=pl.String))
    if not count:
        return cells, []
    message = "Cells merged over several rows were filled in each of them."
    row = min(area[0] for area in down) + 1
    return cells, [Remark("merged-cells-filled", "info", message, row=row, count=count, state="done")]


def _note_gaps(body: pl.DataFrame, rows: pl.Series) -> list[Remark]:
    """Propose to fill a first column whose values are followed by gaps, as merged cells leave them in text files."""
    if body.width < 2 or body.height < 4:
        return []
    name = body.columns[0]
    first = body[name]
    empty = first.is_null()
    gaps = int(empty.sum())
    others_full = all(body[other].null_count() <= 0.1 * body.height for other in body.columns[1:3])
    if empty[0] or not others_full or not 0.3 <= gaps / body.height < 1 or (body.height - gaps) < 2:
        return []
    offer = Offer("Fill the gaps from above", {"step": {"type": "fill_down", "columns": [name]}})
    message = "The values are followed by gaps, as merged cells leave them; they can be filled from above."
    row = int(rows.filter(empty)[0])
    return [Remark("merged-cells-filled", "warning", message, name, row, gaps, "proposed", (offer,))]


def _drop_rows(body: pl.DataFrame, reading: Reading) -> tuple[pl.DataFrame, list[Remark]]:
    data = [name for name in body.columns if name != _ROW]
    remarks = []
    blank = _blank_rows(body.select(data))
    if blank.any():
        # Blank lines at the very end are how files end, not something to speak of.
        last = int(body.filter(~blank)[_ROW].max() or 0)  # type: ignore[arg-type]
        inside = body.filter(blank & (body[_ROW] < last))
        if inside.height and not reading.leaves("blank-rows-dropped"):
            row, count = int(inside[_ROW][0]), inside.height
            message = "Empty rows were left out."
            remarks.append(Remark("blank-rows-dropped", "info", message, row=row, count=count, state="done"))
        elif inside.height:
            blank &= body[_ROW] > last
        body = body.filter(~blank)
    body, notes = _drop_notes(body, data) if not reading.leaves("footnote-rows") else (body, [])
    body, totals = _drop_totals(body, data) if not reading.leaves("total-row") else (body, [])
    return body, remarks + totals + notes


def _blank_rows(body: pl.DataFrame) -> pl.Series:
    """Return which rows hold nothing but spaces; only short rows are looked at closely."""
    lengths = body.select(pl.sum_horizontal(pl.all().str.len_bytes().fill_null(0))).to_series()
    short = lengths <= 4 * body.width
    blank = lengths == 0
    if bool((short & ~blank).any()):
        holds = pl.any_horizontal(pl.all().str.contains(r"\S").fill_null(False))
        close = body.filter(short).select(holds).to_series()
        blank = blank.scatter(short.arg_true(), ~close)
    return blank


def _drop_notes(body: pl.DataFrame, data: list[str]) -> tuple[pl.DataFrame, list[Remark]]:
    """Leave out the rows at the end that hold one cell of prose."""
    if len(data) < 2:
        return body, []
    count = 0
    for row in reversed(body.tail(20).select(data).rows()):
        alone = row[0] is not None and all(not (cell or "").strip() for cell in row[1:])
        if not alone or not (re.match(_NOTE, row[0]) or len(row[0].split()) > 4):
            break
        count += 1
    if not count:
        return body, []
    first = body.row(body.height - count, named=True)
    message = f"Notes under the table were left out (“{first[data[0]].strip()[:80]}”)."
    remark = Remark("footnote-rows", "info", message, row=int(first[_ROW]), count=count, state="done")
    return body.head(body.height - count), [remark]


def _drop_totals(body: pl.DataFrame, data: list[str]) -> tuple[pl.DataFrame, list[Remark]]:
    """Leave out rows that say they are totals; added up with the others they would count twice."""
    if len(data) < 2 or body.height < 2:
        return body, []
    labelled = pl.repeat(False, body.height, eager=True)
    for name in data[:2]:
        labels = body[name].unique().drop_nulls()
        totals = labels.filter(labels.str.contains(_TOTAL))
        if len(totals):
            labelled |= body[name].is_in(totals.implode()).fill_null(False)
    if not labelled.any():
        return body, []
    row = body.filter(labelled).row(0, named=True)
    label = next(row[name] for name in data[:2] if row[name] and re.search(_TOTAL, row[name])).strip()
    message = f"Rows that add up others were left out (“{label}”), so that nothing counts twice."
    count = int(labelled.sum())
    remark = Remark("total-row", "warning", message, row=int(row[_ROW]), count=count, state="done")
    return body.filter(~labelled), [remark]
