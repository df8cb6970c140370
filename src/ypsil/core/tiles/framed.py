"""Framed page: another page in a place of this one, where that may be; everywhere else a card that leads there."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.scene import Path, Scene, Shape, Text
from ypsil.core.drawing.signs import sign_shapes
from ypsil.core.drawing.wrap import wrap
from ypsil.core.tiles.addressed import AddressedTile
from ypsil.core.tiles.base import TO_PRESS, Offer
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.tiles.leading import address_problem, host_of
from ypsil.core.visuals import Box

_ON_A_PHONE_PX = 360.0
_CORNER_PX, _LINE_PX, _SIGN = 10.0, 1.5, 2.4


class FramedTile(AddressedTile):
    offered_under = TO_PRESS
    offered_rank = 3
    asks_for = "Type the address of the page"
    called = "framed page"
    settings = ("address", "title", "alt")
    type: Literal["framed"] = "framed"
    address: str = Field("", max_length=2_000, title="Address of the page")
    title: str = Field("", max_length=200, title="What it is called")
    alt: str = Field("", max_length=2_000, title="What it shows", description="for those who cannot see it")

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        sample = {"address": "https://example.org/map", "title": "A page from elsewhere"}
        hint = "a map or a form from elsewhere, where that is allowed"
        return (Offer("A framed page", {}, hint, sample=sample, sample_height=150),)

    def usual_size(self) -> tuple[int, int]:
        return (24, 44)

    def frames(self) -> str:
        """Return the address of what is framed, or nothing."""
        address = self.address.strip()
        return address if address.startswith("https://") and not address_problem(address) else ""

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        return _ON_A_PHONE_PX

    def _drawn(self, address: str, box: Box, context: Context) -> Drawn:
        style, zoom = context.style, context.page.zoom
        em = context.page.text_px("body")
        head, small = style.body(em, bold=True), style.body(context.page.text_px("note"))
        half = _LINE_PX * zoom / 2
        edge = rounded(box.width - 2 * half, box.height - 2 * half, _CORNER_PX * zoom)
        shapes: list[Shape] = [Path(edge, "none", style.grid, 2 * half, x=half, y=half)]
        size = _SIGN * em
        lines = wrap(self.label(), box.width - 2 * em, head, most=3)
        said = wrap(address, box.width - 2 * em, small, most=2)
        high = size + (len(lines) * head.line_height) + len(said) * small.line_height + 0.6 * em
        top = max(em, (box.height - high) / 2)
        manner = context.signed(style.accent)
        shapes += sign_shapes("line:world", (box.width - size) / 2, top, size, manner)
        y = top + size + 0.6 * em
        for line in lines:
            shapes.append(Text(box.width / 2, y + head.size, line, head, style.ink, "middle"))
            y += head.line_height
        for line in said:
            shapes.append(Text(box.width / 2, y + small.size, line, small, style.muted, "middle"))
            y += small.line_height
        told = " ".join(filter(None, (self.alt.strip(), f"It is at {address}")))
        return Drawn(Scene(box.width, box.height, tuple(shapes), self.label(), told))

    def lacks_words(self) -> bool:
        return bool(self.address.strip()) and not self.alt.strip()

    def label(self) -> str:
        return self.title.strip() or (f"A page of {host_of(self.address)}" if self.address.strip() else "A framed page")
