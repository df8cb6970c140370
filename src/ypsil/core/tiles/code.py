"""Code: an address as a QR code, to be scanned from paper or a screen."""

from __future__ import annotations

import itertools
from typing import Any, Literal

import segno
from pydantic import Field
from segno.encoder import DataOverflowError

from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.scene import Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.grounds import TONE_CHOICES, Tone, tone
from ypsil.core.tiles.addressed import AddressedTile
from ypsil.core.tiles.base import AS_SIGN, Offer, waiting
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.visuals import Box

# What is left free round the code, in modules (ISO/IEC 18004:2015, 9.1).
QUIET_MODULES = 4
# What scanners need to tell the dark modules from the light ones (common practice, no source).
_LEAST_CONTRAST = 4.5
_ON_A_PHONE_PX = 280.0
_LEVELS = {"low": "l", "medium": "m", "quartile": "q", "high": "h"}
_TOO_LONG = "This is more than a code can hold. Take a shorter address."


class CodeTile(AddressedTile):
    offered_under = AS_SIGN
    asks_for = "Type the address that scanning opens"
    called = "code"
    settings = ("address", "caption", "level", "colour")
    folded = dict.fromkeys(("level", "colour"), "Look")
    type: Literal["code"] = "code"
    address: str = Field("", max_length=2_000, title="Address", description="what scanning it opens")
    caption: str = Field("", max_length=200, title="Words below it")
    level: Literal["low", "medium", "quartile", "high"] = Field(
        "medium",
        title="Can be read with so much of it covered",
        json_schema_extra={"labels": ["7%", "15%", "25%", "30%"]},
    )
    colour: Tone = Field("ink", title="Colour", json_schema_extra=TONE_CHOICES)

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        sample = {"address": "https://example.org"}
        hint = "opens an address from paper or a screen"
        return (Offer("A code to scan", {}, hint, sample=sample, sample_height=110),)

    def usual_size(self) -> tuple[int, int]:
        return (6, 24)

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        return _ON_A_PHONE_PX

    def _drawn(self, address: str, box: Box, context: Context) -> Drawn:
        try:
            made: Any = segno.make(address, error=_LEVELS[self.level], micro=False, boost_error=False)
        except DataOverflowError:
            return waiting(_TOO_LONG, box, context)
        font = context.style.body(context.page.text_px("note"))
        lines = wrap(self.caption.strip(), box.width, font) if self.caption.strip() else []
        side = max(1.0, min(box.width, box.height - len(lines) * font.line_height))
        shapes = self._modules(made, (box.width - side) / 2, side, context)
        for place, line in enumerate(lines):
            y = side + place * font.line_height + font.size
            shapes.append(Text(box.width / 2, y, line, font, context.style.ink, "middle"))
        scene = Scene(box.width, box.height, tuple(shapes), self.label(), f"It opens {address}")
        return Drawn(scene)

    def _modules(self, made: Any, x: float, side: float, context: Context) -> list[Shape]:
        """Return the dark modules on a light square: scanners look for dark on light, whatever the page is."""
        rows = [bytes(row) for row in made.matrix]
        module = side / (len(rows) + 2 * QUIET_MODULES)
        light = context.house.paper
        dark = tone(context.house, self.colour)
        if contrast_ratio(light, "#000000") < contrast_ratio(light, "#ffffff"):
            light = "#ffffff"
        if contrast_ratio(dark, light) < _LEAST_CONTRAST:
            dark = "#000000"
        parts = []
        for down, row in enumerate(rows):
            across = 0
            for is_dark, run in itertools.groupby(row):
                wide = len([*run])
                if is_dark:
                    left, top = (across + QUIET_MODULES) * module, (down + QUIET_MODULES) * module
                    right, foot = left + wide * module, top + module
                    parts.append(
                        f"M{left:.3f} {top:.3f}L{right:.3f} {top:.3f}L{right:.3f} {foot:.3f}L{left:.3f} {foot:.3f}Z"
                    )
                across += wide
        return [Rect(x, 0, side, side, light), Path("".join(parts), dark, x=x)]

    def label(self) -> str:
        return self.caption.strip() or (
            f"Code for {self.address.strip()}" if self.address.strip() else "A code to scan"
        )
