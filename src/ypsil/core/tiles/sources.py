"""Sources: a line for each table that the report uses."""

from __future__ import annotations

from typing import Literal

from ypsil.core.tiles.base import TileKind, Written


class SourcesTile(TileKind):
    """A line for each table that the report uses."""

    type: Literal["sources"] = "sources"

    def writes(self, sources: str) -> Written:
        return Written(sources, "note", is_quiet=True)

    def label(self) -> str:
        return "Sources"
