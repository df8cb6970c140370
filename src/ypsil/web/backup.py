"""A folder of data as one file, while it is being served, and back into a folder again."""

from __future__ import annotations

import io
import json
import os
import sqlite3
import tempfile
import zipfile
from contextlib import closing
from pathlib import Path

from ypsil.core.errors import YpsilError
from ypsil.core.tables.extent import BROKEN_ARCHIVE

_DATABASE, _KEY, _ABOUT = "ypsil.sqlite3", "secret_key", "backup.json"
_FORM = 1


def back_up(home: Path, target: Path) -> dict[str, int]:
    """Write all that a folder holds to one file, as it is at one moment; return the size of the database in bytes.

    Others may go on writing. The file is written whole or not at all. Raises YpsilError where there is nothing to keep.
    """
    database = home / _DATABASE
    if not database.exists():
        raise YpsilError("there is no data in this folder", where=str(home), remedy="name another in YPSIL_HOME")
    with tempfile.TemporaryDirectory(dir=target.resolve().parent, prefix=".backup-") as folder:
        copy, packed = Path(folder) / _DATABASE, Path(folder) / "packed"
        with closing(sqlite3.connect(database)) as source, closing(sqlite3.connect(copy)) as made:
            # All pages in one step: a copy of one moment, whoever writes meanwhile.
            source.backup(made)
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr(_ABOUT, json.dumps({"form": _FORM}))
            archive.write(copy, _DATABASE)
            if (home / _KEY).exists():
                archive.write(home / _KEY, _KEY)
        packed.chmod(0o600)
        packed.replace(target)
        return {"bytes": copy.stat().st_size}


def restore(source: Path, home: Path) -> None:
    """Put what a backup holds into a folder that has no data yet; nobody may be serving it.

    Raises YpsilError for a file that is no backup, or is damaged, and for a folder that has data.
    """
    if (home / _DATABASE).exists():
        raise YpsilError(
            "this folder has data already",
            where=str(home),
            remedy="name an empty one in YPSIL_HOME; nothing was changed",
        )
    try:
        with zipfile.ZipFile(io.BytesIO(source.read_bytes())) as archive:
            held = {name: archive.read(name) for name in (_ABOUT, _DATABASE, _KEY) if name in archive.namelist()}
        about = json.loads(held[_ABOUT])
        database = held[_DATABASE]
    except BROKEN_ARCHIVE:
        raise YpsilError("this is not a backup of Ypsil", where=source.name, remedy="choose another file") from None
    if about.get("form") != _FORM:
        raise YpsilError("this backup is of a later program", where=source.name, remedy="bring the program up to date")
    beside = home / f"{_DATABASE}.coming"
    try:
        _write(beside, database)
        _check(beside, source.name)
        if _KEY in held:
            _write(home / _KEY, held[_KEY])
        beside.replace(home / _DATABASE)
    finally:
        beside.unlink(missing_ok=True)


def _write(path: Path, data: bytes) -> None:
    with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
        file.write(data)


def _check(database: Path, where: str) -> None:
    try:
        with closing(sqlite3.connect(database)) as opened:
            (said,) = opened.execute("PRAGMA integrity_check").fetchone()
    except sqlite3.DatabaseError:
        said = "no database"
    if said != "ok":
        raise YpsilError("the data in this backup is damaged", where=where, remedy="choose another backup")
