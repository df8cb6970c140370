"""Records (JSON, JSON Lines, Parquet) to a grid of text cells whose columns carry their names."""

from __future__ import annotations

import io
import json
from collections.abc import Iterable
from typing import Any

import polars as pl

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.delimited import decode
from ypsil.core.tables.limits import check_size, check_width
from ypsil.core.tables.model import RawGrid
from ypsil.core.tables.reading import Reading

UNIT_SEPARATOR = "\x1f"
_MOST_DEPTH = 6
# Of damaged files the engine is not always content to complain: it may break off.
_ENGINE_FAILS = (pl.exceptions.PolarsError, pl.exceptions.PanicException)
_REMEDY = "give a list of records, such as [{“Branch”: “Alder Lane”, “Visits”: 3}], or one record a line"


def read_json(data: bytes, where: str, reading: Reading) -> RawGrid:
    """Read a list of JSON records, one table inside an object, or JSON Lines.

    Objects inside a record become columns named ``outer.inner``; lists become lists.
    """
    text = decode(data, where, reading.encoding)[0].decode("utf-8")
    try:
        found = json.loads(text)
    except RecursionError:
        raise UnreadableFile("the records are nested too deeply", where=where, remedy=_REMEDY) from None
    except json.JSONDecodeError as problem:
        lines = [line for line in text.splitlines() if line.strip()]
        whole_first_line = problem.lineno > 1 or problem.msg == "Extra data"
        if len(lines) < 2 or not lines[0].lstrip().startswith("{") or not whole_first_line:
            place = f"{where}, line {problem.lineno}, column {problem.colno}"
            raise UnreadableFile("this is not JSON", where=place, remedy="mend it at that place") from None
        return _grid(_json_lines(text, where), where)
    return _grid(_records_in(found, where), where)


def read_json_lines(data: bytes, where: str, reading: Reading) -> RawGrid:
    """Read one JSON record a line; empty lines are passed over."""
    return _grid(_json_lines(decode(data, where, reading.encoding)[0].decode("utf-8"), where), where)


def _json_lines(text: str, where: str) -> list[Any]:
    records = []
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            continue
        try:
            records.append(json.loads(line))
        except (json.JSONDecodeError, RecursionError) as problem:
            column = getattr(problem, "colno", 1)
            place = f"{where}, line {number}, column {column}"
            raise UnreadableFile("this line is not a JSON record", where=place, remedy="mend it") from None
    return records


def _records_in(found: Any, where: str) -> list[Any]:
    """Return the records: the list itself, the one list of records in an object, or columns of equal length."""
    if isinstance(found, dict):
        lists = {key: value for key, value in found.items() if isinstance(value, list) and value}
        tables = [value for value in lists.values() if all(isinstance(item, dict) for item in value)]
        if len(tables) == 1:
            return tables[0]
        lengths = {len(value) for value in lists.values()}
        if lists and len(lists) == len(found) and len(lengths) == 1 and not tables:
            return [dict(zip(lists, row, strict=True)) for row in zip(*lists.values(), strict=True)]
        found = [found] if found and not lists else None
    if not isinstance(found, list) or not found:
        raise UnreadableFile("the JSON holds no list of records", where=where, remedy=_REMEDY)
    if all(isinstance(item, list) for item in found):
        header, *rows = found
        names = [str(name) for name in header]
        return [dict(zip(names, row, strict=False)) for row in rows]
    return found


def _grid(records: Iterable[Any], where: str) -> RawGrid:
    flat: list[dict[str, Any]] = []
    names: dict[str, None] = {}
    for number, record in enumerate(records, 1):
        if not isinstance(record, dict):
            place = f"{where}, record {number}"
            raise UnreadableFile("this is not a record with names and values", where=place, remedy=_REMEDY)
        row: dict[str, Any] = {}
        _flatten(record, "", row, 0)
        flat.append(row)
        names.update(dict.fromkeys(row))
        check_width(len(names), where)
    check_size(len(flat), len(names), where)
    if not flat or not names:
        raise UnreadableFile("there are no records in the file", where=where, remedy=_REMEDY)
    lists = frozenset(name for name in names if any(isinstance(row.get(name), list) for row in flat))
    cells = {name: [_as_text(row.get(name)) for row in flat] for name in names}
    return RawGrid(pl.DataFrame(cells, schema=dict.fromkeys(cells, pl.String)), named=True, lists=lists)


def _flatten(record: dict[str, Any], before: str, row: dict[str, Any], depth: int) -> None:
    for key, value in record.items():
        name = f"{before}{key}"
        if isinstance(value, dict) and value and depth < _MOST_DEPTH:
            _flatten(value, f"{name}.", row, depth + 1)
        else:
            row[name] = value


def _as_text(value: Any) -> str | None:
    if value is None or isinstance(value, str):
        return value or None
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float | int):
        return repr(value)
    if isinstance(value, list) and not any(isinstance(item, dict | list) for item in value):
        return UNIT_SEPARATOR.join(filter(None, (_as_text(item) for item in value))) or None
    return json.dumps(value, ensure_ascii=False)


def read_parquet(data: bytes, where: str) -> RawGrid:
    """Read a Parquet file; what is not text, number, yes/no, date or list of these is left out."""
    try:
        lazy = pl.scan_parquet(io.BytesIO(data))
        schema = lazy.collect_schema()
        height = int(lazy.select(pl.len()).collect().item())
        check_size(height, len(schema), where)
        frame = lazy.collect()
    except (*_ENGINE_FAILS, OSError):
        raise UnreadableFile(
            "the Parquet file is broken or of another type than its name says", where=where, remedy="write it again"
        ) from None
    columns = {name: _column_as_text(frame[name]) for name in frame.columns}
    kept = {name: cells for name, cells in columns.items() if cells is not None}
    if not kept or frame.height == 0:
        raise UnreadableFile("there are no rows in the file", where=where, remedy="choose a file with rows in it")
    lists = frozenset(name for name in kept if isinstance(schema[name], pl.List | pl.Array))
    return RawGrid(pl.DataFrame(kept), named=True, lists=lists)


def _column_as_text(cells: pl.Series) -> pl.Series | None:
    try:
        if isinstance(cells.dtype, pl.List | pl.Array):
            inner = cells.cast(pl.List(pl.String))
            return inner.list.join(UNIT_SEPARATOR, ignore_nulls=True)
        if isinstance(cells.dtype, pl.Struct):
            return cells.struct.json_encode()
        if cells.dtype == pl.Boolean:
            return pl.select(pl.when(cells).then(pl.lit("yes")).when(~cells).then(pl.lit("no"))).to_series()
        if isinstance(cells.dtype, pl.Datetime):
            return cells.dt.strftime("%Y-%m-%d %H:%M:%S")
        return cells.cast(pl.String)
    except _ENGINE_FAILS:
        return None
