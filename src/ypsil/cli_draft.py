"""The command ``draft``: a first page of tables."""

from __future__ import annotations

import argparse
import hashlib
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from ypsil.core.errors import YpsilError

if TYPE_CHECKING:
    # What a command does not need is not imported (0.7 s for a small file).
    from ypsil.core.draft import Draft, Subject
    from ypsil.core.tiles import ReportTable

# What people call a format, and the one of its kind that is meant.
FORMATS = {
    "tall": "tall",
    "dashboard": "dashboard-16x9",
    "print": "a4",
    "slides": "slide-16x9",
    "post": "post-square",
}


def add_draft_options(command: argparse.ArgumentParser) -> None:
    command.add_argument("files", metavar="TABLE", nargs="+")
    command.add_argument("--format", choices=tuple(FORMATS), default="tall")
    command.add_argument("--title", metavar="T", default="")
    command.add_argument("--out", required=True, metavar="X.ypsil|pdf|png|jpg|svg")


def draft_file(parsed: argparse.Namespace, read: Callable[[str], bytes]) -> tuple[bytes, dict[str, Any]]:
    """Return the file that is wanted, and what is said of it; ``read`` gets the bytes of a file by its name."""
    from ypsil.core.document.page_formats import PAGE_FORMATS
    from ypsil.core.draft import draft
    from ypsil.core.package import Package, package_of
    from ypsil.core.package.building import Wanted, build
    from ypsil.core.report import ReportBody
    from ypsil.core.tables.shown_names import in_words

    subjects = [_subject(path, place, read(path)) for place, path in enumerate(parsed.files)]
    page = PAGE_FORMATS[FORMATS[parsed.format]].page
    like = ReportBody(title=parsed.title or in_words(subjects[0].table.name) or "Draft", page=page)
    made = draft(subjects, like, parsed.title)
    tables = {subject.key: subject.table for subject in subjects}
    ending = Path(parsed.out).suffix.removeprefix(".").lower()
    if ending == "ypsil":
        content = package_of(made.body, tables)
    else:
        content = build(Package(made.body, tables, {}), ending, Wanted()).content
    return content, _said(made, parsed, tables)


def _subject(path: str, place: int, data: bytes) -> Subject:
    from ypsil.core.draft import Subject
    from ypsil.core.tables.profile import profile
    from ypsil.core.tables.read import read_table
    from ypsil.core.tables.rows import Rows
    from ypsil.core.tiles import ReportTable

    found = read_table(data, path)
    if not found.columns or not found.frame.height:
        raise YpsilError("there are no rows to show", where=Path(path).name, remedy="give a table with rows")
    rows = Rows.of_table(found)
    columns = rows.columns()
    digest = hashlib.sha256(data).hexdigest()
    source = f"{found.name} ({Path(path).name}, {rows.frame.height:,} rows)"
    table = ReportTable(found.name, columns, lambda: rows.frame, digest, source)
    return Subject(f"t{place + 1}", table, profile(rows.frame, columns))


def _said(made: Draft, parsed: argparse.Namespace, tables: dict[str, ReportTable]) -> dict[str, Any]:
    from ypsil.core.questions.sentence import sentence
    from ypsil.core.render import context_of
    from ypsil.core.tiles import as_visual

    context = context_of(made.body, tables)
    tiles = []
    for band in made.body.bands:
        for tile in band.tiles:
            shown = as_visual(tile)
            writes = tile.writes(context)
            said = sentence(shown.question) if shown else writes.spoken(context) if writes is not None else None
            tiles.append(
                {
                    "id": tile.id,
                    "band": band.message,
                    "type": tile.type,
                    "visual": shown.visual if shown else None,
                    "sentence": said,
                    "why": made.why.get(tile.id, ""),
                }
            )
    return {
        "template": None,
        "format": parsed.format,
        "title": made.body.title,
        "tiles": tiles,
        "left_out": [{"table": one.table, "column": one.column, "why": one.why} for one in made.left_out],
        "out": parsed.out,
    }
