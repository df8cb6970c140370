"""People: cards with a picture or a sign, a name, a part and a few words."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.colour import lifted
from ypsil.core.drawing.scene import Rect, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import Laid, Setting, ToldTile, in_columns
from ypsil.core.tiles.told.entries import Told

Look = Literal["below", "beside"]
_LEAST_EM = {"below": 9.0, "beside": 14.0}
_MOST_INITIALS = 2


class PeopleTile(ToldTile):
    called = "people"
    entry_is = "person"
    figure_is = "Their part"
    settings = ("look", "in_columns", "colours", "size")
    type: Literal["people"] = "people"
    look: Look = Field(
        "below", title="Their words stand", json_schema_extra={"labels": ["below the picture", "beside it"]}
    )
    in_columns: int = Field(3, ge=1, le=6, title="Columns")

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("People", {"entries": [{}, {}, {}]}, "cards with a picture, a name and a part"),)

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em = setting.em
        most = max(1, int((width + em) / ((_LEAST_EM[self.look] + 1) * em)))
        columns = max(1, min(self.in_columns, len(told), most))
        return in_columns(told, columns, width, 1.2 * em, lambda one, cell: self._card(one, cell, setting))

    def _card(self, one: Told, width: float, setting: Setting) -> tuple[list[Shape], float]:
        em, style = setting.em, setting.style
        colour = setting.colour(one.number - 1)
        size = 4.6 * em if self.look == "below" else 3.6 * em
        is_below = self.look == "below"
        left = (width - size) / 2 if is_below else 0.0
        portrait = self._portrait(one, left, 0, size, setting, colour)
        room = width if is_below else width - size - em
        x, anchor = (width / 2, "middle") if is_below else (size + em, "start")
        shapes: list[Shape] = []
        y = size + 0.6 * em if is_below else 0.0
        lines = [(one.entry.head.strip(), setting.head, style.ink)]
        lines += [(one.figure, setting.text, lifted(colour, style.paper))]
        lines += [(line, setting.text, style.muted) for line in one.entry.lines()]
        top = y
        for text, font, ink in lines:
            for line in wrap(text, room, font) if text else ():
                shapes.append(Text(x, y + font.size, line, font, ink, anchor))  # type: ignore[arg-type]
                y += font.line_height
        if not is_below:
            down = max(0.0, (size - (y - top)) / 2)
            shapes = [shape.moved(0, down) for shape in shapes]
        return [*portrait, *shapes], max(y, size)

    def _portrait(self, one: Told, x: float, y: float, size: float, setting: Setting, colour: str) -> list[Shape]:
        """Their own picture, a sign on a plate, or the first letters of their name."""
        pale = setting.pale(colour, 0.18)
        plate = Rect(x, y, size, size, pale, size / 2)
        if one.entry.sign.startswith("picture:"):
            return setting.sign(one, x, y, size, colour) or [plate]
        inner = size * 0.6
        sign = setting.sign(one, x + (size - inner) / 2, y + (size - inner) / 2, inner, lifted(colour, pale, 3))
        if sign:
            return [plate, *sign]
        letters = "".join(word[0] for word in one.entry.head.split() if word[0].isalpha())[:_MOST_INITIALS].upper()
        font = setting.big(1.6)
        ink = lifted(colour, pale)
        return [plate, Text(x + size / 2, y + size / 2 + font.size * 0.35, letters, font, ink, "middle")]
