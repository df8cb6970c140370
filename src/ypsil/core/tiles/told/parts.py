"""Parts: what something is made of, in two levels: a tree, or boxes in a box."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.scene import Path, Rect, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import COLOURS, Colours, Laid, Setting, ToldTile
from ypsil.core.tiles.told.entries import Told

Look = Literal["tree", "boxes"]
_LEAST_EM = 8.5


class PartsTile(ToldTile):
    called = "parts"
    entry_is = "part"
    text_is = "Its own parts, one a line"
    settings = ("whole", "look", "colours", "size")
    type: Literal["parts"] = "parts"
    whole: str = Field("", max_length=120, title="The whole", description="what the parts belong to")
    look: Look = Field("tree", title="They stand as", json_schema_extra={"labels": ["a tree", "boxes in a box"]})
    colours: Colours = Field("each", title="Colours", json_schema_extra={"labels": [*COLOURS]})

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("A tree of parts", {"entries": [{}, {}, {}]}, "what something is made of, in two levels"),)

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em, style = setting.em, setting.style
        is_boxed = self.look == "boxes"
        pad = em if is_boxed else 0.0
        gap = 0.9 * em
        columns = max(1, min(len(told), int((width - 2 * pad + gap) / (_LEAST_EM * em + gap))))
        cell = (width - 2 * pad - gap * (columns - 1)) / columns
        shapes: list[Shape] = []
        joins: list[Shape] = []
        y = pad
        root = 0.0
        if self.whole.strip():
            lines = wrap(self.whole.strip(), width * 0.7, setting.head)
            tall = len(lines) * setting.head.line_height + (0.9 * em if not is_boxed else 0.0)
            if not is_boxed:
                wide = min(width, max(10 * em, width * 0.36))
                shapes.append(Rect((width - wide) / 2, y, wide, tall, style.ink, 0.5 * em))
            ink = setting.ink_on(style.ink) if not is_boxed else style.ink
            for place, line in enumerate(lines):
                level = y + (0.45 * em if not is_boxed else 0) + place * setting.head.line_height + setting.head.size
                shapes.append(Text(width / 2, level, line, setting.head, ink, "middle"))
            root = y + tall
            y = root + (2.2 * em if not is_boxed else 0.8 * em)
        for start in range(0, len(told), columns):
            drawn = [self._part(one, cell, setting) for one in told[start : start + columns]]
            left = (width - len(drawn) * cell - (len(drawn) - 1) * gap) / 2
            for place, (found, _) in enumerate(drawn):
                x = left + place * (cell + gap)
                shapes += [shape.moved(x, y) for shape in found]
                if root and not is_boxed and start == 0:
                    middle, turn = x + cell / 2, root + 1.1 * em
                    corners = [(width / 2, root), (width / 2, turn), (middle, turn), (middle, y)]
                    d = "M" + "L".join(f"{across:.2f} {down:.2f}" for across, down in corners)
                    joins.append(Path(d, "none", style.quiet, em / 8))
            y += max(tall for _, tall in drawn) + gap
        y = y - gap + pad
        under: list[Shape] = [Rect(0, 0, width, y, setting.pale(style.ink, 0.05), 0.8 * em)] if is_boxed else []
        return Laid((*under, *joins, *shapes), y)

    def _part(self, one: Told, width: float, setting: Setting) -> tuple[list[Shape], float]:
        em, style = setting.em, setting.style
        colour = setting.colour(one.number - 1)
        ink = setting.ink_on(colour)
        pad = 0.7 * em
        size = 1.9 * em
        sign = setting.sign(one, (width - size) / 2, pad, size, ink)
        y = pad + (size + 0.3 * em if sign else 0.0)
        shapes: list[Shape] = [*sign]
        for line in wrap(one.entry.head.strip(), width - 2 * pad, setting.head):
            shapes.append(Text(width / 2, y + setting.head.size, line, setting.head, ink, "middle"))
            y += setting.head.line_height
        y += pad
        shapes.insert(0, Rect(0, 0, width, y, colour, 0.5 * em))
        for said in one.entry.lines():
            lines = wrap(said, width - 2 * pad, setting.text)
            tall = len(lines) * setting.text.line_height + 0.6 * em
            y += 0.4 * em
            shapes.append(Rect(0, y, width, tall, setting.pale(colour, 0.12), 0.4 * em))
            for place, line in enumerate(lines):
                level = y + 0.3 * em + place * setting.text.line_height + setting.text.size
                shapes.append(Text(width / 2, level, line, setting.text, style.ink, "middle"))
            y += tall
        return shapes, y
