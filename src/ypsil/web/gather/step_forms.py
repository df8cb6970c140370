"""The form of a step, from what the step declares it is told."""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from typing import Any

import polars as pl

from ypsil.core.tables.conditions import Test
from ypsil.core.tables.natural_order import natural_order, words_off_the_scale
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.spellings import alike
from ypsil.core.tables.steps import STEPS, Input, Step, StepRefused
from ypsil.web.gather.models import Table

_MOST_ORDERED = 200
TESTS: tuple[tuple[Test, str], ...] = (
    ("in", "is"),
    ("not_in", "is not"),
    ("contains", "contains"),
    ("at_least", "is at least"),
    ("at_most", "is at most"),
    ("between", "is between (two values)"),
    ("empty", "is missing"),
    ("not_empty", "is present"),
)


def step_form(
    step: Step | None,
    wanted: str,
    rows: Rows,
    others: Sequence[Table],
    columns_in: Callable[[Table], list[str]],
    given: dict[str, str],
) -> dict[str, Any]:
    """Return what the form's template needs; ``columns_in`` names the columns of another table.

    Raises StepRefused when there is no such step.
    """
    made = type(step) if step else next((one for one in STEPS if one.model_fields["type"].default == wanted), None)
    if made is None or not made.inputs:
        raise StepRefused("there is no such step", remedy="load the page again")
    values = {**(step.model_dump(mode="json") if step else {}), **given}
    kind = made.model_fields["type"].default
    fields = [_field(one, values.get(one.name), rows, others) for one in made.inputs]
    proposed = {one.proposes for one in made.inputs}
    if "groups" in proposed:
        _propose_groups(fields, values, rows)
    if "order" in proposed:
        _propose_order(fields, values, rows)
    if "other columns" in proposed:
        _offer_other_columns({field["input"].name: field for field in fields}, values, rows, others, columns_in)
    return {"type": kind, "title": made.title, "purpose": made.purpose, "fields": fields, "tests": TESTS}


def _field(one: Input, value: Any, rows: Rows, others: Sequence[Table]) -> dict[str, Any]:
    fitting = [name for name, field in rows.fields.items() if not one.kinds or field.kind in one.kinds]
    field: dict[str, Any] = {"input": one, "value": "" if value is None else value, "columns": fitting}
    if one.kind == "columns":
        chosen = list(value or [])
        field["columns"] = [(name, name in chosen) for name in [*chosen, *(n for n in fitting if n not in chosen)]]
    elif one.kind == "values":
        field["value"] = "\n".join(str(item) for item in value or [])
    elif one.kind == "table":
        field["tables"] = [(table.uid, table.name) for table in others]
    elif one.kind in ("pairs", "key", "order", "conditions", "groups"):
        field["rows"] = [_row(one, item) for item in value or []] or [{}]
    return field


def _row(one: Input, item: dict[str, Any]) -> dict[str, Any]:
    """Return one row of a repeated field: the two sides of a pair, a condition with its values as text."""
    if one.kind in ("pairs", "key"):
        first, second = list(item.values())[:2]
        return {"first": first, "second": second}
    if one.kind == "conditions":
        return {**item, "text": ", ".join(str(value) for value in item.get("values", ()))}
    if one.kind == "groups":
        return {**item, "lines": "\n".join(item["spellings"]), "ticked": True}
    return item


def _offer_other_columns(
    fields: dict[str, dict[str, Any]],
    values: dict[str, Any],
    rows: Rows,
    others: Sequence[Table],
    columns_in: Callable[[Table], list[str]],
) -> None:
    """Offer the columns of the chosen table: to be matched, and to be brought."""
    fields["table"]["reload"] = True
    chosen = next((table for table in others if table.uid == values.get("table")), next(iter(others), None))
    names = columns_in(chosen) if chosen is not None else []
    shared = next((name for name in rows.names if name in names), None)
    fields["key"]["there"] = names
    if fields["key"]["rows"] == [{}] and shared:
        fields["key"]["rows"] = [{"first": shared, "second": shared}]
    brought = values.get("columns") or []
    fields["columns"]["columns"] = [(name, name in brought) for name in names if name != shared or name in brought]


def _chosen_cells(fields: list[dict[str, Any]], values: dict[str, Any], rows: Rows) -> pl.Series | None:
    """Choose the first column that fits where none is chosen; return its values one by one, without gaps."""
    column = values.get("column") or next(iter(fields[0]["columns"]), "")
    fields[0]["value"] = column
    fields[0]["reload"] = True
    if column not in rows.fields:
        return None
    cells = rows.frame[column]
    return (cells.explode() if rows.fields[column].kind == "list" else cells).drop_nulls()


def _propose_order(fields: list[dict[str, Any]], values: dict[str, Any], rows: Rows) -> None:
    """Offer the values of the chosen column, as far as their order is known, to be put in order."""
    cells = _chosen_cells(fields, values, rows)
    if cells is None or values.get("values"):
        return
    labels = [str(value) for value in cells.unique().head(_MOST_ORDERED).to_list()]
    known, unknown = words_off_the_scale(labels) or (natural_order(labels) or sorted(labels), [])
    fields[1]["value"] = "\n".join([*known, *unknown])


def _propose_groups(fields: list[dict[str, Any]], values: dict[str, Any], rows: Rows) -> None:
    """Offer the groups of like spellings of the chosen column, to be ticked."""
    cells = _chosen_cells(fields, values, rows)
    if cells is None or values.get("groups"):
        return
    counts = {str(value): int(count) for value, count in cells.value_counts().rows()}
    fields[1]["rows"] = [
        {
            "to": group[0],
            "lines": "\n".join(group[1:]),
            "ticked": True,
            "counts": json.dumps([counts[v] for v in group]),
        }
        for group in alike(counts)
    ] or [{}]
