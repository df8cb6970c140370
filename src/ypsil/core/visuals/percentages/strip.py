"""Share strip: the parts of one whole in one strip, each named with its percentage."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.colour import readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten, wrap
from ypsil.core.figures import format_number, part_texts
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.scale_colours import colours_of_parts
from ypsil.core.visuals.shared.settings import ADDS_UP, PartOptions, PatternOptions, setting
from ypsil.core.visuals.shared.summary import group_name, told

_LABEL_PX, _FIGURE_PX = 15.0, 22.0
_SWATCH_PX, _GAP_PX = 14.0, 18.0


class StripOptions(PartOptions, PatternOptions):
    label: str = setting("", "Label", "Names", "in place of the measure's name", max_length=300)
    thickness: float = setting(44, "Thickness", "Marks", "of the strip, in px", ge=16, le=160)


@dataclass(frozen=True, slots=True)
class _Piece:
    name: str
    share: float
    text: str
    colour: str


def draw(answer: Answer, options: StripOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the parts in their order along one strip, with their names below."""
    pieces = _pieces(answer, options, style)
    label, font = options.label or answer.of("measure")[0].name, style.body(_LABEL_PX)
    shapes: list[Shape] = []
    y = 0.0
    for line in wrap(f"{label} (n = {format_number(_base(answer), locale=answer.locale)})", box.width, font, most=2):
        y += font.line_height
        shapes.append(Text(0, y - 0.28 * font.size, line, font, style.ink))
    y += 6
    names = _names(pieces, box.width, style)
    room = box.height - y - (names[-1].y + 8 if names else 0)
    tall = max(12.0, min(options.thickness, room))
    shapes += [shape.moved(0, y) for shape in _strip(pieces, box.width, tall, style)]
    if room >= 12:
        shapes += [shape.moved(0, y + tall + 4) for shape in _swatches(pieces, names, style)]
        shapes += [text.moved(0, y + tall + 4) for text in names]
    said = ", ".join(f"{piece.name} {piece.text}" for piece in pieces)
    return Scene(box.width, box.height, tuple(shapes), label, told(answer, "Strip of 100%", said))


def _base(answer: Answer) -> float:
    """Return how many gave the answers that are shown; of sums, how many rows these rest on."""
    measure = answer.of("measure")[0]
    values = [value for value in answer.values(measure) if value is not None]
    rows = [count or 0 for count in answer.exactness_of(measure, "rows")]
    if any(rows):
        return sum(rows)
    return sum(values) if measure.counts else answer.base


def _pieces(answer: Answer, options: StripOptions, style: HouseStyle) -> list[_Piece]:
    measure, per = answer.of("measure")[0], answer.of("per")[0]
    values = [float(value or 0) for value in answer.values(measure)]
    total = sum(values)
    shares = [value / total for value in values]
    texts = part_texts(shares, options.decimals, adds_up=options.rounding == ADDS_UP, locale=options.in_locale)
    names = [group_name(value, per) for value in answer.values(per)]
    colours = colours_of_parts(names, per, style)
    return [_Piece(*one) for one in zip(names, shares, texts, colours, strict=True)]


def _strip(pieces: list[_Piece], width: float, tall: float, style: HouseStyle) -> list[Shape]:
    shapes: list[Shape] = []
    x = 0.0
    for piece in pieces:
        wide = piece.share * width
        if wide > 0:
            title = mark_title(piece.name, piece.text)
            shapes.append(Rect(x, 0, max(0.5, wide - 1.5), tall, piece.colour, title=title))
        figure = style.heading(min(_FIGURE_PX, 0.5 * tall))
        if text_width(piece.text, figure) + 8 <= wide:
            ink = readable_on(piece.colour, style.ink, style.paper)
            shapes.append(Text(x + wide / 2 - 0.75, tall / 2 + 0.35 * figure.size, piece.text, figure, ink, "middle"))
        x += wide
    return shapes


def _names(pieces: list[_Piece], width: float, style: HouseStyle) -> list[Text]:
    """The names and their percentages, one after the other in as many lines as they need.

    Each percentage is a text of its own: within one text, a name from right to left would take it along.
    """
    font = style.body(_LABEL_PX)
    found: list[Text] = []
    x, y = 0.0, font.line_height
    for piece in pieces:
        figure = text_width(piece.text, font)
        name = shorten(piece.name, width - _SWATCH_PX - 12 - figure, font)
        named = text_width(name, font) + 6
        wide = _SWATCH_PX + 6 + named + figure
        if x and x + wide > width:
            x, y = 0.0, y + font.line_height
        left = x + _SWATCH_PX + 6
        whole = piece.name if name != piece.name else ""
        found += [
            Text(left, y, name, font, style.ink, title=whole),
            Text(left + named, y, piece.text, font, style.ink),
        ]
        x += wide + _GAP_PX
    return found


def _swatches(pieces: list[_Piece], names: list[Text], style: HouseStyle) -> list[Shape]:
    return [
        Rect(name.x - _SWATCH_PX - 6, name.y - _SWATCH_PX + 2, _SWATCH_PX, _SWATCH_PX, piece.colour)
        for piece, name in zip(pieces, names[::2], strict=True)
    ]


VISUAL = Visual(
    name="share_strip",
    label="Strip of shares",
    purposes=("share of a whole", "what people answered"),
    purpose="the parts of one whole along one strip",
    needs=Needs(groups=(1, 8), negative=False, parts=True),
    options=StripOptions,
    draw=draw,
    advice=(
        rule(0.72, "{groups} parts of one whole, in their order", ordered=True, groups=(2, 8)),
        rule(0.5, "{groups} parts of one whole along one strip"),
    ),
    is_titled=False,
    default_size=(12, 16),
)
