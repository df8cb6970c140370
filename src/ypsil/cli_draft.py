"""The commands ``draft`` and ``templates``: a first page of tables, and what it could look like."""

from __future__ import annotations

import argparse
import hashlib
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from ypsil.core.errors import YpsilError

if TYPE_CHECKING:
    # What a command does not need is not imported (0.7 s for a small file).
    from ypsil.core.document.model import PageFormat
    from ypsil.core.draft import Draft, Subject
    from ypsil.core.report import ReportBody
    from ypsil.core.templates import Template
    from ypsil.core.tiles import ReportTable

# As in core.document.page_formats, which is not imported for the names alone.
_KINDS_OF_PAGE = ("tall", "dashboard", "print", "slides", "post")


def add_draft_options(command: argparse.ArgumentParser) -> None:
    command.add_argument("files", metavar="TABLE", nargs="+")
    says = "one of those that `ypsil templates` lists, or a .json file of one"
    command.add_argument("--template", metavar="NAME", default="", help=says)
    command.add_argument("--format", choices=_KINDS_OF_PAGE, default="", help="left out: tall, or as the template is")
    command.add_argument("--title", metavar="T", default="")
    command.add_argument("--out", required=True, metavar="X.ypsil|pdf|png|jpg|svg")


def draft_file(parsed: argparse.Namespace, read: Callable[[str], bytes]) -> tuple[bytes, dict[str, Any]]:
    """Return the file that is wanted, and what is said of it; ``read`` gets the bytes of a file by its name."""
    from ypsil.core.document.page_formats import KINDS_OF_PAGE, PAGE_FORMATS
    from ypsil.core.draft import draft, joined
    from ypsil.core.package import Package, package_of
    from ypsil.core.package.building import Wanted, build
    from ypsil.core.report import ReportBody
    from ypsil.core.tables.shown_names import in_words
    from ypsil.core.templates import page_of

    template = _template(parsed.template, read)
    subjects, said = joined([_subject(path, place, read(path)) for place, path in enumerate(parsed.files)])
    # A template of a kind of page has a page of its own, as an experiment is printed on a large sheet.
    is_own = not parsed.format or (template is not None and parsed.format == template.format)
    named = PAGE_FORMATS[KINDS_OF_PAGE[parsed.format or "tall"]].page
    page = page_of(template) if template is not None and is_own else named
    like = ReportBody(title=parsed.title or in_words(subjects[0].table.name) or "Draft", page=page)
    made = draft(subjects, like, parsed.title) if template is None else _filled(template, subjects, like, parsed)
    tables = {subject.key: subject.table for subject in subjects}
    ending = Path(parsed.out).suffix.removeprefix(".").lower()
    if ending == "ypsil":
        content = package_of(made.body, tables)
    else:
        content = build(Package(made.body, tables, {}), ending, Wanted()).contents[0]
    told = _said(made, parsed, tables)
    told["joined"] = [{"table": one.table, "added": one.added, "by": one.by} for one in said]
    return content, told


def templates_json(files: list[str], read: Callable[[str], bytes]) -> list[dict[str, Any]]:
    """Return the templates, those that fit the tables first; without tables nothing is said of fitting."""
    from ypsil.core.draft import joined
    from ypsil.core.templates import match, templates

    subjects, _ = joined([_subject(path, place, read(path)) for place, path in enumerate(files)])
    listed = []
    for template in templates().values():
        found = match(template, subjects) if subjects else None
        listed.append(
            {
                "name": template.name,
                "title": template.title,
                "purpose": template.purpose,
                "structure": template.structure,
                "says": template.says,
                "formats": [*template.formats],
                "needs": [{"role": one.role, "kind": one.kind, "required": one.required} for one in template.needs],
                "fits": found.fits if found else None,
                "roles": found.roles if found else {},
                "why": {one.need.role: one.why for one in found.played} if found else {},
                "missing": [*found.missing] if found else [],
            }
        )
    return sorted(listed, key=lambda one: one["fits"] is False)


def _template(name: str, read: Callable[[str], bytes]) -> Template | None:
    """Return a shipped template, or that of a file."""
    if not name:
        return None
    from ypsil.core.templates import template_called, template_from

    return template_from(read(name)) if name.lower().endswith(".json") else template_called(name)


def _filled(template: Template, subjects: list[Subject], like: ReportBody, parsed: argparse.Namespace) -> Draft:
    """Return a template with the tables in it; one that does not fit is told with those that do."""
    from ypsil.core.templates import filled, match, templates

    if match(template, subjects).missing:
        able = [name for name, one in templates().items() if match(one, subjects).fits]
        remedy = f"these fit: {', '.join(able)}" if able else "leave the template out"
        missing = ", ".join(match(template, subjects).missing)
        raise YpsilError(f"the template “{template.name}” needs {missing}", remedy=remedy)
    return filled(template, subjects, like, parsed.title)


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


def _format_of(page: PageFormat) -> str:
    """Return the kind of page that a page format is."""
    from ypsil.core.document.page_formats import PAGE_FORMATS, name_of

    group = PAGE_FORMATS[name_of(page)].group
    return {"Infographic": "tall", "Dashboard": "dashboard", "Slides": "slides", "Post": "post"}.get(group, "print")


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
        "template": parsed.template or None,
        "format": parsed.format or _format_of(made.body.page),
        "title": made.body.title,
        "tiles": tiles,
        "left_out": [{"table": one.table, "column": one.column, "why": one.why} for one in made.left_out],
        "out": parsed.out,
    }
