"""Details: a heading that opens, when it is pressed, what only some readers want to know."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.scene import Font, Path, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.prose.model import Block, Prose
from ypsil.core.style.grounds import TONE_CHOICES, Tone, on, tone
from ypsil.core.tiles.base import TO_PRESS, Offer, TileKind
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.tiles.sourced import with_addresses
from ypsil.core.tiles.written import Written
from ypsil.core.visuals import Box

_PAD, _CORNER, _SIGN, _AIR = 0.8, 0.6, 0.8, 0.7


class DetailsTile(TileKind):
    offered_under = TO_PRESS
    offered_rank = 1
    called = "details"
    settings = ("head", "says", "colour")
    type: Literal["details"] = "details"
    head: str = Field("", max_length=200, title="Readers press")
    says: str = Field(
        "",
        max_length=8_000,
        title="And are told",
        description="paragraphs; addresses lead there",
        json_schema_extra={"shows": "lines"},
    )
    colour: Tone = Field("tint", title="It stands on", json_schema_extra=TONE_CHOICES)

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        sample = {"head": "How was this counted?"}
        return (Offer("Details on demand", {}, "opens when it is pressed; in files it stands open", sample=sample),)

    def usual_size(self) -> tuple[int, int]:
        return (12, 6)

    def grounds(self) -> tuple[str, ...]:
        return (self.colour,)

    def unfolds(self) -> Prose | None:
        """Return what is opened."""
        lines = [line.strip() for line in self.says.split("\n") if line.strip()]
        return Prose(blocks=tuple(Block(runs=tuple(with_addresses(line))) for line in lines))

    def least_height(self, width: float, context: Context) -> float:
        return self._height(width, context)

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        return self._height(width, context)

    def draws(self, box: Box, context: Context) -> Drawn:
        style = on(context.house, tone(context.house, self.colour))
        em = context.page.text_px("body")
        font, pad = self._font(context), _PAD * em
        high = max(box.height, self._height(box.width, context))
        shapes: list[Shape] = [Path(rounded(box.width, high, _CORNER * em), tone(context.house, self.colour))]
        lines = self._lines(box.width, context)
        shapes += [
            Text(pad, pad + place * font.line_height + font.size, line, font, style.ink)
            for place, line in enumerate(lines)
        ]
        if not context.is_opened:
            shapes.append(_plus(box.width - pad - _SIGN * em, pad + font.size * 0.3, _SIGN * em, style.accent, em / 8))
        else:
            top = pad + len(lines) * font.line_height + _AIR * em / 2
            room = Box(max(1.0, box.width - 2 * pad), box.height)
            written = self._written().scene(room, replace(context, style=style))
            shapes += [shape.moved(pad, top) for shape in written.shapes]
        return Drawn(Scene(box.width, high, tuple(shapes)))

    def _height(self, width: float, context: Context) -> float:
        em = context.page.text_px("body")
        head = 2 * _PAD * em + max(1, len(self._lines(width, context))) * self._font(context).line_height
        if not context.is_opened or not self.says.strip():
            return head
        return head + _AIR * em / 2 + self._written().height(max(1.0, width - 2 * _PAD * em), context)

    def _written(self) -> Written:
        return Written(self.unfolds() or Prose(), "body")

    def _font(self, context: Context) -> Font:
        return context.style.body(context.page.text_px("body"), bold=True)

    def _lines(self, width: float, context: Context) -> list[str]:
        em = context.page.text_px("body")
        room = width - (2 * _PAD + _SIGN + _AIR) * em
        words = " ".join(self.head.split())
        return wrap(words, max(room, text_width("m", self._font(context))), self._font(context)) if words else []

    def hints(self) -> str:
        return "" if self.head.strip() else "What can readers open here?"

    def label(self) -> str:
        return self.head.strip() or "Details"


def _plus(x: float, y: float, size: float, colour: str, wide: float) -> Path:
    half = size / 2
    cross = f"M{half:g} 0L{half:g} {size:g}M0 {half:g}L{size:g} {half:g}"
    return Path(cross, "none", colour, wide, x=x, y=y, is_round=True)
