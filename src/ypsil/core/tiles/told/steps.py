"""Steps: one after the other, in a row, a column, a chain of arrows, a circle or along a winding path."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.arcs import point
from ypsil.core.drawing.scene import Line, Path, Rect, Shape, Text
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import Laid, Setting, ToldTile, Words
from ypsil.core.tiles.told.entries import Told

Look = Literal["row", "column", "arrows", "circle", "path"]
LOOKS = ("a numbered row", "a numbered column", "a chain of arrows", "a circle", "a winding path")
# How wide a step is at least, in times its type.
_LEAST_EM = 8.5
_NODE_EM = 2.6
_BEND_EM = 2.4
_ROUND = 24


class StepsTile(ToldTile):
    offered_rank = 0
    called = "steps"
    entry_is = "step"
    settings = ("look", "signs_or_numbers", "colours", "size")
    type: Literal["steps"] = "steps"
    look: Look = Field("row", title="They stand as", json_schema_extra={"labels": [*LOOKS]})
    signs_or_numbers: Literal["signs", "numbers"] = Field(
        "signs", title="Marked by", json_schema_extra={"labels": ["their sign, or number", "numbers"]}
    )

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (
            Offer("Steps", {"entries": [{}, {}, {}]}, "numbered, in a row, a chain, a circle or along a path"),
            Offer("A circle of steps", {"entries": [{}, {}, {}, {}], "look": "circle"}, "what comes round again"),
        )

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        bends = 2 * _BEND_EM * setting.em if self.look == "path" else 0.0
        columns = _columns(len(told), width - bends, setting)
        if self.look == "circle" and width >= 22 * setting.em and len(told) > 2:
            return self._circle(told, width, setting)
        if self.look == "column" or columns == 1 or self.look == "circle":
            return self._column(told, width, setting)
        if self.look == "arrows":
            return self._arrows(told, width, setting, columns)
        return self._rows(told, width, setting, columns)

    def _node(self, one: Told, x: float, y: float, size: float, setting: Setting) -> list[Shape]:
        """Return the round mark of a step, its middle at ``x`` and ``y``."""
        colour = setting.colour(one.number - 1)
        ink = setting.ink_on(colour)
        plate: list[Shape] = [Rect(x - size / 2, y - size / 2, size, size, colour, size / 2)]
        if self.signs_or_numbers == "signs":
            inner = size * 0.56
            sign = setting.sign(one, x - inner / 2, y - inner / 2, inner, ink)
            if sign:
                return [*plate, *sign]
        font = setting.big(1.15)
        return [*plate, Text(x, y + font.size * 0.35, str(one.number), font, ink, "middle")]

    def _rows(self, told: Sequence[Told], width: float, setting: Setting, columns: int) -> Laid:
        """Steps beside each other, lines of them below each other; along a path every second line runs back."""
        em, node = setting.em, _NODE_EM * setting.em
        winding = self.look == "path"
        # A path turns round beside the words.
        margin = _BEND_EM * em if winding and len(told) > columns else 0.0
        cell = (width - 2 * margin) / columns
        shapes: list[Shape] = []
        centres: list[tuple[float, float]] = []
        y = 0.0
        for start in range(0, len(told), columns):
            line = told[start : start + columns]
            back = winding and (start // columns) % 2 == 1
            spots = [(columns - 1 - place if back else place) for place in range(len(line))]
            words = [setting.words(one, cell - 1.4 * em) for one in line]
            for one, spot, said in zip(line, spots, words, strict=True):
                x = margin + cell * (spot + 0.5)
                centres.append((x, y + node / 2))
                shapes += self._node(one, x, y + node / 2, node, setting)
                shapes += said.shapes(x, y + node + 0.5 * em, "middle")
            y += node + 0.5 * em + max(said.height for said in words) + 1.6 * em
        under = _road(centres, setting, cell / 2 + margin * 0.55) if winding else _joins(centres, node, setting)
        return Laid((*under, *shapes), y - 1.6 * em)

    def _column(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em, node = setting.em, _NODE_EM * setting.em
        shapes: list[Shape] = []
        centres: list[float] = []
        y = 0.0
        for one in told:
            said = setting.words(one, width - node - em)
            tall = max(node, said.height)
            centres.append(y + node / 2)
            shapes += self._node(one, node / 2, y + node / 2, node, setting)
            shapes += said.shapes(node + em, y + max(0.0, (node - said.height) / 2))
            y += tall + 1.1 * em
        line = [
            Line(node / 2, above + node / 2, node / 2, below - node / 2, setting.style.quiet, em / 6)
            for above, below in itertools.pairwise(centres)
        ]
        return Laid((*line, *shapes), y - 1.1 * em)

    def _arrows(self, told: Sequence[Told], width: float, setting: Setting, columns: int) -> Laid:
        em = setting.em
        notch, gap = 1.1 * em, 0.35 * em
        cell = (width + notch) / columns - gap
        shapes: list[Shape] = []
        y = 0.0
        for start in range(0, len(told), columns):
            line = told[start : start + columns]
            room = cell - 2.6 * notch
            heads = [
                setting.words(one, room, text=False, ink=setting.ink_on(setting.colour(one.number - 1))) for one in line
            ]
            tall = max(2.6 * em, max(said.height for said in heads) + 1.2 * em)
            texts = [setting.words(one, cell - notch - em, head=False) for one in line]
            for place, (one, head, text) in enumerate(zip(line, heads, texts, strict=True)):
                x = place * ((width - cell) / max(1, columns - 1)) if columns > 1 else 0.0
                outline = _chevron(cell, tall, notch, is_first=start + place == 0)
                shapes.append(Path(outline, setting.colour(one.number - 1), x=x, y=y))
                middle = x + cell / 2 + (0 if start + place == 0 else notch / 4)
                shapes += head.shapes(middle, y + (tall - head.height) / 2, "middle")
                shapes += text.shapes(middle, y + tall + 0.5 * em, "middle")
            y += tall + 0.5 * em + max(text.height for text in texts) + 1.2 * em
        return Laid(tuple(shapes), y - 1.2 * em)

    def _circle(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        """Steps on a circle, as the hands of a clock go; their words stand outside it."""
        em, node = setting.em, _NODE_EM * setting.em
        count = len(told)
        radius = max(4.2 * em, min(width * 0.2, (node + 1.2 * em) * count / (2 * math.pi)))
        middle = width / 2
        room = width / 2 - radius - node / 2 - 0.8 * em
        placed: list[tuple[Told, float, float, Words]] = []
        for place, one in enumerate(told):
            angle = 2 * math.pi * place / count
            x, y = point(0, 0, radius, angle)
            placed.append((one, x, y, setting.words(one, 14 * em if _is_on_axis(x, radius) else room)))
        # Words above the highest step and below the lowest reach furthest.
        tops: list[float] = []
        feet: list[float] = []
        for _, x, y, said in placed:
            beyond = said.height + 0.5 * em if _is_on_axis(x, radius) else 0.0
            beside = 0.0 if _is_on_axis(x, radius) else said.height / 2
            tops.append(min(y - node / 2 - (beyond if y < 0 else 0.0), y - beside))
            feet.append(max(y + node / 2 + (beyond if y > 0 else 0.0), y + beside))
        down = -min(tops)
        shapes: list[Shape] = [
            Path(_ring_arrow(radius, place, count, node, em), "none", setting.style.quiet, em / 5, x=middle, y=down,
                 is_round=True)
            for place in range(count)
        ]  # fmt: skip
        for one, x, y, said in placed:
            shapes += self._node(one, middle + x, down + y, node, setting)
            if _is_on_axis(x, radius):
                above = y - node / 2 - said.height - 0.5 * em if y < 0 else y + node / 2 + 0.5 * em
                shapes += said.shapes(middle, down + above, "middle")
            elif x > 0:
                shapes += said.shapes(middle + x + node / 2 + 0.6 * em, down + y - said.height / 2)
            else:
                shapes += said.shapes(middle + x - node / 2 - 0.6 * em, down + y - said.height / 2, "end")
        return Laid(tuple(shapes), down + max(feet))


def _is_on_axis(x: float, radius: float) -> bool:
    """Tell whether a step stands above or below the middle of the circle, as far as words are concerned."""
    return abs(x) < 0.02 * radius


def _columns(count: int, width: float, setting: Setting) -> int:
    """Return how many steps stand beside each other, so that the lines of them are about as long."""
    most = max(1, min(count, int(width / (_LEAST_EM * setting.em))))
    return math.ceil(count / math.ceil(count / most))


def _joins(centres: Sequence[tuple[float, float]], node: float, setting: Setting) -> list[Shape]:
    """Return the lines between steps that stand beside each other."""
    gap = node / 2 + 0.4 * setting.em
    return [
        Line(x1 + gap, y1, x2 - gap, y2, setting.style.quiet, setting.em / 6)
        for (x1, y1), (x2, y2) in itertools.pairwise(centres)
        if y1 == y2 and x2 - x1 > 2 * gap
    ]


def _road(centres: Sequence[tuple[float, float]], setting: Setting, reach: float) -> list[Shape]:
    """Return a road through all steps: straight between neighbours, round where the next line runs back."""
    em = setting.em
    middle = sum(x for x, _ in centres) / len(centres)
    d = f"M{centres[0][0]:.2f} {centres[0][1]:.2f}"
    for (x1, y1), (x2, y2) in itertools.pairwise(centres):
        if y1 == y2:
            d += f"L{x2:.2f} {y2:.2f}"
        else:
            # A curve whose inner points are so far off reaches three quarters of it.
            side = reach / 0.75 * (1 if x1 > middle else -1)
            d += f"C{x1 + side:.2f} {y1:.2f} {x2 + side:.2f} {y2:.2f} {x2:.2f} {y2:.2f}"
    style = setting.style
    return [
        Path(d, "none", style.grid, 1.5 * em, is_round=True),
        Path(d, "none", style.paper, em / 8, dash=f"{0.6 * em:.2f} {0.6 * em:.2f}"),
    ]


def _chevron(width: float, height: float, notch: float, *, is_first: bool) -> str:
    """Return the outline of an arrow of a chain; the first begins straight."""
    back = 0.0 if is_first else notch
    return (
        f"M0 0L{width - notch:.2f} 0L{width:.2f} {height / 2:.2f}L{width - notch:.2f} {height:.2f}L0 {height:.2f}"
        f"L{back:.2f} {height / 2:.2f}Z"
    )


def _ring_arrow(radius: float, place: int, count: int, node: float, em: float) -> str:
    """Return the part of a ring from a step to the next, with a head, about the ring's middle."""
    gap = (node / 2 + 0.5 * em) / radius
    start, stop = 2 * math.pi * place / count + gap, 2 * math.pi * (place + 1) / count - gap
    steps = [start + (stop - start) * part / _ROUND for part in range(_ROUND + 1)]
    places = [point(0, 0, radius, angle) for angle in steps]
    d = "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in places)
    x, y = places[-1]
    back = stop - 0.55 * em / radius
    for reach in (radius - 0.4 * em, radius + 0.4 * em):
        bx, by = point(0, 0, reach, back)
        d += f"M{bx:.2f} {by:.2f}L{x:.2f} {y:.2f}"
    return d
