"""A number found in a text, and numbers that belong together."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

GroupKind = Literal["comparison", "parts", "series", "change", "steps", "dates", "single"]
SHARE = "share"


@dataclass(frozen=True, slots=True)
class Number:
    """A number as it stands in a text: from ``start`` up to ``end`` (in letters), what it is, its unit and what it
    counts. A share is from 0 to 1 with the unit ``share``; percentages keep their number with the unit ``%``."""

    text: str
    start: int
    end: int
    value: float
    unit: str | None = None
    of: str | None = None


@dataclass(frozen=True, slots=True)
class Group:
    """Numbers of one sentence or list that say one thing, as rows of a small table, with the visuals that suit."""

    start: int
    end: int
    kind: GroupKind
    rows: tuple[tuple[str, float | str], ...]
    visuals: tuple[str, ...]
    unit: str | None = None


@dataclass(frozen=True, slots=True)
class Aside:
    """Figures that are none: a date, a version, an address, a number of a section, and what they are."""

    start: int
    end: int
    kind: str


@dataclass(frozen=True, slots=True)
class Found:
    """All numbers of a text in their order, how they go together, and what was not taken for numbers."""

    numbers: tuple[Number, ...]
    groups: tuple[Group, ...]
    asides: tuple[Aside, ...]
