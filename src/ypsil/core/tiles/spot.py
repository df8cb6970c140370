"""Spot: a place that is kept for something still to be chosen."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ypsil.core.drawing.scene import Scene
from ypsil.core.tiles.base import TileKind
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.visuals import Box


class SpotTile(TileKind):
    """A place that says to its author what belongs there. Readers and files see nothing in it."""

    called = "place"
    type: Literal["spot"] = "spot"
    purpose: str = Field("", max_length=60, description="what whoever reads the page should learn there")
    hint: str = Field("", max_length=200)

    def is_open(self) -> bool:
        return True

    def usual_size(self) -> tuple[int, int]:
        return (12, 30)

    def draws(self, box: Box, context: Context) -> Drawn:
        return Drawn(Scene(box.width, box.height, ()))

    def hints(self) -> str:
        return self.hint or "Something belongs here"

    def about(self) -> str:
        return "This place is kept for something that you have still to choose. Nobody else sees it."

    def label(self) -> str:
        return f"A place kept for: {self.hints()}"
