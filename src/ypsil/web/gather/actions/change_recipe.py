"""Change the steps of a table, or take a change of them back."""

from __future__ import annotations

from typing import Any

from ypsil.web.accounts.services import User
from ypsil.web.gather import recipes
from ypsil.web.gather.models import Arrival
from ypsil.web.gather.recipe_log import step_through
from ypsil.web.gather.services import table_for

_STEPS = {"undo": -1, "redo": 1}


def change_recipe(asker: User, uid: str, wanted: dict[str, Any]) -> tuple[str, Arrival | None]:
    """Make a change of a table's recipe; return what was done, and the background work where it takes long.

    Raises StepRefused or UnreadableFile, with nothing changed.
    """
    table = table_for(asker, uid)
    if wanted.get("action") in _STEPS:
        return step_through(table, _STEPS[wanted["action"]]), None
    return recipes.change(table, asker, wanted)
