"""What the table's page shows beside the grid: remarks, steps, versions, credits."""

from __future__ import annotations

import json
from typing import Any

from django.conf import settings
from django.db.models.functions import Length

from ypsil.core.tables.model import Column
from ypsil.core.tables.reading import ENCODING_NAMES, SEPARATOR_NAMES
from ypsil.core.tables.remark_titles import title_of
from ypsil.core.tables.steps import STEPS, Step
from ypsil.core.tables.steps.texts import FindThemes
from ypsil.web.compose.services import users_of
from ypsil.web.gather.grid import SIGNS, spread_svg, unit_to_show
from ypsil.web.gather.models import Preparation, Table, Version
from ypsil.web.gather.preparing import base, columns_of
from ypsil.web.gather.recipe_log import can_step

KIND_WORDS = {
    "number": "number",
    "category": "category",
    "text": "text",
    "date": "date",
    "place": "place",
    "yesno": "yes or no",
    "list": "list of answers",
}


def margin_context(table: Table, version: Version, preparation: Preparation) -> dict[str, Any]:
    """Return what the margin's templates need; ``preparation`` is the version under the table's recipe."""
    recipe = table.read_recipe()
    first = base(version, recipe.reading)
    undo, redo = can_step(table)
    accepted = {step.origin for step in recipe.steps if step.origin}
    remarks = [_remark(remark, accepted, recipe.set_aside) for remark in first.remarks]
    return {
        "table": table,
        "version": version,
        "preparation": preparation,
        "base": first,
        "is_current": version.pk == table.current_id,
        "open": [remark for remark in remarks if not _is_settled(remark)],
        "done": [remark for remark in remarks if _is_settled(remark)],
        "left": [(key, title_of(key), _change("take_up", key=key)) for key in sorted(recipe.reading.left)],
        "steps": _steps(recipe.steps, preparation),
        "kinds_of_step": [(one.model_fields["type"].default, one.title, one.purpose) for one in STEPS if one.inputs],
        "versions": list(table.versions.annotate(size=Length("original__content"))),
        "kept_versions": settings.KEPT_VERSIONS,
        "users": users_of(table.owner, table.uid),
        "can_undo": undo,
        "can_redo": redo,
        "reading": _reading_choices(first, recipe.reading.encoding, recipe.reading.separator),
    }


def _change(action: str, **more: Any) -> str:
    return json.dumps({"action": action, **more})


def _remark(data: dict[str, Any], accepted: set[str], set_aside: frozenset[str]) -> dict[str, Any]:
    """Return a remark with what can be done about it as it stands now."""
    key = f"{data['code']}/{data['column']}" if data.get("column") else data["code"]
    state = data.get("state", "noted")
    standing = "accepted" if key in accepted else "aside" if key in set_aside else state
    offers = [
        (offer["label"], _change("accept", key=key, change=offer["change"]))
        for offer in data.get("offers", ())
        if standing in ("proposed", "done")
    ]
    leave = {"proposed": _change("leave", key=key), "done": _change("leave", key=key, done=True)}.get(standing)
    return {
        **data,
        "key": key,
        "standing": standing,
        "offers": offers,
        "leave": leave,
        "take_up": _change("take_up", key=key) if standing == "aside" else None,
    }


def _is_settled(remark: dict[str, Any]) -> bool:
    """What was put right for certain, or has been decided, needs no more looking at."""
    return remark["standing"] in ("accepted", "aside") or (
        remark["standing"] == "done" and remark["severity"] == "info"
    )


def _steps(steps: tuple[Step, ...], preparation: Preparation) -> list[dict[str, Any]]:
    results = iter(preparation.results)
    found = []
    for at, step in enumerate(steps):
        result = next(results, {"notes": [], "problem": ""}) if step.on else {"notes": [], "problem": ""}
        found.append(
            {
                "at": at,
                "after": at + 1,
                "sentence": step.sentence(),
                "on": step.on,
                "notes": result["notes"],
                "problem": result["problem"],
                "editable": bool(step.inputs),
                "themes": step.into if isinstance(step, FindThemes) else "",
                "switch": _change("switch", at=at, on=not step.on),
                "remove": _change("remove", at=at),
                "up": _change("move", at=at, to=at - 1) if at else None,
                "down": _change("move", at=at, to=at + 1) if at + 1 < len(steps) else None,
            }
        )
    return found


def _reading_choices(first: Preparation, encoding: str | None, separator: str | None) -> dict[str, Any]:
    """Return how the file was read and how it could be read, where the file leaves that open."""
    return {
        "encoding": [(key, name, key == first.encoding) for key, name in ENCODING_NAMES.items()]
        if first.encoding
        else [],
        "separator": [(key, name, key == first.separator) for key, name in SEPARATOR_NAMES.items()]
        if first.separator
        else [],
        "sheets": first.sheets if len(first.sheets) > 1 else [],
        "chosen": bool(encoding or separator),
    }


def column_heads(preparation: Preparation) -> list[dict[str, Any]]:
    """Return the columns as the grid heads them."""
    return [_head(column, preparation) for column in columns_of(preparation)]


def _head(column: Column, preparation: Preparation) -> dict[str, Any]:
    found = preparation.spreads.get(column.name, {})
    part = column.missing / preparation.row_count if preparation.row_count else 0.0
    return {
        "name": column.name,
        "kind": column.kind,
        "kind_word": KIND_WORDS[column.kind],
        "sign": SIGNS[column.kind],
        "unit": unit_to_show(column),
        "missing": column.missing,
        "distinct": column.distinct,
        "svg": spread_svg(tuple(found.get("bars", ())), round(part, 3)),
        "number": column.kind == "number",
    }
