"""Icicle: the whole, its parts and their parts as columns of stretches."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.colour import mix, readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.figures import format_share
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import texts_of
from ypsil.core.visuals.shared.hierarchy import Node, nodes_of
from ypsil.core.visuals.shared.horizontal import SMALLEST_PX
from ypsil.core.visuals.shared.marks import part_mark
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, PatternOptions
from ypsil.core.visuals.shared.summary import describe


class IcicleOptions(NumberOptions, PatternOptions, NoteOptions):
    pass


def draw(answer: Answer, options: IcicleOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the whole at the left, the first column's groups beside it, the second's beside those."""
    nodes = nodes_of(answer)
    total = sum(node.amount for node in nodes)
    column = answer.of("measure")[0]
    levels = 3 if any(node.children for node in nodes) else 2
    width = box.width / levels
    shapes: list[Shape] = []
    nameless: list[str] = []

    def mark(node: Node, depth: int, y: float, colour: str, *above: str) -> float:
        height = node.amount / total * box.height
        text = texts_of([node.amount], column, options)[0]
        title = part_mark((*above, node.name), text, format_share(node.amount / total, locale=options.in_locale))
        shapes.append(Rect(depth * width, y, width - 1.5, max(0.5, height - 1.5), colour, 0, title))
        font = style.body(max(SMALLEST_PX, min(LABEL_PX, height / 1.3)))
        if height <= font.line_height:
            nameless.append(node.name)
        else:
            whole = f"{node.name} {format_share(node.amount / total, locale=options.in_locale)}"
            shown = whole if text_width(whole, font) <= width - 14 else shorten(node.name, width - 14, font)
            ink = readable_on(colour, style.ink, style.paper)
            baseline = y + min(height / 2 + font.size * 0.35, font.size + 6)
            shapes.append(Text(depth * width + 7, baseline, shown, font, ink, title="" if shown == whole else whole))
        return y + height

    mark(Node("All", total), 0, 0.0, style.muted)
    at = 0.0
    for index, node in enumerate(nodes):
        # Two parents never share a colour: of more than the palette has, the amount says it.
        few = len(nodes) <= len(style.palette)
        colour = style.colour(index) if few else style.ramp(0.25 + 0.6 * node.amount / nodes[0].amount)
        inner = at
        for child in node.children:
            inner = mark(child, 2, inner, mix(colour, style.paper, 0.35), node.name)
        at = mark(node, 1, at, colour)
    said = describe(answer, "Icicle chart")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=len(nameless))


VISUAL = Visual(
    name="icicle",
    label="Icicle",
    purposes=("share of a whole",),
    purpose="a whole, its parts and their parts, level by level",
    needs=Needs(per=(1, 2), groups=(2, 40), parts=True),
    options=IcicleOptions,
    draw=draw,
    advice=(
        rule(0.1, "time reads from left to right", time=True),
        rule(0.62, "parts within {groups} parts, all lengths on one scale", per=(2, 2)),
        rule(0.25, "one level of parts: bars are clearer"),
    ),
)
