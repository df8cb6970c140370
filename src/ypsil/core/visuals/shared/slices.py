"""What pie and donut share: slices with their names beside them."""

from __future__ import annotations

import math
from typing import Literal

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.arcs import point, sector
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Anchor, Line, Path, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.figures import part_texts
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import grid_of, texts_of
from ypsil.core.visuals.shared.horizontal import SMALLEST_PX
from ypsil.core.visuals.shared.legends import key_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import ADDS_UP, NoteOptions, NumberOptions, PartOptions, PatternOptions, setting
from ypsil.core.visuals.shared.summary import big_number

_NARROW_PX = 300


class SliceOptions(NumberOptions, PartOptions, PatternOptions, NoteOptions):
    shown: Literal["shares", "values", "both"] = setting("shares", "Beside each name", "Numbers")
    emphasis: str = setting("", "Part to stand out", "Colours", "the others are drawn quiet", max_length=300)


def slices(answer: Answer, options: SliceOptions, box: Box, style: HouseStyle, *, hole: float) -> list[Shape]:
    """Return the slices clockwise from the top, each named beside it or, in narrow boxes, in a legend."""
    grid = grid_of(answer)
    values = [value or 0.0 for value in grid.series[0].values]
    total = sum(values)
    texts = texts_of(values, grid.column, options)
    parts = [value / total for value in values]
    shares = part_texts(parts, adds_up=options.rounding == ADDS_UP, locale=options.in_locale)
    beside = [_beside(share, text, options) for share, text in zip(shares, texts, strict=True)]
    colours = [_colour(name, index, options, style) for index, name in enumerate(grid.names)]
    font = style.body(LABEL_PX)
    names = [f"{name} {said}" for name, said in zip(grid.names, beside, strict=True)]
    widest = max(text_width(part, font) for part in (*grid.names, *beside))
    shapes: list[Shape] = []
    top, foot = 6.0, 6.0
    named = box.width >= _NARROW_PX and box.height >= 120
    if not named:
        key, height = key_of(list(zip(names, colours, strict=True)), box.width, style)
        shapes += [shape.moved(0, box.height - height) for shape in key]
        foot += height
    side = min(widest, 0.3 * box.width) + 26 if named else 4.0
    radius = max(12.0, min(box.height - top - foot, box.width - 2 * side) / 2)
    x, y = box.width / 2, top + max(radius, (box.height - top - foot) / 2)
    angle = 0.0
    labels = []
    for index, share in enumerate(parts):
        stop = angle + 2 * math.pi * share
        title = mark_title(grid.names[index], texts[index], shares[index])
        if share > 0:
            outline = sector(x, y, radius * hole, radius, angle, stop)
            shapes.append(Path(outline, fill=colours[index], stroke=style.paper, stroke_width=1.5, title=title))
            labels.append(((angle + stop) / 2, grid.names[index], beside[index]))
        angle = stop
    if named:
        shapes += _names(labels, x, y, radius, side - 22, box, style)
    if hole:
        whole = big_number(total, grid.column)
        middle = style.heading(min(radius * hole * 0.5, radius * hole * 2.6 / max(3, len(whole))))
        # A total too small to be read says nothing; the description has it.
        if middle.size >= SMALLEST_PX:
            shapes.append(Text(x, y + middle.size * 0.35, whole, middle, style.ink, "middle"))
    return shapes


def _beside(share: str, text: str, options: SliceOptions) -> str:
    return {"shares": share, "values": text, "both": f"{text} ({share})"}[options.shown]


def _colour(name: str, index: int, options: SliceOptions, style: HouseStyle) -> str:
    if options.emphasis:
        return style.accent if name == options.emphasis else style.quiet
    return style.colour(index) if index < len(style.palette) else style.quiet


def _beside_circle(radius: float, top: float, foot: float) -> float:
    """Return how far from its middle a circle with some air around it is left free between two heights (from it)."""
    near = 0.0 if top <= 0 <= foot else min(abs(top), abs(foot))
    return math.sqrt(max(0.0, (radius + 6) ** 2 - near**2))


def _names(
    labels: list[tuple[float, str, str]], x: float, y: float, radius: float, room: float, box: Box, style: HouseStyle
) -> list[Shape]:
    """Stand names to the right and left of the slices, their numbers below them, from the top down, moved apart."""
    font, bold = style.body(LABEL_PX), style.body(LABEL_PX, bold=True)
    height = 2 * font.line_height + 2
    shapes: list[Shape] = []
    for right in (True, False):
        wanted = [(point(x, y, radius + 10, label[0]), label) for label in labels if (label[0] < math.pi) == right]
        wanted.sort(key=lambda one: one[0][1])
        height = min(height, box.height / max(1, len(wanted)))
        free = font.size
        for rank, ((_, at), (angle, name, said)) in enumerate(wanted):
            left_over = (len(wanted) - rank) * height - font.line_height
            baseline = min(max(at - 2, free), box.height - 3 - left_over)
            free = baseline + height
            start = point(x, y, radius + 2, angle)
            side = 1 if right else -1
            edge = x + (_beside_circle(radius, baseline - font.size - y, baseline + height - font.size - y) + 8) * side
            shapes.append(Line(start[0], start[1], edge, baseline - 0.3 * font.size, style.quiet, 1))
            anchor: Anchor = "start" if right else "end"
            wide = max(room, (box.width - edge if right else edge) - 6)
            shapes.append(Text(edge + 4 * side, baseline, shorten(name, wide, font), font, style.ink, anchor, name))
            if height > 1.9 * font.size:
                shapes.append(Text(edge + 4 * side, baseline + font.line_height * 0.95, said, bold, style.ink, anchor))
    return shapes
