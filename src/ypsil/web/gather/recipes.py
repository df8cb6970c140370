"""Changing a table's recipe: each change is kept, can be undone, and shows at once."""

from __future__ import annotations

from typing import Any

from ypsil.core.errors import YpsilError
from ypsil.core.tables.compare import find_key
from ypsil.core.tables.convert import as_text, convert
from ypsil.core.tables.model import KINDS
from ypsil.core.tables.recipe import Recipe
from ypsil.core.tables.recipe_changes import change_recipe
from ypsil.core.tables.steps import StepRefused
from ypsil.web.accounts.services import User
from ypsil.web.gather import arrivals
from ypsil.web.gather.models import Arrival, Table
from ypsil.web.gather.preparing import prepared, rows_of
from ypsil.web.gather.recipe_log import refuse_new_problems, save_recipe

# Tables with more rows, or longer files that must be read again, are prepared in the background.
PREPARE_AT_ONCE_ROWS = 300_000


def change(table: Table, user: User, wanted: dict[str, Any]) -> tuple[str, Arrival | None]:
    """Make a change of a table's recipe; return what was done, and the background work where it takes long.

    Raises StepRefused or UnreadableFile, with nothing changed, when a new step cannot be applied.
    """
    recipe = table.read_recipe()
    if wanted.get("action") == "correct":
        wanted = {"action": "add", "step": _correction(table, wanted)}
    made, said = change_recipe(recipe, wanted)
    if _takes_long(table, recipe, made):
        return said, arrivals.apply_in_background(table, user, made, said)
    refuse_new_problems(table, made, prepared(table, recipe=made))
    save_recipe(table, user, made, said)
    return said, None


def _takes_long(table: Table, recipe: Recipe, made: Recipe) -> bool:
    assert table.current is not None
    if made.digest() == recipe.digest():
        return False
    if made.reading != recipe.reading:
        size = table.current.original.content
        return len(size) > arrivals.READ_AT_ONCE_BYTES
    return prepared(table).row_count > PREPARE_AT_ONCE_ROWS


def _correction(table: Table, wanted: dict[str, Any]) -> dict[str, Any]:
    """Return the step that sets one cell right, with the key that finds its row again where there is one."""
    assert table.current is not None
    rows = rows_of(prepared(table))
    name, row = str(wanted.get("column")), wanted.get("row")
    if name not in rows.fields or not isinstance(row, int) or not 1 <= row <= rows.frame.height:
        raise StepRefused("there is no such cell any more", remedy="load the page again")

    def text(column: str) -> str | None:
        found: str | None = as_text(rows.frame[column].slice(row - 1, 1), rows.fields[column])[0]
        return found

    key = [column for column in find_key(rows, rows, rows.names) if column != name]
    alone = bool(key) and name not in find_key(rows, rows, rows.names)
    value = str(wanted.get("value") or "").strip() or None
    step: dict[str, Any] = {"type": "correct_cell", "column": name, "value": value, "was": text(name)}
    return step | ({"key": {column: text(column) for column in key}} if alone else {"row": row})


def kind_change(table: Table, column: str, kind: str) -> list[tuple[str, int]]:
    """Return the values that would become missing when a column is read as another kind, with their counts."""
    assert table.current is not None
    rows = rows_of(prepared(table))
    if column not in rows.fields or kind not in KINDS:
        raise YpsilError("there is no such column or kind", remedy="load the page again")
    return list(convert(rows.frame[column], rows.fields[column], kind).unfit)
