"""Slope chart: each group's way from one value to another."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Anchor, Line, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import grid_of, texts_of_grid
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, setting
from ypsil.core.visuals.shared.summary import describe

_SHORTEST_PX = 24


class SlopeOptions(NumberOptions, NoteOptions):
    emphasis: str = setting("", "Line to stand out", "Colours", "else those that fall stand out", max_length=300)


def draw(answer: Answer, options: SlopeOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a line a group between the values of the first and the second series, named at both ends."""
    grid = grid_of(answer)
    first, second = grid.series
    both = [pair for pair in zip(first.values, second.values, strict=True) if None not in pair]
    values = [value for pair in both for value in pair if value is not None]
    low, high = (min(values), max(values)) if values else (0.0, 1.0)
    font, bold = style.body(LABEL_PX), style.body(LABEL_PX, bold=True)
    texts = texts_of_grid(grid, options)
    labels = [f"{name} {text}" for name, text in zip(grid.names, texts[0], strict=True)]
    room = min(0.34 * box.width, max(text_width(label, font) for label in labels) + 12)
    scale = LinearScale((low, high if high > low else low + 1), (box.height - 14, 34))
    left, right = room, box.width - room
    # The names of both sides stand over their lines, and end before they meet.
    head = min(2 * left, right - left - 12)
    shapes: list[Shape] = [
        Text(left, 14, shorten(first.name, head, bold), bold, style.ink, "middle"),
        Text(right, 14, shorten(second.name, head, bold), bold, style.ink, "middle"),
        Line(left, 24, left, box.height, style.grid, 1),
        Line(right, 24, right, box.height, style.grid, 1),
    ]
    ends: list[list[tuple[float, str, str, str]]] = [[], []]
    one_sided = 0
    for index, name in enumerate(grid.names):
        start, stop = first.values[index], second.values[index]
        if start is None or stop is None:
            one_sided += 1
            continue
        colour = _colour(name, start, stop, options, style)
        title = mark_title(name, f"{texts[0][index]} to {texts[1][index]}")
        shapes.append(Line(left, scale(start), right, scale(stop), colour, 2, title))
        for x, value in ((left, start), (right, stop)):
            shapes.append(Rect(x - 3.5, scale(value) - 3.5, 7, 7, colour, 3.5))
        ends[0].append((scale(start), name, texts[0][index], colour))
        ends[1].append((scale(stop), name, texts[1][index], colour))
    sides: tuple[tuple[float, Anchor], ...] = ((left - 8, "end"), (right + 8, "start"))
    names = [_names(ends[side], x, anchor, room - 10, box, style) for side, (x, anchor) in enumerate(sides)]
    nameless = max(len(labels) - len(texts) for labels, texts in zip(ends, names, strict=True))
    shapes += names[0] + names[1]
    said = describe(answer, "Slope chart")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=nameless, undrawn=one_sided)


def _colour(name: str, start: float, stop: float, options: SlopeOptions, style: HouseStyle) -> str:
    if options.emphasis:
        return style.accent if name == options.emphasis else style.quiet
    return style.colour(1) if stop < start else style.accent


def _names(
    labels: list[tuple[float, str, str, str]], x: float, anchor: Anchor, room: float, box: Box, style: HouseStyle
) -> list[Text]:
    """Stand names at the ends, moved apart; those without room are left out and read at their lines."""
    font = style.body(LABEL_PX)
    shapes: list[Text] = []
    free = box.height + 2
    for y, name, value, colour in sorted(labels, reverse=True):
        baseline = min(y + font.size * 0.35, free)
        if baseline < 34 or baseline < y - 26:
            continue
        free = baseline - font.line_height
        ink = style.ink if colour != style.quiet else style.muted
        # Of a name and its number the name gives way.
        left = room - text_width(f" {value}", font)
        short = shorten(name, left, font) if left > _SHORTEST_PX else ""
        parts = (value, short) if anchor == "start" else (short, value)
        text = " ".join(part for part in parts if part)
        shapes.append(Text(x, baseline, text, font, ink, anchor, "" if short == name else f"{name} {value}"))
    return shapes


VISUAL = Visual(
    name="slope",
    label="Slopes",
    purposes=("how it changes",),
    purpose="who rose and who fell between two times",
    needs=Needs(measures=(1, 2), split="any", groups=(2, 25), series=(2, 2), dates="never"),
    options=SlopeOptions,
    draw=draw,
    advice=(
        rule(0.76, "{groups} values at two times: lines show who rose and fell", groups=(2, 12)),
        rule(0.45, "many lines cross each other"),
    ),
)
