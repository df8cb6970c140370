"""A table's recipe: how its files are read and the steps that follow, replayed on every version."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import polars as pl
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ypsil.core.errors import YpsilError
from ypsil.core.tables.calculation import CalculationRefused
from ypsil.core.tables.reading import Reading
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.steps import ALONE, AnyStep, Context, Step, StepRefused

MAX_STEPS = 200


class Recipe(BaseModel):
    """What was chosen for a table. ``set_aside`` names the proposals that were left as they are."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    reading: Reading = Reading()
    steps: tuple[AnyStep, ...] = Field((), max_length=MAX_STEPS)
    set_aside: frozenset[str] = frozenset()

    def digest(self) -> str:
        """Return a key that is the same for recipes that give the same rows."""
        steps = [step.model_dump(mode="json", exclude={"origin"}) for step in self.steps if step.on]
        return hashlib.sha256(f"{self.reading.digest()}{steps!r}".encode()).hexdigest()

    def uses_today(self) -> bool:
        """Tell whether a calculation asks for the day, so that what it gives holds for that day only."""
        texts = [getattr(step, "calculation", None) or "" for step in self.steps if step.on]
        return any("today" in text.lower() for text in texts)

    def other_tables(self) -> list[str]:
        """Return the tables that the steps look into, each once."""
        named = [getattr(step, "table", None) for step in self.steps if step.on]
        return list(dict.fromkeys(name for name in named if name))


@dataclass(frozen=True, slots=True)
class StepResult:
    """How a step went: what is to be said, or why it could not be applied; ``rows`` are those after it.

    ``place`` marks where in its calculation the problem lies.
    """

    rows: Rows
    notes: tuple[str, ...] = ()
    problem: str = ""
    place: tuple[int, int] | None = None


def replay(
    rows: Rows,
    steps: tuple[Step, ...],
    context: Context = ALONE,
    progress: Callable[[float], None] | None = None,
) -> list[StepResult]:
    """Apply steps one after the other. One that is off, or cannot be applied, leaves the rows as they are."""
    results = []
    for position, step in enumerate(steps):
        if progress:
            progress(position / len(steps))
        result = _one(rows, step, context) if step.on else StepResult(rows)
        rows = result.rows
        results.append(result)
    return results


def _one(rows: Rows, step: Step, context: Context) -> StepResult:
    try:
        applied = step.apply(rows, context)
    except YpsilError as problem:
        place = (problem.start, problem.end) if isinstance(problem, CalculationRefused) else None
        return StepResult(rows, problem=problem.line(), place=place)
    except pl.exceptions.PolarsError as problem:
        # A combination that no rule foresaw: the step is passed over and says so.
        return StepResult(rows, problem=f"this step does not fit these values ({str(problem).splitlines()[0][:80]})")
    return StepResult(applied.rows, applied.notes)


def parse_recipe(data: Any) -> Recipe:
    """Turn JSON data into a Recipe; raises StepRefused naming the place that does not fit."""
    try:
        return Recipe.model_validate(data)
    except ValidationError as problem:
        first = problem.errors()[0]
        path = [part for part in first["loc"] if part not in ("steps", "reading")]
        place = " ".join(f"step {part + 1}" if isinstance(part, int) else str(part) for part in path[-3:])
        message = str(first["msg"]).removeprefix("Value error, ")
        raise StepRefused(message[0].lower() + message[1:], where=place, remedy="fill it in") from None
