"""Key: what the colours of a page mean."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Line, Rect, Shape
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import COLOURS, Colours, Laid, Setting, ToldTile
from ypsil.core.tiles.told.entries import Told

Look = Literal["squares", "dots", "lines"]
_GAP_EM = 1.8


class KeyTile(ToldTile):
    called = "key"
    entry_is = "colour"
    settings = ("look", "stands", "colours", "size")
    type: Literal["key"] = "key"
    look: Look = Field("squares", title="Colours are shown as")
    stands: Literal["in a line", "below each other"] = Field("in a line", title="They stand")
    colours: Colours = Field("each", title="Colours", json_schema_extra={"labels": [*COLOURS]})

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("A key with colours", {"entries": [{}, {}, {}]}, "what the colours of the page mean"),)

    def usual_size(self) -> tuple[int, int]:
        return (24, 4)

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em = setting.em
        mark = 0.95 * em
        shapes: list[Shape] = []
        x = y = tall = 0.0
        for one in told:
            said = setting.words(one, width - mark - 0.6 * em)
            wide = mark + 0.6 * em + max((text_width(line, font) for line, font, _ in said.lines), default=0.0)
            if x and (self.stands != "in a line" or x + wide > width):
                x, y, tall = 0.0, y + tall + 0.5 * em, 0.0
            shapes += self._mark(one, x, y + (setting.head.line_height - mark) / 2, mark, setting)
            shapes += said.shapes(x + mark + 0.6 * em, y)
            tall = max(tall, said.height)
            x += wide + _GAP_EM * em
        return Laid(tuple(shapes), y + tall)

    def _mark(self, one: Told, x: float, y: float, size: float, setting: Setting) -> list[Shape]:
        colour = setting.colour(one.number - 1)
        sign = setting.sign(one, x, y, size, colour)
        if sign:
            return sign
        if self.look == "lines":
            return [Line(x, y + size / 2, x + size, y + size / 2, colour, size / 4)]
        return [Rect(x, y, size, size, colour, size / 2 if self.look == "dots" else size / 8)]
