"""Several files of one shape taken in together: a zip archive whose tables are stacked."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from dataclasses import replace
from pathlib import PurePath

import polars as pl

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.archives import check_unpacked_size
from ypsil.core.tables.extent import BROKEN_ARCHIVE
from ypsil.core.tables.limits import check_size
from ypsil.core.tables.model import Field, ReadTable, Remark
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.stack import stack

FILE_COLUMN = "File"
MAX_FILES = 500


def bundle(files: list[tuple[str, bytes]]) -> bytes:
    """Return several files as one zip archive, in the order of their names; equal names are told apart."""
    buffer = io.BytesIO()
    taken: set[str] = set()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_STORED) as archive:
        for name, data in sorted(files, key=lambda file: file[0]):
            path, number, final = PurePath(name), 2, name
            while final in taken:
                final, number = f"{path.stem} ({number}){path.suffix}", number + 1
            taken.add(final)
            archive.writestr(zipfile.ZipInfo(final, (1980, 1, 1, 0, 0, 0)), data)
    return buffer.getvalue()


def read_bundle(
    data: bytes,
    where: str,
    read_one: Callable[[bytes, str], ReadTable],
    progress: Callable[[float], None] | None = None,
) -> ReadTable:
    """Read each file of an archive and stack their rows, with a first column for the file's name.

    Raises UnreadableFile naming the file that cannot be read, or that has no column in common with the first.
    """
    check_unpacked_size(data, where)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        names = [info.filename for info in archive.infolist() if _is_file(info)]
        if not names:
            raise UnreadableFile("the archive holds no files", where=where, remedy="choose the files themselves")
        if len(names) > MAX_FILES:
            raise UnreadableFile(
                f"the archive holds {len(names):,} files; at most {MAX_FILES} are read", where=where, remedy="split it"
            )
        tables = []
        for position, name in enumerate(sorted(names)):
            if progress:
                progress(position / len(names))
            try:
                content = archive.read(name)
            except BROKEN_ARCHIVE:
                raise UnreadableFile(
                    "the archive is locked or broken", where=f"{where}, {name}", remedy="choose the files themselves"
                ) from None
            tables.append((PurePath(name).name, read_one(content, PurePath(name).name)))
    return _stacked(tables, where)


def _is_file(info: zipfile.ZipInfo) -> bool:
    path = PurePath(info.filename)
    return not info.is_dir() and not path.name.startswith((".", "_")) and "__MACOSX" not in path.parts


def _stacked(tables: list[tuple[str, ReadTable]], where: str) -> ReadTable:
    _, first = tables[0]
    for name, table in tables[1:]:
        if not set(table.frame.columns) & set(first.frame.columns):
            raise UnreadableFile(
                f"its columns are others than those of {tables[0][0]}",
                where=f"{where}, {name}",
                remedy="take files of one shape together and the others on their own",
            )
    names = {column for _, table in tables for column in table.frame.columns}
    check_size(sum(table.rows for _, table in tables), len(names) + 1, where)
    stacked, notes = stack([_with_name(name, table) for name, table in tables])
    remarks = [replace(one, message=f"{name}: {one.message}") for name, table in tables for one in table.remarks]
    remarks += [Remark("files-differ", "warning", note) for note in notes]
    return ReadTable(first.name, stacked.frame, stacked.columns(), tuple(_once(remarks)), (first.name,))


def _with_name(name: str, table: ReadTable) -> Rows:
    """Return a table's rows with a first column for the file that they came from."""
    column = FILE_COLUMN if FILE_COLUMN not in table.frame.columns else f"{FILE_COLUMN} name"
    rows = Rows.of_table(table)
    return Rows(table.frame.select(pl.lit(name).alias(column), pl.all()), {column: Field("category"), **rows.fields})


def _once(remarks: list[Remark]) -> list[Remark]:
    """Keep of the same remark on the same column the first, with how many files it stands for."""
    found: dict[str, Remark] = {}
    files: dict[str, int] = {}
    for remark in remarks:
        files[remark.key] = files.get(remark.key, 0) + 1
        found.setdefault(remark.key, remark)
    return [
        replace(one, message=one.message + (f" So in {files[key]} files." if files[key] > 1 else ""))
        for key, one in found.items()
    ]
