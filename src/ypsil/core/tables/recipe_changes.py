"""Changes of a recipe, one by one: pure, each with the words that say what was done."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ypsil.core.tables.recipe import Recipe, parse_recipe
from ypsil.core.tables.steps import Step, StepRefused
from ypsil.core.tables.theme_changes import change_themes


def change_recipe(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    """Return the recipe after a change, and what the change was in words.

    ``change`` has an ``action``: add (step, at), replace (at, step), remove (at), move (at, to), switch (at, on),
    accept (key, change), leave (key), take_up (key), reading (with some of its settings), show_as (column, shown),
    measured_in (column, unit),
    themes (as change_themes says). Raises StepRefused for what cannot be understood.

    >>> made, said = change_recipe(Recipe(), {"action": "add", "step": {"type": "take", "count": 3}})
    >>> len(made.steps), said
    (1, 'Added: Take the first 3 rows')
    """
    action = _ACTIONS.get(str(change.get("action")))
    if action is None:
        raise StepRefused("nothing says what to change", remedy="load the page again")
    return action(recipe, change)


def _parsed(data: Any) -> Step:
    return parse_recipe({"steps": [data]}).steps[0]


def _with_steps(recipe: Recipe, steps: list[Any]) -> Recipe:
    return parse_recipe({**recipe.model_dump(mode="json"), "steps": [step.model_dump(mode="json") for step in steps]})


def _at(recipe: Recipe, change: dict[str, Any]) -> int:
    place = change.get("at")
    if not isinstance(place, int) or isinstance(place, bool) or not 0 <= place < len(recipe.steps):
        raise StepRefused("there is no such step any more", remedy="load the page again")
    return place


def _add(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    step = _parsed(change.get("step"))
    place = change.get("at")
    steps: list[Any] = list(recipe.steps)
    steps.insert(place if isinstance(place, int) else len(steps), step)
    return _with_steps(recipe, steps), f"Added: {step.sentence()}"


def _replace(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    place = _at(recipe, change)
    old = recipe.steps[place]
    step = _parsed(_with_what_no_form_tells(old, change.get("step")))
    steps: list[Any] = list(recipe.steps)
    steps[place] = step.model_copy(update={"on": old.on, "origin": old.origin})
    return _with_steps(recipe, steps), f"Changed: {step.sentence()}"


def _with_what_no_form_tells(old: Step, given: Any) -> Any:
    """Return a changed step with what its form does not ask for, as it was."""
    if not isinstance(given, dict) or given.get("type") != old.type:
        return given
    asked = {one.name for one in old.inputs}
    kept = {name: value for name, value in old.model_dump(mode="json").items() if name not in asked}
    return {**kept, **given}


def _remove(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    place = _at(recipe, change)
    steps: list[Any] = list(recipe.steps)
    gone = steps.pop(place)
    return _with_steps(recipe, steps), f"Removed: {gone.sentence()}"


def _move(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    place, to = _at(recipe, change), change.get("to")
    steps: list[Any] = list(recipe.steps)
    step = steps.pop(place)
    steps.insert(max(0, min(to, len(steps))) if isinstance(to, int) else place, step)
    return _with_steps(recipe, steps), f"Moved: {step.sentence()}"


def _switch(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    place, on = _at(recipe, change), bool(change.get("on"))
    steps: list[Any] = list(recipe.steps)
    steps[place] = steps[place].model_copy(update={"on": on})
    return _with_steps(recipe, steps), f"Switched {'on' if on else 'off'}: {steps[place].sentence()}"


def _accept(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    """Do what a remark proposes: add its step, or settle how the file is read."""
    key, offered = str(change.get("key", "")), change.get("change") or {}
    if "step" in offered:
        return _add(recipe, {"step": {**offered["step"], "origin": key}})
    return _reading(recipe, {"settings": offered.get("reading", {})})


def _leave(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    """Leave a proposal aside, or, for what was done (``done``), read the file without doing it."""
    key = str(change.get("key", ""))
    if not change.get("done"):
        return recipe.model_copy(update={"set_aside": recipe.set_aside | {key}}), "Left as it is"
    reading = recipe.reading.model_copy(update={"left": recipe.reading.left | {key}})
    return recipe.model_copy(update={"reading": reading}), "Undone: read as it stands in the file"


def _take_up(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    key = str(change.get("key", ""))
    reading = recipe.reading.model_copy(update={"left": recipe.reading.left - {key}})
    return recipe.model_copy(update={"reading": reading, "set_aside": recipe.set_aside - {key}}), "Taken up again"


def _reading(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    data = recipe.model_dump(mode="json")
    for name, value in (change.get("settings") or {}).items():
        old = data["reading"].get(name)
        data["reading"][name] = {**old, **value} if isinstance(old, dict) and isinstance(value, dict) else value or None
    return parse_recipe(data), "The file is read another way"


def _show_as(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    """Let readers see a column under another name; none gives it its usual one again."""
    return _said_of(recipe, "show_as", "shown", change)


def _measured_in(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    """Say what a number column is measured in; nothing takes that back."""
    return _said_of(recipe, "set_unit", "unit", change)


def _said_of(recipe: Recipe, kind: str, name: str, change: dict[str, Any]) -> tuple[Recipe, str]:
    """Put, replace or take away the one step that says something of a column."""
    column, said = str(change.get("column", "")), " ".join(str(change.get(name, "")).split())
    places = [
        index for index, step in enumerate(recipe.steps) if (step.type, getattr(step, "column", "")) == (kind, column)
    ]
    if not said:
        return _remove(recipe, {"at": places[-1]}) if places else (recipe, "As it was")
    step = {"type": kind, "column": column, name: said}
    return _replace(recipe, {"at": places[-1], "step": step}) if places else _add(recipe, {"step": step})


_ACTIONS: dict[str, Callable[[Recipe, dict[str, Any]], tuple[Recipe, str]]] = {
    "add": _add,
    "replace": _replace,
    "remove": _remove,
    "move": _move,
    "switch": _switch,
    "accept": _accept,
    "leave": _leave,
    "take_up": _take_up,
    "reading": _reading,
    "show_as": _show_as,
    "measured_in": _measured_in,
    "themes": change_themes,
}
