"""Sources: a line for each table that the report uses."""

from __future__ import annotations

from typing import Literal

from ypsil.core.prose.model import Prose
from ypsil.core.tiles.base import Offer, TileKind
from ypsil.core.tiles.written import Written


class SourcesTile(TileKind):
    """A line for each table that the report uses."""

    called = "line"
    type: Literal["sources"] = "sources"

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("Sources", {}, "collected from the tables used"),)

    def writes(self, sources: str) -> Written:
        return Written(Prose.of(sources), "note", is_quiet=True)

    def about(self) -> str:
        return "This line is collected from the tables that the report uses, and follows them."

    def label(self) -> str:
        return "Sources"
