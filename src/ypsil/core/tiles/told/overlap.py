"""Overlap: two or three circles whose areas, and those of what they share, are true where they can be."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.colour import contrast_ratio, mix
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Path, Rect, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.grounds import TEXT_CONTRAST
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import COLOURS, Colours, Laid, Setting, ToldTile
from ypsil.core.tiles.told.circles import Circle, circles_for, middle_of
from ypsil.core.tiles.told.entries import Told

_AND = "+"
_LEAST_EM = 36.0
_PARTS = (0.55, 0.45, 0.38, 0.32, 0.26, 0.2, 0.14)


class OverlapTile(ToldTile):
    offered_rank = 5
    called = "overlap"
    entry_is = "set"
    figure_is = "How many"
    text_is = "What is said of it"
    has_signs = False
    settings = ("look", "colours", "size")
    type: Literal["overlap"] = "overlap"
    look: Literal["filled", "lines"] = Field(
        "filled", title="Circles are", json_schema_extra={"labels": ["filled", "lines"]}
    )
    colours: Colours = Field("each", title="Colours", json_schema_extra={"labels": [*COLOURS]})

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (
            Offer(
                "Circles that overlap",
                {"entries": [{}, {}, {}]},
                "two or three sets, and what they share, true to size",
            ),
        )

    def hints(self) -> str:
        said = super().hints()
        return said and f"{said} What two sets share is named with a plus: Tea + Coffee."

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        em, style = setting.em, setting.style
        sets, shared = _sets_of(told)
        if not sets:
            return Laid((), 0.0, "Name a set without a plus first: Tea, Coffee, and then Tea + Coffee.")
        amounts = [one.amount for one in sets if one.amount and one.amount > 0]
        is_known = len(amounts) == len(sets)
        pairs = {key: one.amount for key, one in shared.items() if len(key) == 2 and one.amount is not None}
        solved = circles_for(amounts, pairs) if is_known else circles_for([1.0] * len(sets), {})
        height = min(width * 0.62, 22 * em)
        is_narrow = width < _LEAST_EM * em
        wide = width * (0.96 if is_narrow else 0.6 if len(sets) == 2 else 0.72)
        circles = _fitted(solved.circles, wide, height - 3 * em, width / 2, height / 2)
        part = _seen_through([setting.colour(place) for place in range(len(sets))], style.paper, style.ink)
        shapes: list[Shape] = []
        for place, circle in enumerate(circles):
            colour = setting.colour(place)
            d = _outline(circle)
            if self.look == "filled":
                shapes.append(Path(d, colour, opacity=part))
            shapes.append(Path(d, "none", colour, em / 7))
        names = [self._name(one, circle, circles, width, setting) for one, circle in zip(sets, circles, strict=True)]
        is_key = is_narrow or _meet(names)
        if not is_key:
            shapes += itertools.chain.from_iterable(names)
        font = setting.big(1.3)
        for key, one in shared.items():
            found = middle_of(circles, key)
            if one.figure and found:
                shapes.append(Text(found[0], found[1] + font.size * 0.35, one.figure, font, style.ink, "middle"))
        tight = solved.problem or ("" if is_known else "Without a figure for each set all circles are alike.")
        # Names may stand above the highest circle and below the lowest.
        texts = [shape for shape in shapes if isinstance(shape, Text)]
        above = max(0.0, -min((text.y - text.font.size for text in texts), default=0.0))
        shapes = [shape.moved(0, above) for shape in shapes]
        edges = [circle.y + circle.radius for circle in circles]
        y = above + max([*edges, *(text.y + 0.3 * em for text in texts)]) + 0.8 * em
        below, y = self._below(sets, y, width, setting, is_key=is_key)
        shapes += below
        return Laid(tuple(shapes), y, tight)

    def _below(
        self, sets: Sequence[Told], y: float, width: float, setting: Setting, *, is_key: bool
    ) -> tuple[list[Shape], float]:
        """What is said of the sets below the circles, and where it ends; a key names them where there is no room beside
        the circles."""
        em = setting.em
        shapes: list[Shape] = []
        for place, one in enumerate(sets):
            if is_key:
                mark = 0.95 * em
                named = setting.words(one, width - 1.6 * em, figure=True)
                top = y + (setting.head.line_height - mark) / 2
                shapes.append(Rect(0, top, mark, mark, setting.colour(place), mark / 2))
                shapes += named.shapes(1.6 * em, y)
                y += named.height + 0.5 * em
            elif one.entry.lines():
                said = setting.words(one, width)
                shapes += said.shapes(width / 2, y, "middle")
                y += said.height + 0.6 * em
        return shapes, y

    def _name(self, one: Told, circle: Circle, circles: Sequence[Circle], width: float, setting: Setting) -> list[Text]:
        """The name of a set with its figure, outside its circle where that points away from the others."""
        em, style = setting.em, setting.style
        others = [other for other in circles if other is not circle] or [Circle(circle.x, circle.y + 1, 0)]
        x, y = (sum(getattr(other, axis) for other in others) / len(others) for axis in ("x", "y"))
        angle = math.atan2(circle.y - y, circle.x - x)
        across, down = math.cos(angle), math.sin(angle)
        at_x, at_y = (circle.x + (circle.radius + 0.6 * em) * across, circle.y + (circle.radius + 0.6 * em) * down)
        anchor: Literal["start", "middle", "end"] = "start" if across > 0.4 else "end" if across < -0.4 else "middle"
        room = {"start": width - at_x, "end": at_x, "middle": 2 * min(at_x, width - at_x)}[anchor]
        figure = setting.big(1.5)
        lines = [(line, setting.head) for line in wrap(one.entry.head.strip(), max(3 * em, room), setting.head, most=3)]
        lines += [(one.figure, figure)] if one.figure else []
        tall = sum(font.line_height for _, font in lines)
        top = at_y - tall * (1 - down) / 2
        shapes: list[Text] = []
        for line, font in lines:
            shapes.append(Text(at_x, top + font.size, line, font, style.ink, anchor))
            top += font.line_height
        return shapes


def _meet(names: Sequence[Sequence[Text]]) -> bool:
    """Tell whether the names of two sets would lie over each other."""

    def room(name: Sequence[Text]) -> tuple[float, float, float, float]:
        wide = [text_width(text.text, text.font) for text in name]
        lefts = [
            text.x - {"start": 0.0, "middle": 0.5, "end": 1.0}[text.anchor] * one
            for text, one in zip(name, wide, strict=True)
        ]
        top, foot = (min(text.y - text.font.size for text in name), max(text.y + text.font.size / 3 for text in name))
        return min(lefts), top, max(left + one for left, one in zip(lefts, wide, strict=True)), foot

    rooms = [room(name) for name in names if name]
    return any(
        min(one[2], two[2]) > max(one[0], two[0]) and min(one[3], two[3]) > max(one[1], two[1])
        for one, two in itertools.combinations(rooms, 2)
    )


def _sets_of(told: Sequence[Told]) -> tuple[list[Told], dict[frozenset[int], Told]]:
    """Return the sets, three at most, and what several of them share, by their places."""
    sets = [one for one in told if _AND not in one.entry.head][:3]
    names = {one.entry.head.strip().casefold(): place for place, one in enumerate(sets)}
    shared: dict[frozenset[int], Told] = {}
    for one in told:
        parts = [part.strip().casefold() for part in one.entry.head.split(_AND)]
        if len(parts) > 1 and all(part in names for part in parts):
            shared[frozenset(names[part] for part in parts)] = one
    return sets, shared


def _seen_through(colours: Sequence[str], paper: str, ink: str) -> float:
    """Return how much colour circles have, so that ink is read where all of them lie over each other."""
    for part in _PARTS:
        ground = paper
        for colour in colours:
            ground = mix(ground, colour, part)
        if contrast_ratio(ink, ground) >= TEXT_CONTRAST:
            return part
    return _PARTS[-1]


def _fitted(circles: Sequence[Circle], wide: float, high: float, x: float, y: float) -> list[Circle]:
    """Return circles as large as a room lets them be, about its middle."""
    left = min(one.x - one.radius for one in circles)
    right = max(one.x + one.radius for one in circles)
    top = min(one.y - one.radius for one in circles)
    foot = max(one.y + one.radius for one in circles)
    factor = min(wide / (right - left), high / (foot - top))
    return [
        Circle(x + (one.x - (left + right) / 2) * factor, y + (one.y - (top + foot) / 2) * factor, one.radius * factor)
        for one in circles
    ]


def _outline(circle: Circle) -> str:
    """Return a circle as four curves; they are 0.03% off at most (common practice, no source)."""
    x, y, r = circle.x, circle.y, circle.radius
    k = r * 4 / 3 * (math.sqrt(2) - 1)
    return (
        f"M{x + r:.2f} {y:.2f}C{x + r:.2f} {y + k:.2f} {x + k:.2f} {y + r:.2f} {x:.2f} {y + r:.2f}"
        f"C{x - k:.2f} {y + r:.2f} {x - r:.2f} {y + k:.2f} {x - r:.2f} {y:.2f}"
        f"C{x - r:.2f} {y - k:.2f} {x - k:.2f} {y - r:.2f} {x:.2f} {y - r:.2f}"
        f"C{x + k:.2f} {y - r:.2f} {x + r:.2f} {y - k:.2f} {x + r:.2f} {y:.2f}Z"
    )
