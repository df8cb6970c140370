"""The templates that Ypsil ships: one file each, in the order in which they are shown."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from ypsil.core.errors import YpsilError
from ypsil.core.templates.model import Template

ORDER = (
    "month-in-figures", "snapshot", "year-in-numbers", "survey-results", "one-question", "exit-notes", "two-sides",
    "process", "timeline", "ranked-list", "place-by-place", "experiment", "how-to", "table-and-lessons",
    "slide-summary", "leaflet", "meeting", "from-a-topic",
)  # fmt: skip
_FOLDER = Path(__file__).parent


@cache
def templates() -> dict[str, Template]:
    """Return the shipped templates by their names."""
    return {name: Template.model_validate_json((_FOLDER / f"{name}.json").read_bytes()) for name in ORDER}


def template_called(name: str) -> Template:
    """Return a shipped template; raises YpsilError where there is none of the name."""
    found = templates().get(name)
    if found is None:
        raise YpsilError(f"there is no template “{name}”", remedy=f"choose one of {', '.join(ORDER)}")
    return found
