"""A list: points with their signs, numbers or ticks, in one to three columns."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Line, Path, Rect, Shape, Text
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import Laid, Setting, ToldTile
from ypsil.core.tiles.told.entries import Told

Mark = Literal["signs", "plates", "numbers", "ticks", "boxes", "crosses"]
MARKS = ("their signs", "their signs on a plate", "large numbers", "ticks", "boxes to tick", "crosses")
_MARK_EM = {"signs": 2.2, "plates": 3.0, "numbers": 2.4, "ticks": 1.5, "boxes": 1.3, "crosses": 1.5}
_LEAST_EM = 12.0


class PointsTile(ToldTile):
    offered_rank = 2
    called = "list"
    entry_is = "point"
    figure_is = "Figure"
    settings = ("marked", "in_columns", "has_rules", "colours", "size")
    type: Literal["points"] = "points"
    marked: Mark = Field("plates", title="Marked by", json_schema_extra={"labels": [*MARKS]})
    in_columns: int = Field(1, ge=1, le=4, title="Columns")
    has_rules: bool = Field(False, title="A line between them")

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (
            Offer("A list with signs", {"entries": [{}, {}, {}]}, "each point with an icon, a number or a tick"),
            Offer("A checklist", {"entries": [{}, {}, {}, {}], "marked": "boxes"}, "boxes to tick, on paper too"),
            Offer(
                "A ranked list",
                {"entries": [{}, {}, {}], "marked": "numbers", "has_rules": True},
                "first, second, third",
            ),
        )

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em = setting.em
        columns = max(1, min(self.in_columns, len(told), int(width / (_LEAST_EM * em))))
        gap = 1.6 * em
        cell = (width - gap * (columns - 1)) / columns
        mark = _MARK_EM[self.marked] * em
        indent = mark + 0.8 * em
        shapes: list[Shape] = []
        y = 0.0
        for start in range(0, len(told), columns):
            line = told[start : start + columns]
            figures = [self._figure_width(one, setting) for one in line]
            words = [setting.words(one, cell - indent - figure) for one, figure in zip(line, figures, strict=True)]
            tall = max(mark, max(said.height for said in words))
            if start and self.has_rules:
                shapes.append(Line(0, y - 0.55 * em, width, y - 0.55 * em, setting.style.grid, em / 16))
            for place, (one, said) in enumerate(zip(line, words, strict=True)):
                x = place * (cell + gap)
                # A head alone stands level with its mark; a longer text begins with it.
                top = y + max(0.0, (mark - max(said.height, 0.0)) / 2) if said.height <= mark else y
                shapes += self._mark(one, x, y, mark, setting)
                shapes += said.shapes(x + indent, top)
                if one.figure:
                    font = setting.big(1.25)
                    level = top + font.size
                    shapes.append(Text(x + cell, level, one.figure, font, setting.style.ink, "end"))
            y += tall + (1.1 if self.has_rules else 0.9) * em
        return Laid(tuple(shapes), y - (1.1 if self.has_rules else 0.9) * em)

    def _figure_width(self, one: Told, setting: Setting) -> float:
        return text_width(one.figure, setting.big(1.25)) + 0.8 * setting.em if one.figure else 0.0

    def _mark(self, one: Told, x: float, y: float, size: float, setting: Setting) -> list[Shape]:
        colour = setting.colour(one.number - 1)
        style = setting.style
        if self.marked == "plates":
            inner = size * 0.54
            sign = setting.sign(one, x + (size - inner) / 2, y + (size - inner) / 2, inner, setting.ink_on(colour))
            if not sign:
                font = setting.big(1.1)
                number = str(one.number)
                sign = [
                    Text(x + size / 2, y + size / 2 + font.size * 0.35, number, font, setting.ink_on(colour), "middle")
                ]
            return [Rect(x, y, size, size, colour, size / 2), *sign]
        if self.marked == "signs":
            sign = setting.sign(one, x, y, size, setting.shown_on(colour))
            dot = 0.5 * setting.em
            return sign or [Rect(x + (size - dot) / 2, y + (size - dot) / 2, dot, dot, colour, dot / 2)]
        if self.marked == "numbers":
            font = setting.big(1.9)
            return [
                Text(
                    x + size / 2,
                    y + size / 2 + font.size * 0.35,
                    str(one.number),
                    font,
                    setting.shown_on(colour),
                    "middle",
                )
            ]
        if self.marked == "boxes":
            side = size * 0.92
            return [Path(f"M0 0L{side:.2f} 0L{side:.2f} {side:.2f}L0 {side:.2f}Z", "none", style.ink,
                         setting.em / 9, x=x, y=y + (size - side) / 2)]  # fmt: skip
        name, tone = ("line:check", style.rise) if self.marked == "ticks" else ("line:x", style.fall)
        return setting.drawn(name, x, y, size, tone, 3.0)
