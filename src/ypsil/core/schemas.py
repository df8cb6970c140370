"""What the docs say of the models and the registries: ``python -m ypsil.core.schemas FOLDER``."""

from __future__ import annotations

import json
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from ypsil.core.document.changes import change_schema
from ypsil.core.document.model import Document
from ypsil.core.export import FORMATS
from ypsil.core.package.tables import TableSchema
from ypsil.core.proof import CHECKS
from ypsil.core.questions.model import Question
from ypsil.core.report.document import ReportBody
from ypsil.core.report.edits import edit_schema
from ypsil.core.tables.recipe import Recipe
from ypsil.core.tables.steps import STEPS
from ypsil.core.templates import Template
from ypsil.core.tiles import KINDS
from ypsil.core.visuals import VISUALS, Visual, registry_json


def schemas() -> dict[str, Any]:
    """Return each schema by the name of its file."""
    return {
        "question.schema.json": Question.model_json_schema(),
        "report.schema.json": ReportBody.model_json_schema(),
        "document.schema.json": Document.model_json_schema(),
        "change.schema.json": change_schema(),
        "edit.schema.json": edit_schema(),
        "package.schema.json": TableSchema.model_json_schema(),
        "recipe.schema.json": Recipe.model_json_schema(),
        "template.schema.json": Template.model_json_schema(),
        "visuals.json": registry_json(),
    }


def what_there_is() -> str:
    """Return the lists of all that stands in a registry, as a page of the docs."""
    families: dict[str, list[Visual]] = {}
    for entry in VISUALS.values():
        families.setdefault(entry.draw.__module__.split(".")[-2], []).append(entry)
    parts = [_INTRODUCTION, "## Visuals\n"]
    for family, entries in sorted(families.items()):
        rows = [(entry.label, entry.purpose, f"`{entry.name}`") for entry in entries]
        parts.append(f"### {family.capitalize()}\n\n" + _table(("visual", "shows", "name"), rows))
    steps = [(step.title, step.purpose, f"`{step.model_fields['type'].default}`") for step in STEPS]
    parts.append("## Steps of a table\n\n" + _table(("step", "for", "type"), steps))
    kinds = [(*_first_line(one).split(": ", 1), f"`{name}`") for name, one in KINDS.items()]
    parts.append("## Kinds of tiles\n\n" + _table(("kind", "is", "type"), kinds))
    checks = [(check.name, _first_line(check.find), check.source) for check in CHECKS]
    parts.append("## Checks before a page goes out\n\n" + _table(("check", "finds", "source"), checks))
    formats = [(one.label, one.media_type, f"`.{one.ending}`") for one in FORMATS.values()]
    parts.append("## File formats\n\n" + _table(("format", "media type", "ending"), formats))
    return "\n".join(parts)


_INTRODUCTION = """# What there is

Made from the registries by `make schemas`; a test fails when it is out of date. Each entry is one file in its room of
`src/ypsil/core`; a new file is all that a new entry takes, and its test.
"""


def _first_line(made: Any) -> str:
    """Return what the module that something is made in says of itself."""
    return (sys.modules[made.__module__].__doc__ or "").strip().split("\n")[0].rstrip(".")


def _table(heads: tuple[str, ...], rows: Sequence[tuple[str, ...]]) -> str:
    lines = [heads, tuple("---" for _ in heads), *rows]
    return "".join(f"| {' | '.join(cell.replace('|', '/') for cell in line)} |\n" for line in lines)


def write(folder: Path) -> None:
    """Write all schemas and the lists into a folder."""
    for name, schema in schemas().items():
        (folder / name).write_text(json.dumps(schema, indent=1, ensure_ascii=False, sort_keys=True) + "\n")
    (folder / "what-there-is.md").write_text(what_there_is())


if __name__ == "__main__":
    write(Path(sys.argv[1]))
