"""What every step of preparing a table is: data that can be kept, said and applied."""

from __future__ import annotations

import datetime as dt
import difflib
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any, ClassVar, Literal

import polars as pl
from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.errors import YpsilError
from ypsil.core.figures import format_number
from ypsil.core.tables.rows import Rows

Name = str
InputKind = Literal[
    "column", "columns", "all_columns", "new_name", "text", "number", "choice", "values", "pairs", "groups",
    "calculation", "conditions", "table", "key", "other_columns", "order", "yesno",
]  # fmt: skip
ROW_LIMIT = 10_000_000


class StepRefused(YpsilError):
    """A step that cannot be applied to the table as it stands; ``place`` marks where in its calculation."""

    def __init__(self, what: str, *, where: str = "", remedy: str = "", place: tuple[int, int] | None = None) -> None:
        super().__init__(what, where=where, remedy=remedy)
        self.place = place


@dataclass(frozen=True, slots=True)
class Input:
    """Something a step is told: its name, its words, what is put in, and which kinds of column fit.

    ``proposes`` tells that there is something to begin with: groups of like spellings or a known order of the values in
    the column that is chosen first, or the columns of the other table.
    """

    name: str
    label: str
    kind: InputKind
    kinds: tuple[str, ...] = ()
    choices: tuple[tuple[str, str], ...] = ()
    optional: bool = False
    hint: str = ""
    proposes: Literal["", "groups", "order", "other columns"] = ""


@dataclass(frozen=True, slots=True)
class Context:
    """What steps may ask for beyond their own table: other tables, and the day of preparing."""

    table: Callable[[str], tuple[str, Rows]]
    today: dt.date = field(default_factory=lambda: dt.date.today())


def no_other_tables(uid: str) -> tuple[str, Rows]:
    raise StepRefused("there is no other table to look into", remedy="take this step away")


ALONE = Context(no_other_tables)


@dataclass(frozen=True, slots=True)
class Applied:
    """The rows after a step, and what is to be said about them."""

    rows: Rows
    notes: tuple[str, ...] = ()


class Step(BaseModel):
    """One operation in preparing a table. ``on`` is its switch; ``origin`` is the remark it was accepted from."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    # Its place among the steps that are offered.
    offered_at: ClassVar[int] = 1000
    title: ClassVar[str]
    purpose: ClassVar[str]
    inputs: ClassVar[tuple[Input, ...]]

    type: str
    on: bool = True
    origin: str | None = Field(None, max_length=300)

    def apply(self, rows: Rows, context: Context) -> Applied:
        """Return the rows after this step. Raises StepRefused, naming what the rows lack."""
        raise NotImplementedError

    def sentence(self) -> str:
        """Return the step as a readable sentence, without a full stop."""
        raise NotImplementedError


def need(rows: Rows, names: Iterable[str]) -> None:
    """Raise StepRefused when a column is not there, naming the nearest one."""
    for name in names:
        if name in rows.fields:
            continue
        near = difflib.get_close_matches(name, rows.names, n=1, cutoff=0.6)
        remedy = f"did you mean “{near[0]}”?" if near else "choose one of the columns that are there"
        raise StepRefused(f"there is no column “{name}” here", remedy=remedy)


def need_kind(rows: Rows, name: str, *kinds: str) -> None:
    """Raise StepRefused when a column is not there or holds something else."""
    need(rows, [name])
    if rows.fields[name].kind not in kinds:
        raise StepRefused(
            f"“{name}” holds {rows.fields[name].kind}, and {' or '.join(kinds)} is needed",
            remedy="choose another column, or change its kind first",
        )


def need_free(rows: Rows, name: str, *, but: Iterable[str] = ()) -> str:
    """Return a new column's name, trimmed; raises StepRefused when it is empty or taken."""
    name = " ".join(name.split())
    if not name:
        raise StepRefused("the new column has no name", remedy="give it one")
    if name in rows.fields and name not in set(but):
        raise StepRefused(f"there is a column “{name}” already", remedy="give the new one another name")
    return name


def quoted(names: Iterable[Any], most: int = 4) -> str:
    """Return names as a readable list, shortened.

    >>> quoted(["A", "B"]), quoted("ABCDEF", 3)
    ('“A” and “B”', '“A”, “B” … (6)')
    """
    said = [f"“{name}”" for name in names]
    if len(said) > most:
        return ", ".join(said[: most - 1]) + f" … ({len(said)})"
    return said[0] if len(said) == 1 else ", ".join(said[:-1]) + " and " + said[-1] if said else "nothing"


def rows_said(count: int) -> str:
    """Return a number of rows in words.

    >>> rows_said(1), rows_said(1200)
    ('1 row', '1,200 rows')
    """
    return f"{format_number(count)} row" + ("s" if count != 1 else "")


def pattern(text: str) -> str:
    """Return a search pattern, checked; raises StepRefused where it cannot be read."""
    try:
        pl.Series([""]).str.contains(text)
    except pl.exceptions.PolarsError as problem:
        raise StepRefused(
            f"the pattern cannot be read ({str(problem).splitlines()[0][:80]})", remedy="mend it"
        ) from None
    return text
