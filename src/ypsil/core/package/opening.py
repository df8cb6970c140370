"""A package opened: the report, its tables and its pictures; and a table's rows swapped for those of a file."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass, replace
from pathlib import PurePosixPath
from typing import Any

import polars as pl
from pydantic import ValidationError

from ypsil.core.drawing.pictures import Picture
from ypsil.core.errors import UnreadableFile, YpsilError
from ypsil.core.package.names import renamed
from ypsil.core.package.tables import TableSchema, rows_of
from ypsil.core.report.document import ReportBody
from ypsil.core.tables.archives import ZIP_SIGNATURE, check_unpacked_size
from ypsil.core.tables.convert import convert
from ypsil.core.tables.extent import BROKEN_ARCHIVE
from ypsil.core.tables.read import read_table
from ypsil.core.tables.rows import Rows
from ypsil.core.tiles import ReportTable

_MOST_FILES = 2_000
_PACK_AGAIN = "pack the report again"


@dataclass(frozen=True, slots=True)
class Package:
    """A report with its tables, by the names of their files, and its pictures by their names."""

    report: ReportBody
    tables: Mapping[str, ReportTable]
    pictures: Mapping[str, Picture]

    def with_rows(self, name: str, data: bytes, file_name: str) -> Package:
        """Return the package with a table's rows read from a file; columns keep the kinds that they have in the report.

        ``name`` is that of the table or of its file. Raises YpsilError for a table that is not there or a file that is
        none, also where it lacks a column that the report needs.
        """
        key = next((key for key, one in self.tables.items() if name in (key, one.name)), None)
        if key is None:
            there = ", ".join(self.tables) or "none"
            raise YpsilError(f"the report has no table “{name}”", remedy=f"its tables are: {there}")
        known = {column.name: column.field for column in self.tables[key].columns}
        read = Rows.of_table(read_table(data, file_name))
        for column, field in known.items():
            if column in read.fields and read.fields[column].kind != field.kind:
                found = convert(read.frame[column], read.fields[column], field.kind)
                read = read.with_column(found.values.alias(column), replace(field, form=found.field.form))
            elif column in read.fields:
                read = read.with_column(read.frame[column], replace(field, form=read.fields[column].form))
        source = f"{self.tables[key].name} ({file_name}, {read.frame.height:,} rows)"
        table = _table(self.tables[key].name, source, read, data)
        return replace(self, tables={**self.tables, key: table})


def open_package(data: bytes, where: str) -> Package:
    """Return what a package holds. Raises UnreadableFile for a file that is none, is broken or would unpack to too
    much."""
    if not data.startswith(ZIP_SIGNATURE):
        raise UnreadableFile("this is no packed report", where=where, remedy="choose a file that ends in .ypsil")
    check_unpacked_size(data, where)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            infos = [info for info in archive.infolist() if not info.is_dir()][:_MOST_FILES]
            files = {info.filename: archive.read(info) for info in infos}
    except BROKEN_ARCHIVE:
        raise UnreadableFile("the package is broken", where=where, remedy=_PACK_AGAIN) from None
    if "report.json" not in files:
        raise UnreadableFile("there is no report.json in it", where=where, remedy=_PACK_AGAIN)
    tables = {PurePosixPath(path).stem: _read(path, files) for path in files if _is_table(path)}
    return Package(_report(files["report.json"], tables), tables, _pictures(files))


def _is_table(path: str) -> bool:
    return path.startswith("tables/") and path.endswith(".csv") and path.count("/") == 1


def _report(data: bytes, tables: Mapping[str, ReportTable]) -> ReportBody:
    content: Any = _json(data, "report.json")
    if not isinstance(content, dict):
        raise UnreadableFile("this is no report", where="report.json", remedy=_PACK_AGAIN)
    try:
        # Whoever writes one by hand may name tables as people call them.
        return ReportBody.model_validate(renamed(content, {one.name: key for key, one in tables.items()}))
    except (ValidationError, AttributeError, TypeError) as problem:
        first = problem.errors()[0] if isinstance(problem, ValidationError) else None
        place = ", " + ".".join(str(part) for part in first["loc"]) if first else ""
        what = str(first["msg"]).removeprefix("Value error, ") if first else "this is no report"
        raise UnreadableFile(what, where=f"report.json{place}", remedy="see docs/formats/report.schema.json") from None


def _json(data: bytes, where: str) -> Any:
    try:
        return json.loads(data)
    except (ValueError, RecursionError):
        raise UnreadableFile("this is not JSON", where=where, remedy=_PACK_AGAIN) from None


def _read(path: str, files: Mapping[str, bytes]) -> ReportTable:
    """Return a table by what is described beside it; without that it is read as any other file is."""
    beside = files.get(path.removesuffix("csv") + "json")
    if beside is None:
        read = read_table(files[path], PurePosixPath(path).name)
        return _table(
            read.name, f"{PurePosixPath(path).name}, {read.frame.height:,} rows", Rows.of_table(read), files[path]
        )
    try:
        schema = TableSchema.model_validate(_json(beside, path))
    except ValidationError as problem:
        first = problem.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        raise UnreadableFile(str(first["msg"]), where=f"{path}, {place}", remedy=_PACK_AGAIN) from None
    return _table(schema.name, schema.source or schema.name, rows_of(files[path], schema, path), files[path])


def _table(name: str, source: str, rows: Rows, data: bytes) -> ReportTable:
    def frame() -> pl.DataFrame:
        return rows.frame

    return ReportTable(name, rows.columns(), frame, hashlib.sha256(data).hexdigest(), source)


def _pictures(files: Mapping[str, bytes]) -> dict[str, Picture]:
    from ypsil.core.drawing.picture_files import read_picture
    from ypsil.core.drawing.vector_files import MEDIA_TYPE

    found = {}
    for path, content in files.items():
        if path.startswith("pictures/"):
            made = read_picture(content, path)
            # They were made anew when they were brought: their own names hold. Of a drawing only what is harmless is
            # taken.
            picture = (
                made
                if made.media_type == MEDIA_TYPE
                else replace(made, held=content, digest=hashlib.sha256(content).hexdigest())
            )
            found[picture.name] = picture
    return found
