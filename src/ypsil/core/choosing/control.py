"""A control: what of a table readers choose by, and what somebody chose there."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ypsil.core.figures import Grain
from ypsil.core.tables.model import Column

Way = Literal["values", "amount", "period"]
Takes = Literal["several", "one"]


@dataclass(frozen=True, slots=True)
class Control:
    """A column of a table that readers choose rows by; ``id`` is that of its tile, ``title`` what it is called.

    ``takes`` tells how many values can be chosen at once, ``by`` which periods (empty: those that suit the data),
    ``spares`` which tiles it leaves as they are, ``reach`` whether it leaves those of other bands as well.
    """

    id: str
    table: str
    column: str
    title: str = ""
    takes: Takes = "several"
    by: Grain | Literal[""] = ""
    spares: frozenset[str] = frozenset()
    reach: Literal["page", "band"] = "page"


@dataclass(frozen=True, slots=True)
class Choice:
    """What was chosen at a control: values; or an amount or a period from ``low`` to ``high``, each as it stands in an
    address and empty where there is no end; or the ``last`` so many periods."""

    values: tuple[str, ...] = ()
    low: str = ""
    high: str = ""
    last: int = 0

    @property
    def is_made(self) -> bool:
        return bool(self.values or self.low or self.high or self.last)


def way_of(column: Column) -> Way | None:
    """Return how rows are chosen by a column; None for what cannot be chosen by."""
    if column.kind in ("category", "place", "list", "yesno"):
        return "values"
    if column.kind == "number":
        return "amount"
    return "period" if column.kind == "date" and column.form != "time" else None
