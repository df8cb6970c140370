"""Ornament: something that divides the page or lies behind other tiles, and says nothing."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ypsil.core.drawing.ornaments import ORNAMENTS, Ornament
from ypsil.core.drawing.scene import Path, Scene
from ypsil.core.style.grounds import TONE_CHOICES, Tone, tone
from ypsil.core.tiles.base import TileKind
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.visuals import Box


class OrnamentTile(TileKind):
    called = "ornament"
    can_turn = True
    settings = ("ornament", "colour", "line_width")
    type: Literal["ornament"] = "ornament"
    ornament: str = Field(
        "leaves",
        max_length=40,
        title="Ornament",
        json_schema_extra={"enum": [*ORNAMENTS], "labels": [one.label for one in ORNAMENTS.values()]},
    )
    colour: Tone = Field("accent", title="Colour", json_schema_extra=TONE_CHOICES)
    line_width: float = Field(2, ge=0.5, le=20, title="Width of its lines, px")

    @property
    def _ornament(self) -> Ornament:
        return ORNAMENTS.get(self.ornament, ORNAMENTS["leaves"])

    def decorates(self) -> bool:
        return True

    def usual_size(self) -> tuple[int, int]:
        return (24, 4) if self._ornament.divides else (24, 24)

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        return wide.height if self._ornament.divides else 0.0

    def draws(self, box: Box, context: Context) -> Drawn:
        colour, outline = tone(context.style, self.colour), self._ornament.outline(box.width, box.height)
        wide = self.line_width * context.page.zoom
        shape = Path(outline, "none", colour, wide) if self._ornament.is_line else Path(outline, colour)
        return Drawn(Scene(box.width, box.height, (shape,)))

    def label(self) -> str:
        return f"Ornament: {self._ornament.label.lower()}"
