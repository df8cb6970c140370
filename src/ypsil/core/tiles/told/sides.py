"""Sides compared: two to four of them beside each other, with figures and points, or bars that face each other."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.colour import lifted
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Path, Rect, Shape, Text
from ypsil.core.drawing.wrap import shorten, wrap
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import COLOURS, Colours, Laid, Setting, ToldTile
from ypsil.core.tiles.told.entries import Told, amount_of

Look = Literal["columns", "facing", "before and after", "do and don't"]
LOOKS = ("beside each other", "bars facing each other", "before and after", "what to do, and what not")
_MOST_SIDES = 4
_LEAST_EM = 9.5
_TOO_MANY = "Only the first {} sides are compared here; a chart compares more."


class SidesTile(ToldTile):
    offered_rank = 3
    called = "comparison"
    entry_is = "side"
    figure_is = "Figure"
    text_is = "Its points, one a line"
    settings = ("look", "colours", "size")
    type: Literal["sides"] = "sides"
    look: Look = Field("columns", title="They stand", json_schema_extra={"labels": [*LOOKS]})
    colours: Colours = Field("each", title="Colours", json_schema_extra={"labels": [*COLOURS]})

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (
            Offer("Sides compared", {"entries": [{}, {}]}, "two to four, with figures and points"),
            Offer(
                "Do and don't", {"entries": [{}, {}], "look": "do and don't"}, "ticks on one side, crosses on the other"
            ),
            Offer(
                "Before and after", {"entries": [{}, {}], "look": "before and after"}, "an arrow from one to the other"
            ),
        )

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        most = 2 if self.look in ("facing", "before and after", "do and don't") else _MOST_SIDES
        tight = _TOO_MANY.format(most) if len(told) > most else ""
        told = told[:most]
        if self.look == "facing" and len(told) == 2 and width > 2 * _LEAST_EM * setting.em:
            laid = self._facing(told[0], told[1], width, setting)
        else:
            laid = self._beside(told, width, setting)
        return Laid(laid.shapes, laid.height, tight)

    def _colour(self, place: int, setting: Setting) -> str:
        if self.look == "do and don't":
            return setting.style.rise if place == 0 else setting.style.fall
        return setting.colour(place)

    def _beside(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em = setting.em
        is_arrow = self.look == "before and after"
        gap = (3.4 if is_arrow else 1.2) * em
        columns = len(told) if (width - gap * (len(told) - 1)) / len(told) >= _LEAST_EM * em else 1
        cell = (width - gap * (columns - 1)) / columns
        cards = [self._card(place, one, cell, setting) for place, one in enumerate(told)]
        shapes: list[Shape] = []
        if columns == 1:
            y = 0.0
            for place, (drawn, tall) in enumerate(cards):
                shapes += self._ground(place, cell, tall, setting, 0, y)
                shapes += [shape.moved(0, y) for shape in drawn]
                y += tall + em
            return Laid(tuple(shapes), y - em)
        tall = max(high for _, high in cards)
        for place, (drawn, _) in enumerate(cards):
            x = place * (cell + gap)
            shapes += self._ground(place, cell, tall, setting, x, 0)
            shapes += [shape.moved(x, 0) for shape in drawn]
            if is_arrow and place:
                size = 2.2 * em
                shapes += setting.drawn(
                    "line:arrow right", x - gap / 2 - size / 2, tall / 2 - size / 2, size, setting.style.muted, 2.4
                )
        return Laid(tuple(shapes), tall)

    def _ground(self, place: int, wide: float, tall: float, setting: Setting, x: float, y: float) -> list[Shape]:
        colour = self._colour(place, setting)
        pale = setting.pale(colour, 0.09)
        round_ = 0.7 * setting.em
        strip = f"M0 {round_:.2f}Q0 0 {round_:.2f} 0L{wide - round_:.2f} 0Q{wide:.2f} 0 {wide:.2f} {round_:.2f}Z"
        return [Rect(x, y, wide, tall, pale, round_), Path(strip, colour, x=x, y=y)]

    def _card(self, place: int, one: Told, wide: float, setting: Setting) -> tuple[list[Shape], float]:
        em, style = setting.em, setting.style
        colour = self._colour(place, setting)
        pale = setting.pale(colour, 0.09)
        pad = 1.1 * em
        room = wide - 2 * pad
        y = 0.7 * em + 0.9 * em
        shapes: list[Shape] = []
        size = 3.2 * em
        sign = setting.sign(one, pad, y, size, lifted(colour, pale))
        if sign:
            shapes += sign
            y += size + 0.6 * em
        name = style.body(round(em * 1.15, 3), bold=True)
        for line in wrap(one.entry.head.strip(), room, name):
            shapes.append(Text(pad, y + name.size, line, name, style.ink))
            y += name.line_height
        if one.figure:
            font = setting.big(2.6)
            while font.size > 1.2 * em and text_width(one.figure, font) > room:
                font = font.sized(font.size * 0.92)
            shapes.append(Text(pad, y + font.size, shorten(one.figure, room, font), font, lifted(colour, pale)))
            y += font.line_height
        y += 0.3 * em
        mark = 1.15 * em
        marks = {"do and don't": ("line:check", "line:x")[min(place, 1)]}.get(self.look, "")
        for said in one.entry.lines():
            lines = wrap(said, room - mark - 0.5 * em, setting.text)
            if marks:
                shapes += setting.drawn(marks, pad, y + 0.1 * em, mark, lifted(colour, pale), 3.0)
            else:
                dot = 0.42 * em
                shapes.append(
                    Rect(pad + (mark - dot) / 2, y + setting.text.line_height / 2 - dot / 2, dot, dot, colour, dot / 2)
                )
            for line in lines:
                shapes.append(Text(pad + mark + 0.5 * em, y + setting.text.size, line, setting.text, style.ink))
                y += setting.text.line_height
            y += 0.35 * em
        return shapes, y + 0.6 * em

    def _facing(self, left: Told, right: Told, width: float, setting: Setting) -> Laid:
        """Two sides whose points are amounts: “Adults: 42”; the bars of a point face each other from its name."""
        em, style = setting.em, setting.style
        sides = [_amounts(one) for one in (left, right)]
        names = list(dict.fromkeys([*sides[0], *sides[1]]))
        if not names:
            return self._beside((left, right), width, setting)
        most = max((abs(amount) for side in sides for amount, _ in side.values()), default=1.0) or 1.0
        label = min(width * 0.3, max(text_width(name, setting.text) for name in names) + 1.4 * em)
        figure = (
            max((text_width(text, setting.text) for side in sides for _, text in side.values()), default=0.0) + 0.6 * em
        )
        reach = (width - label) / 2 - figure
        shapes: list[Shape] = []
        y = 0.0
        for place, (one, anchor) in enumerate(((left, "end"), (right, "start"))):
            x = width / 2 + (-label / 2 if place == 0 else label / 2)
            said = setting.words(one, reach + figure, text=False, figure=True)
            shapes += said.shapes(x, 0, anchor)  # type: ignore[arg-type]
            y = max(y, said.height + 0.5 * em)
        tall = 1.35 * em
        for name in names:
            lines = wrap(name, label - 0.8 * em, setting.text, most=2)
            high = max(tall, len(lines) * setting.text.line_height)
            for place, line in enumerate(lines):
                base = y + (high - len(lines) * setting.text.line_height) / 2 + place * setting.text.line_height
                shapes.append(Text(width / 2, base + setting.text.size, line, setting.text, style.ink, "middle"))
            for place, side in enumerate(sides):
                if name not in side:
                    continue
                amount, text = side[name]
                long = max(2.0, reach * abs(amount) / most)
                x = width / 2 - label / 2 - long if place == 0 else width / 2 + label / 2
                shapes.append(Rect(x, y + (high - tall) / 2, long, tall, self._colour(place, setting), em / 6))
                at, anchor = (x - 0.3 * em, "end") if place == 0 else (x + long + 0.3 * em, "start")
                level = y + high / 2 + setting.text.size * 0.35
                shapes.append(Text(at, level, text, setting.text, style.ink, anchor))  # type: ignore[arg-type]
            y += high + 0.55 * em
        return Laid(tuple(shapes), y - 0.55 * em)


def _amounts(one: Told) -> dict[str, tuple[float, str]]:
    """Return the points of a side that are amounts, by their names, each with its words: “Adults: 42”."""
    found: dict[str, tuple[float, str]] = {}
    for line in one.entry.lines():
        name, mark, text = line.rpartition(":")
        if not mark or not text.strip():
            continue
        value = amount_of(text)
        if value is not None:
            found[name.strip()] = (value, text.strip())
    return found
