"""A report with its tables and pictures as one file. The same report gives the same bytes."""

from __future__ import annotations

import io
import json
import re
import unicodedata
import zipfile
from collections.abc import Mapping

from ypsil.core.drawing.pictures import Picture
from ypsil.core.package.names import renamed
from ypsil.core.package.tables import TableSchema
from ypsil.core.report.document import ReportBody
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.write import write_table
from ypsil.core.tiles import ReportTable

# The first moment that a zip knows (APPNOTE.TXT, 4.4.6): when a file was packed says nothing of what is in it.
_NO_MOMENT = (1980, 1, 1, 0, 0, 0)
_ENDINGS = {"image/png": "png", "image/jpeg": "jpg", "image/svg+xml": "svg"}


def package_of(
    report: ReportBody, tables: Mapping[str, ReportTable], pictures: Mapping[str, Picture] | None = None
) -> bytes:
    """Return a package of a report with the tables that it asks and the pictures that it shows."""
    used = [name for name in report.tables() if name in tables]
    names = _file_names([(key, tables[key].name) for key in used])
    files = {"report.json": _json(renamed(report.as_json(), names))}
    for key in used:
        table = tables[key]
        files[f"tables/{names[key]}.csv"] = write_table(Rows.of(table.frame(), table.columns), "csv")
        schema = TableSchema.of(table.name, table.source, table.columns)
        files[f"tables/{names[key]}.json"] = _json(schema.model_dump(mode="json", exclude_defaults=True))
    for name in report.pictures():
        picture = (pictures or {}).get(name)
        if picture is not None:
            files[f"pictures/{picture.digest}.{_ENDINGS[picture.media_type]}"] = picture.content
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:
        for path, content in files.items():
            info = zipfile.ZipInfo(path, _NO_MOMENT)
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, content)
    return buffer.getvalue()


def _json(data: object) -> bytes:
    return (json.dumps(data, ensure_ascii=False, indent=1) + "\n").encode()


def _file_names(tables: list[tuple[str, str]]) -> dict[str, str]:
    """Return a name for the file of each table, after what the table is called, each once.

    >>> _file_names([("a1", "Visits & loans"), ("b2", "Visits, loans"), ("c3", "…")])
    {'a1': 'visits-loans', 'b2': 'visits-loans-2', 'c3': 'table'}
    """
    found: dict[str, str] = {}
    for key, name in tables:
        plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
        stem = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60] or "table"
        same = [one for one in found.values() if one == stem or one.startswith(f"{stem}-")]
        found[key] = f"{stem}-{len(same) + 1}" if stem in found.values() else stem
    return found
