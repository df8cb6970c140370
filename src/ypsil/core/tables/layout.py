"""Finding the table among the rows of a sheet: titles above it, its header, totals and notes below."""

from __future__ import annotations

import re
from dataclasses import dataclass

import polars as pl

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.model import RawGrid, Remark

_HEADER_SEARCH_ROWS = 30
_NUMBER_LIKE = re.compile(r"^[\s(+\-−]*[£$€¥]?\s*\d[\d.,\s'%)]*$|^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}$")
_TOTAL = r"(?i)^\s*(grand\s+|sub-?\s*)?(total|totals|gesamt|summe)\b[\s:]*$|^\s*(grand\s+|sub-?)total\b"
_NOTE = r"(?i)^\s*(\*|†|source\b|note\b|notes\b|footnote\b|\(?\d\)\s)"


@dataclass(frozen=True, slots=True)
class Laid:
    """The data rows under their column names; ``row_numbers`` are those of the file, from 1."""

    cells: pl.DataFrame
    row_numbers: pl.Series
    text_cells: pl.DataFrame | None
    remarks: tuple[Remark, ...]


def lay_out(grid: RawGrid, where: str) -> Laid:
    """Return the rows of the table itself; what was left out is said in remarks."""
    remarks = list(grid.remarks)
    header = _find_header(grid.cells)
    names, renamed = _column_names(grid.cells, header)
    if header is None:
        header = -1
        remarks.append(
            Remark(
                "no-header",
                "warning",
                "The first row holds numbers, so it was read as data and the columns were numbered.",
                row=1,
            )
        )
    remarks += renamed
    if header > 0:
        titles = [row[0] for row in grid.cells.head(header).rows() if row[0]]
        said = f" (“{titles[0][:80]}”)" if titles else ""
        remarks.append(
            Remark(
                "header-not-first",
                "info",
                f"The column names stand in row {header + 1}; what is above them{said} was left out.",
                row=header + 1,
            )
        )
    index = pl.Series("row", range(1, grid.cells.height + 1), dtype=pl.UInt32)
    everything = grid.cells.with_columns(pl.all().str.strip_chars().replace("", None)).with_columns(index)
    body = everything.slice(header + 1)
    body, dropped = _drop_rows(body)
    remarks += dropped
    if body.height == 0:
        raise UnreadableFile(
            "there is a header but no rows under it", where=where, remedy="choose a file with rows in it"
        )
    rows = body["row"]
    kept = [name for name in body.columns if name != "row" and (names[name] or body[name].count() > 0)]
    final = {name: names[name] or f"Column {position}" for position, name in enumerate(kept, 1)}
    flags = None
    if grid.text_cells is not None:
        flags = grid.text_cells[(rows - 1).cast(pl.Int64).to_list()].select(kept).rename(final)
    return Laid(body.select(kept).rename(final), rows, flags, tuple(remarks))


def _find_header(cells: pl.DataFrame) -> int | None:
    """Return the index of the header: the first row about as wide as the table, with names in it.

    None where nothing looks like names.
    """
    rows = cells.head(_HEADER_SEARCH_ROWS).rows()
    filled = [sum(cell is not None and cell.strip() != "" for cell in row) for row in rows]
    widest = max(filled, default=0)
    for index, row in enumerate(rows):
        present = [cell for cell in row if cell and cell.strip()]
        names = sum(not _NUMBER_LIKE.match(cell) for cell in present)
        wide_enough = filled[index] >= max(min(2, widest), round(0.6 * widest))
        if wide_enough and names >= max(1, 0.5 * len(present)):
            return index
    named = bool(rows) and any(cell and not _NUMBER_LIKE.match(cell) for cell in rows[0])
    return 0 if named or not any(filled) else None


def _column_names(cells: pl.DataFrame, header: int | None) -> tuple[dict[str, str], list[Remark]]:
    """Return a unique name for each grid column, empty where the header has none."""
    if header is None:
        return {key: f"Column {position}" for position, key in enumerate(cells.columns, 1)}, []
    names: dict[str, str] = {}
    seen: dict[str, int] = {}
    repeated: list[str] = []
    for key, cell in zip(cells.columns, cells.row(header), strict=True):
        name = " ".join((cell or "").split())
        if name and name in seen:
            repeated.append(name)
            seen[name] += 1
            name = f"{name} ({seen[name]})"
        seen.setdefault(name, 1)
        names[key] = name
    if not repeated:
        return names, []
    said = ", ".join(f"“{name}”" for name in dict.fromkeys(repeated))
    return names, [
        Remark(
            "duplicate-column-names",
            "warning",
            f"Several columns are called {said}; the later ones were given a number.",
            column=repeated[0],
            row=header + 1,
            count=len(repeated),
        )
    ]


def _drop_rows(body: pl.DataFrame) -> tuple[pl.DataFrame, list[Remark]]:
    data = [name for name in body.columns if name != "row"]
    remarks = []
    blank = body.select(pl.all_horizontal(pl.col(data).is_null())).to_series()
    # Blank lines at the very end are how files end, not something to speak of.
    last = int(body.filter(~blank)["row"].max() or 0)  # type: ignore[arg-type]
    inside = body.filter(blank & (body["row"] < last))
    if inside.height:
        first = int(inside["row"][0])
        remarks.append(
            Remark("blank-rows-dropped", "info", "Empty rows were left out.", row=first, count=inside.height)
        )
    body = body.filter(~blank)
    body, notes = _drop_notes(body, data)
    body, totals = _drop_totals(body, data)
    return body, remarks + totals + notes


def _drop_notes(body: pl.DataFrame, data: list[str]) -> tuple[pl.DataFrame, list[Remark]]:
    """Leave out the rows at the end that hold one cell of prose."""
    if len(data) < 2:
        return body, []
    count = 0
    for row in reversed(body.tail(20).select(data).rows()):
        alone = row[0] is not None and all(cell is None for cell in row[1:])
        if not alone or not (re.match(_NOTE, row[0]) or len(row[0].split()) > 4):
            break
        count += 1
    if not count:
        return body, []
    first = body.row(body.height - count, named=True)
    remark = Remark(
        "footnote-rows",
        "info",
        f"Notes under the table were left out (“{first[data[0]][:80]}”).",
        row=int(first["row"]),
        count=count,
    )
    return body.head(body.height - count), [remark]


def _drop_totals(body: pl.DataFrame, data: list[str]) -> tuple[pl.DataFrame, list[Remark]]:
    """Leave out rows that say they are totals; added up with the others they would count twice."""
    if len(data) < 2 or body.height < 2:
        return body, []
    labelled = pl.any_horizontal(pl.col(data[:2]).str.contains(_TOTAL)).fill_null(False)
    totals = body.filter(labelled)
    if not totals.height:
        return body, []
    row = totals.row(0, named=True)
    label = next(row[name] for name in data[:2] if row[name] and re.search(_TOTAL, row[name]))
    remark = Remark(
        "total-row",
        "warning",
        f"Rows that add up others were left out (“{label}”), so that nothing counts twice.",
        row=int(row["row"]),
        count=totals.height,
    )
    return body.filter(~labelled), [remark]
