"""Edits: what somebody can do to a report, one class each, pure. What they change of the document is found by
``document.differences``."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter, ValidationError

from ypsil.core.registry import classes_in, one_of
from ypsil.core.report.edits.base import Edit, refusal
from ypsil.core.report.edits.tiles import AddTile, ChangeTile, RemoveTile

_ADAPTER: TypeAdapter[Edit] = TypeAdapter(one_of(classes_in(__name__, __file__, Edit)))


def parse_edit(data: Any) -> Edit:
    """Turn JSON data into an edit; raises EditRefused naming what does not fit."""
    try:
        return _ADAPTER.validate_python(data)
    except ValidationError as problem:
        raise refusal(problem) from None


def edit_schema() -> dict[str, Any]:
    """Return the JSON Schema of edits."""
    return _ADAPTER.json_schema()


__all__ = ["AddTile", "ChangeTile", "Edit", "RemoveTile", "edit_schema", "parse_edit"]
