"""Tables of one shape put under each other."""

from __future__ import annotations

import polars as pl

from ypsil.core.tables.convert import as_text
from ypsil.core.tables.model import Field
from ypsil.core.tables.rows import Rows, empty_type


def stack(parts: list[Rows]) -> tuple[Rows, list[str]]:
    """Return the rows of all parts in order, with the columns of all; what did not agree is said.

    A column that a part lacks is missing there. Where a column's kinds or units differ, all its values are
    kept as written.
    """
    names = list(dict.fromkeys(name for part in parts for name in part.names))
    notes = []
    fields: dict[str, Field] = {}
    for name in names:
        found = [part.fields[name] for part in parts if name in part.fields and part.frame[name].count()]
        lacking = sum(name not in part.fields for part in parts)
        if lacking:
            notes.append(f"“{name}” is not in {lacking} of {len(parts)}; it is missing there.")
        fields[name], note = _agreed(name, found or [part.fields[name] for part in parts if name in part.fields])
        notes += note
    frames = [_in_fields(part, fields) for part in parts]
    frame = pl.concat(frames, how="diagonal_relaxed").select(names)
    empty = {name: empty_type(fields[name]) for name in names if frame.schema[name] == pl.Null}
    return Rows(frame.cast(empty), fields), notes  # type: ignore[arg-type]


def _agreed(name: str, found: list[Field]) -> tuple[Field, list[str]]:
    kinds, units = {field.kind for field in found}, {field.unit for field in found}
    if len(kinds) == 1 and len(units) == 1:
        forms = {field.form for field in found}
        return (found[0] if len(forms) == 1 else Field(found[0].kind, found[0].unit)), []
    if kinds <= {"category", "text", "place"}:
        return Field("text" if "text" in kinds else "category"), []
    if "list" in kinds and kinds <= {"category", "text", "list"}:
        return Field("list"), []
    said = " and ".join(sorted(kinds)) if len(kinds) > 1 else f"different units of {name}"
    return Field("category"), [f"“{name}” holds {said}; its values are kept as written."]


def _in_fields(part: Rows, fields: dict[str, Field]) -> pl.DataFrame:
    columns = []
    for name in part.names:
        cells, have, want = part.frame[name], part.fields[name], fields[name]
        if not cells.count():
            cells = pl.Series(name, [None] * len(cells), dtype=pl.Null)
        elif want.kind == "list" and have.kind != "list":
            cells = cells.to_frame().select(pl.concat_list(name)).to_series()
        elif (have.kind, have.unit) != (want.kind, want.unit) and want.kind in ("category", "text"):
            cells = as_text(cells, have)
        columns.append(cells)
    return pl.DataFrame(columns)
