"""The columns of a question whose columns are put below each other."""

from __future__ import annotations

from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Stack
from ypsil.core.tables.model import Column, Kind
from ypsil.core.tables.name_parts import own_parts

# Short answers and long ones are all something written.
WRITTEN = frozenset({"text", "category", "place"})


def _held(column: Column) -> str:
    return "time of day" if column.form == "time" else column.kind


def stacked_columns(known: dict[str, Column], stack: Stack) -> dict[str, Column]:
    """Return the columns that a question has after stacking; raises QuestionRefused where they do not go together."""
    for name in (stack.name, stack.value):
        if name in known and name not in stack.columns:
            raise QuestionRefused(f"there is a column “{name}” already", remedy="name the stacked ones otherwise")
    kinds = {known[name].kind for name in stack.columns}
    are_times = {known[name].form == "time" for name in stack.columns}
    if (len(kinds) > 1 and not kinds <= WRITTEN) or len(are_times) > 1:
        held = ", ".join(f"“{name}” {_held(known[name])}" for name in stack.columns)
        raise QuestionRefused(
            f"columns that are stacked hold the same kind, and these hold {held}", remedy="leave some out"
        )
    first = known[stack.columns[0]]
    order = next((known[name].order for name in stack.columns if known[name].order), ())
    made = {name: column for name, column in known.items() if name not in stack.columns}
    made[stack.name] = Column(stack.name, "category", order=own_parts(stack.columns))
    kind: Kind = first.kind if len(kinds) == 1 else "text"
    made[stack.value] = Column(stack.value, kind, first.unit, form=first.form, order=order)
    return made
