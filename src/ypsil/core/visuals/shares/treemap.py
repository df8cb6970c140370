"""Treemap: the parts of one whole as rectangles, groups within groups."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.colour import mix, readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.drawing.treemap import Room, squarified
from ypsil.core.drawing.wrap import shorten, wrap
from ypsil.core.figures import format_share
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import texts_of
from ypsil.core.visuals.shared.hierarchy import Node, nodes_of
from ypsil.core.visuals.shared.marks import part_mark
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, PatternOptions, setting
from ypsil.core.visuals.shared.summary import describe

_HEAD_PX = 20.0
_LEAST_LETTERS = 3


class TreemapOptions(NumberOptions, PatternOptions, NoteOptions):
    values_on_marks: bool = setting(True, "Values on the marks where they fit", "Marks")


def draw(answer: Answer, options: TreemapOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a rectangle a group, its area the amount; within it, where there are two columns, the second's groups."""
    nodes = nodes_of(answer)
    total = sum(node.amount for node in nodes)
    shapes: list[Shape] = []
    rooms = squarified([node.amount for node in nodes], (0, 0, box.width, box.height))
    for index, (node, room) in enumerate(zip(nodes, rooms, strict=True)):
        colour = (
            style.colour(index)
            if len(nodes) <= len(style.palette)
            else style.ramp(0.3 + 0.6 * node.amount / nodes[0].amount)
        )
        if node.children:
            shapes += _group(node, room, colour, total, answer, options, style)
        else:
            shapes += _leaf(node, room, colour, total, answer, options, style, ())
    parts = sum(1 + len(node.children) for node in nodes)
    named = sum(isinstance(shape, Text) and bool(shape.title) for shape in shapes)
    said = describe(answer, "Treemap")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=parts - named)


def _group(
    node: Node, room: Room, colour: str, total: float, answer: Answer, options: TreemapOptions, style: HouseStyle
) -> list[Shape]:
    x, y, width, height = room
    font = style.body(LABEL_PX, bold=True)
    head = _HEAD_PX if height > 3 * _HEAD_PX and width > 50 else 0.0
    shapes: list[Shape] = []
    if head:
        text = shorten(node.name, width - 8, font)
        shapes.append(Text(x + 4, y + head - 6, text, font, mix(colour, style.ink, 0.35), "start", node.name))
    inner = squarified([child.amount for child in node.children], (x, y + head, width, height - head))
    for index, (child, part) in enumerate(zip(node.children, inner, strict=True)):
        shade = mix(colour, style.paper, 0.5 * index / max(1, len(node.children)))
        shapes += _leaf(child, part, shade, total, answer, options, style, (node.name,))
    return shapes


def _leaf(
    node: Node, room: Room, colour: str, total: float, answer: Answer, options: TreemapOptions, style: HouseStyle,
    above: tuple[str, ...],
) -> list[Shape]:  # fmt: skip
    x, y, width, height = room
    text = texts_of([node.amount], answer.of("measure")[0], options)[0]
    title = part_mark((*above, node.name), text, format_share(node.amount / total, locale=options.in_locale))
    shapes: list[Shape] = [Rect(x + 1, y + 1, max(0.5, width - 2), max(0.5, height - 2), colour, 2, title)]
    font = style.body(LABEL_PX)
    ink = readable_on(colour, style.ink, style.paper)
    if width < 34 or height < font.line_height + 4:
        return shapes
    broken = any(text_width(word, font) > width - 12 for word in node.name.split())
    most = 1 if broken else max(1, int((height - 8) // font.line_height))
    lines = [shorten(node.name, width - 12, font)] if broken else wrap(node.name, width - 12, font, most=most)
    if lines[0].endswith("…") and len(lines[0]) <= _LEAST_LETTERS:
        # A letter and three points name nothing; the title does.
        return shapes
    for row, line in enumerate(lines):
        baseline = y + 5 + font.size + row * font.line_height
        shapes.append(Text(x + 7, baseline, line, font, ink, title=title if row == 0 else ""))
    bold = style.body(LABEL_PX, bold=True)
    # A name can be shortened, a number never.
    fits = height > (len(lines) + 1) * font.line_height + 8 and text_width(text, bold) <= width - 10
    if options.values_on_marks and fits:
        baseline = y + 5 + font.size + len(lines) * font.line_height
        shapes.append(Text(x + 7, baseline, text, bold, ink))
    return shapes


VISUAL = Visual(
    name="treemap",
    label="Treemap",
    purposes=("share of a whole", "who is biggest"),
    purpose="many parts of one whole, also parts of parts",
    needs=Needs(per=(1, 2), groups=(2, 400), parts=True),
    options=TreemapOptions,
    draw=draw,
    advice=(
        rule(0.1, "time reads from left to right", time=True),
        rule(0.72, "parts within {groups} parts of one whole", per=(2, 2)),
        rule(0.6, "{groups} parts of one whole, too many for slices", groups=(13, MANY)),
        rule(0.4, "areas are compared less exactly than lengths"),
    ),
)
