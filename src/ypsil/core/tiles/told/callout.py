"""Callout: something that must not be missed, with its sign."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.colour import lifted
from ypsil.core.drawing.scene import Rect, Shape
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import Laid, Setting, ToldTile, in_columns
from ypsil.core.tiles.told.entries import Told

Look = Literal["pale", "filled", "line"]
LOOKS = ("on a pale ground", "on a full ground", "in a line")
Meaning = Literal["note", "idea", "good", "watch", "danger"]
MEANINGS = {
    "note": ("worth knowing", "line:info circle"),
    "idea": ("an idea", "line:bulb"),
    "good": ("good news", "line:circle check"),
    "watch": ("to watch", "line:alert triangle"),
    "danger": ("a warning", "line:alert octagon"),
}


class CalloutTile(ToldTile):
    called = "callout"
    entry_is = "callout"
    settings = ("meaning", "look", "size")
    type: Literal["callout"] = "callout"
    meaning: Meaning = Field(
        "note", title="It is", json_schema_extra={"labels": [said for said, _ in MEANINGS.values()]}
    )
    look: Look = Field("pale", title="It stands", json_schema_extra={"labels": [*LOOKS]})

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("A callout", {"entries": [{}]}, "worth knowing, an idea, a warning"),)

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        return in_columns(told, 1, width, setting.em, lambda one, cell: self._one(one, cell, setting))

    def _one(self, one: Told, width: float, setting: Setting) -> tuple[list[Shape], float]:
        em, style = setting.em, setting.style
        colours = {"note": style.accent, "idea": style.colour(1), "good": style.rise}
        colour = colours.get(self.meaning, style.watch if self.meaning == "watch" else style.fall)
        ground = {"pale": setting.pale(colour), "filled": colour, "line": style.paper}[self.look]
        ink = setting.ink_on(ground) if self.look == "filled" else style.ink
        pad, size = 1.0 * em, 2.2 * em
        words = setting.words(one, width - 2 * pad - size - 0.8 * em, ink=ink)
        tall = max(size, words.height) + 2 * pad
        mark = ink if self.look == "filled" else lifted(colour, ground)
        shapes: list[Shape] = []
        if self.look == "line":
            shapes.append(Rect(0, 0, width, tall, colour, 0.7 * em))
            wide = em / 8
            shapes.append(Rect(wide, wide, width - 2 * wide, tall - 2 * wide, ground, 0.7 * em - wide))
        else:
            shapes.append(Rect(0, 0, width, tall, ground, 0.7 * em))
        sign = setting.sign(one, pad, pad, size, mark)
        shapes += sign or setting.drawn(MEANINGS[self.meaning][1], pad, pad, size, mark)
        top = pad + max(0.0, (size - words.height) / 2)
        shapes += words.shapes(pad + size + 0.8 * em, top)
        return shapes, tall
