"""Questions and answers: each question, and what is said to it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.scene import Line, Rect, Shape, Text
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import Laid, Setting, ToldTile
from ypsil.core.tiles.told.entries import Told

Look = Literal["plain", "cards", "letters"]
_LEAST_EM = 15.0


class AnswersTile(ToldTile):
    called = "questions and answers"
    entry_is = "question"
    text_is = "Its answer"
    settings = ("look", "in_columns", "colours", "size")
    type: Literal["answers"] = "answers"
    look: Look = Field(
        "plain", title="They stand", json_schema_extra={"labels": ["below each other", "on cards", "with Q and A"]}
    )
    in_columns: int = Field(1, ge=1, le=3, title="Columns")

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("Questions and answers", {"entries": [{}, {}, {}]}, "what people ask, and what is so"),)

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em = setting.em
        columns = max(1, min(self.in_columns, len(told), int(width / (_LEAST_EM * em))))
        gap = 1.4 * em
        cell = (width - gap * (columns - 1)) / columns
        inset = {"plain": 0.0, "cards": 1.1 * em, "letters": 2.6 * em}[self.look]
        room = cell - inset - (inset if self.look == "cards" else 0.0)
        shapes: list[Shape] = []
        y = 0.0
        for start in range(0, len(told), columns):
            line = told[start : start + columns]
            words = [setting.words(one, room) for one in line]
            tall = max(said.height for said in words) + (2 * inset if self.look == "cards" else 0.0)
            tall = max(tall, 1.9 * em) if self.look == "letters" else tall
            for place, (one, said) in enumerate(zip(line, words, strict=True)):
                x = place * (cell + gap)
                colour = setting.colour(one.number - 1)
                if self.look == "cards":
                    pale = setting.pale(colour)
                    shapes += [Rect(x, y, cell, tall, pale, 0.6 * em), Rect(x, y, em / 4, tall, colour)]
                    shapes += said.shapes(x + inset, y + inset)
                elif self.look == "letters":
                    shapes += self._letters(one, x, y, setting)
                    shapes += said.shapes(x + inset, y)
                else:
                    if start:
                        shapes.append(Line(x, y - 0.7 * em, x + cell, y - 0.7 * em, setting.style.grid, em / 16))
                    shapes += said.shapes(x, y)
            y += tall + 1.4 * em
        return Laid(tuple(shapes), y - 1.4 * em)

    def _letters(self, one: Told, x: float, y: float, setting: Setting) -> list[Shape]:
        """A large mark of a question in the colour of its entry."""
        font = setting.big(2.2)
        colour = setting.shown_on(setting.colour(one.number - 1))
        return [Text(x, y + font.size * 0.78, "?", font, colour)]
