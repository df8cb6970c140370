"""Quotes: what people said, and who they are."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.colour import lifted
from ypsil.core.drawing.scene import Font, Path, Rect, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import Laid, Setting, ToldTile, in_columns
from ypsil.core.tiles.told.entries import Told

Look = Literal["mark", "line", "bubble"]
LOOKS = ("with a large mark", "with a line at the left", "in a speech bubble")
_LEAST_EM = 14.0
_LARGER = 1.25


class QuoteTile(ToldTile):
    called = "quote"
    entry_is = "quote"
    figure_is = "Who said it"
    text_is = "More about them"
    settings = ("look", "in_columns", "colours", "size")
    type: Literal["quote"] = "quote"
    look: Look = Field("mark", title="It stands", json_schema_extra={"labels": [*LOOKS]})
    in_columns: int = Field(1, ge=1, le=3, title="Columns")

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("A quote with its speaker", {"entries": [{}]}, "typed, or one for each row of a table"),)

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em = setting.em
        columns = max(1, min(self.in_columns, len(told), int(width / (_LEAST_EM * em))))
        return in_columns(told, columns, width, 1.6 * em, lambda one, cell: self._one(one, cell, setting))

    def _one(self, one: Told, width: float, setting: Setting) -> tuple[list[Shape], float]:
        em, style = setting.em, setting.style
        colour = setting.colour(one.number - 1)
        pad = {"mark": (3.2 * em, 0.0), "line": (1.3 * em, 0.2 * em), "bubble": (1.2 * em, 1.0 * em)}[self.look]
        room = width - pad[0] - (pad[0] if self.look == "bubble" else 0.0)
        said = style.body(round(em * _LARGER, 3))
        words = Font(said.family, said.size, said.weight, is_italic=True)
        y = pad[1]
        shapes: list[Shape] = []
        for line in wrap(one.entry.head.strip(), room, words):
            shapes.append(Text(pad[0], y + words.size, line, words, style.ink))
            y += words.line_height
        foot = y + pad[1]
        if self.look == "bubble":
            pale = setting.pale(colour, 0.12)
            bubble: list[Shape] = [
                Rect(0, 0, width, foot, pale, em),
                Path(
                    f"M{2.2 * em:.2f} {foot - 1:.2f}L{2.2 * em:.2f} {foot + em:.2f}L{3.6 * em:.2f} {foot - 1:.2f}Z",
                    pale,
                ),
            ]
            shapes = [*bubble, *shapes]
            y = foot + 1.2 * em
        else:
            y += 0.5 * em
        speaker, high = self._speaker(one, width if self.look == "bubble" else room, setting, colour)
        at = 0.6 * em if self.look == "bubble" else pad[0]
        shapes += [shape.moved(at, y) for shape in speaker]
        y += high
        if self.look == "mark":
            mark = style.heading(round(5 * em, 3))
            shapes.insert(0, Text(0, mark.size * 0.72, "“", mark, colour))
            y = max(y, 3 * em)
        if self.look == "line":
            shapes.insert(0, Rect(0, 0, em / 3, y + pad[1], colour, em / 6))
            y += pad[1]
        return shapes, y

    def _speaker(self, one: Told, width: float, setting: Setting, colour: str) -> tuple[list[Shape], float]:
        em, style = setting.em, setting.style
        size = 2.6 * em
        sign = setting.sign(one, 0, 0, size, lifted(colour, style.paper))
        x = size + 0.7 * em if sign else 0.0
        shapes: list[Shape] = []
        y = 0.0
        for text, font, ink in (
            (one.figure, setting.head.sized(setting.text.size), style.ink),
            *((line, setting.text, style.muted) for line in one.entry.lines()),
        ):
            for line in wrap(text, width - x, font) if text else ():
                shapes.append(Text(x, y + font.size, line, font, ink))
                y += font.line_height
        down = max(0.0, (size - y) / 2) if sign else 0.0
        return [*sign, *(shape.moved(0, down) for shape in shapes)], max(y, size if sign else 0.0)
