"""What a check is, and what it finds."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Literal

from ypsil.core.render import Page


@dataclass(frozen=True, slots=True)
class Finding:
    """Something on a page that should be seen to; ``tile`` is the id of the tile that it is about, where it is about
    one. A problem must not reach readers, a remark may."""

    said: str
    tile: str = ""
    kind: Literal["problem", "remark"] = "problem"


@dataclass(frozen=True, slots=True)
class Check:
    """A rule that pages are held against, with where it comes from; ``place`` is its place among all."""

    name: str
    source: str
    place: int
    find: Callable[[Page], Iterable[Finding]]
