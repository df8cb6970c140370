"""JSON Schemas of the documents that others may write: ``python -m ypsil.core.report.schemas FOLDER``."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from ypsil.core.document.changes import change_schema
from ypsil.core.document.model import Document
from ypsil.core.questions.model import Question
from ypsil.core.report.document import ReportBody
from ypsil.core.report.edits import edit_schema
from ypsil.core.tables.recipe import Recipe
from ypsil.core.visuals import registry_json


def schemas() -> dict[str, Any]:
    """Return each schema by the name of its file."""
    return {
        "question.schema.json": Question.model_json_schema(),
        "report.schema.json": ReportBody.model_json_schema(),
        "document.schema.json": Document.model_json_schema(),
        "change.schema.json": change_schema(),
        "edit.schema.json": edit_schema(),
        "recipe.schema.json": Recipe.model_json_schema(),
        "visuals.json": registry_json(),
    }


def write(folder: Path) -> None:
    """Write all schemas into a folder."""
    for name, schema in schemas().items():
        (folder / name).write_text(json.dumps(schema, indent=1, ensure_ascii=False, sort_keys=True) + "\n")


if __name__ == "__main__":
    write(Path(sys.argv[1]))
