"""Figures set beside each other: cells of one size, each with its picture, its number and its words."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Anchor, Font, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.percentages.shown import FigureOptions, Shown, heading, outside
from ypsil.core.visuals.shared.rooms import message_scene

# A picture in a room of this width and height, its top left at 0, 0.
Picture = Callable[[Shown, float, float], list[Shape]]

_GAP_PX, _BESIDE_PX = 28.0, 10.0
_LABEL_PX, _SMALL_PX, _HEADING_PX = 15.0, 13.0, 16.0
_FIGURE_PX = (18.0, 60.0)
_LEAST_PICTURE_PX = 26.0


@dataclass(frozen=True, slots=True)
class Form:
    """How a kind of figure is set.

    ``aspect`` is the picture's width for its height; ``wide`` pictures take the whole width of their cell, and at most
    ``aspect`` times less in height. The number stands above the picture, or the picture draws it itself. What
    ``fills_a_whole`` shows no percentage below 0 or above 100.
    """

    aspect: float
    is_wide: bool = False
    figure_above: bool = False
    fills_a_whole: bool = True


@dataclass(frozen=True, slots=True)
class _Words:
    """The lines below a picture, the same count in every cell, and the size of the number above it.

    Where all labels are short, the foot stands beside them.
    """

    label: int
    sub_label: int
    foot: int
    figure: Font | None
    is_foot_beside: bool = False

    @property
    def below(self) -> float:
        lines = self.label * 1.3 * _LABEL_PX + (self.sub_label + self.foot) * 1.3 * _SMALL_PX
        return lines + 6 if lines else 0.0

    @property
    def above(self) -> float:
        return self.figure.size * 1.12 if self.figure else 0.0


def draw_percentages(
    answer: Answer,
    found: list[Shown],
    options: FigureOptions,
    box: Box,
    style: HouseStyle,
    form: Form,
    picture: Picture,
) -> Scene:
    """Draw percentages of an answer, each with ``picture``."""
    reason = outside(found) if form.fills_a_whole else ""
    if reason:
        return message_scene(reason, box, style, answer.sentence)
    top = _heading(answer, options, box, style)
    head = sum(text.font.line_height for text in top) + (8 if top else 0)
    across, words = _arranged(found, options, Box(box.width, box.height - head), form, style)
    down = math.ceil(len(found) / across)
    width = (box.width - (across - 1) * _GAP_PX) / across
    height = (box.height - head - (down - 1) * _GAP_PX / 2) / down
    shapes: list[Shape] = [*top]
    for place, one in enumerate(found):
        x = (place % across) * (width + _GAP_PX)
        y = head + (place // across) * (height + _GAP_PX / 2)
        shapes += [shape.moved(x, y) for shape in _cell(one, options, width, height, words, form, style, picture)]
    common = heading(answer, options)
    name = common or ", ".join(one.label for one in found)
    said = [f"{common}."] if common else []
    description = " ".join([*said, *(one.said for one in found), options.sub_label])
    return Scene(box.width, box.height, tuple(shapes), name, description.strip())


def _heading(answer: Answer, options: FigureOptions, box: Box, style: HouseStyle) -> list[Text]:
    """The label that several percentages have in common, above them."""
    text, font = heading(answer, options), style.body(_HEADING_PX, bold=True)
    lines = wrap(text, box.width, font, most=2) if text else []
    return [Text(0, (place + 0.78) * font.line_height, line, font, style.ink) for place, line in enumerate(lines)]


def _arranged(
    found: list[Shown], options: FigureOptions, box: Box, form: Form, style: HouseStyle
) -> tuple[int, _Words]:
    """Return how many stand beside each other, and their words, so that the pictures get as large as they can."""

    def size(across: int) -> tuple[float, int]:
        width, height, words = _room(found, across, options, box, form, style)
        down = math.ceil(len(found) / across)
        room = height - words.below - words.above
        return (min(room, width / form.aspect), -abs(across - down) if not form.is_wide else -across)

    across = max(range(1, len(found) + 1), key=size)
    return across, _room(found, across, options, box, form, style)[2]


def _room(
    found: list[Shown], across: int, options: FigureOptions, box: Box, form: Form, style: HouseStyle
) -> tuple[float, float, _Words]:
    down = math.ceil(len(found) / across)
    width = (box.width - (across - 1) * _GAP_PX) / across
    height = (box.height - (down - 1) * _GAP_PX / 2) / down
    label, small = style.body(_LABEL_PX), style.body(_SMALL_PX)
    width = max(width, 24.0)
    sizes = [
        max(len(wrap(one.label, width, label, most=3)) for one in found),
        len(wrap(options.sub_label, width, small, most=2)) if options.sub_label else 0,
        int(any(one.foot for one in found)),
    ]
    is_beside = form.is_wide and all(
        text_width(one.label, label) + 2 * _BESIDE_PX + text_width(one.foot, small) <= width for one in found
    )
    sizes[2] = 0 if is_beside else sizes[2]
    figure = _figure(found, width, height, style) if form.figure_above else None
    # A small tile goes without the second line first, then the base (the description has both), then long labels.
    for place in (None, 1, 2, 0):
        if place is not None:
            sizes[place] = min(sizes[place], int(place == 0))
        words = _Words(sizes[0], sizes[1], sizes[2], figure, is_beside)
        if height - words.below - words.above >= min(_LEAST_PICTURE_PX, width / form.aspect):
            break
    return width, height, words


def _figure(found: Sequence[Shown], width: float, height: float, style: HouseStyle) -> Font:
    font = style.heading(max(_FIGURE_PX[0], min(_FIGURE_PX[1], height * 0.3)))
    widest = max(text_width(one.text, font) for one in found)
    return font.sized(font.size * width / widest) if widest > width else font


def _cell(
    one: Shown,
    options: FigureOptions,
    width: float,
    height: float,
    words: _Words,
    form: Form,
    style: HouseStyle,
    picture: Picture,
) -> list[Shape]:
    anchor: Anchor = "start" if form.is_wide else "middle"
    x = 0.0 if form.is_wide else width / 2
    room = max(8.0, height - words.below - words.above)
    tall = min(room, width / form.aspect)
    wide = width if form.is_wide else tall * form.aspect
    left = 0.0 if form.is_wide else (width - wide) / 2
    shapes: list[Shape] = []
    y = 0.0
    if words.figure:
        y = words.above
        shapes.append(Text(x, y - 0.24 * words.figure.size, one.text, words.figure, style.ink, anchor))
    shapes += [shape.moved(left, y) for shape in picture(one, wide, tall)]
    y += tall + 6
    label, small = style.body(_LABEL_PX), style.body(_SMALL_PX)
    below = [(line, label, style.ink) for line in wrap(one.label, width, label, most=words.label or 1)[: words.label]]
    if words.sub_label:
        lines = wrap(options.sub_label, width, small, most=words.sub_label)
        below += [(line, small, style.muted) for line in lines]
    if words.foot and one.foot:
        below += [(line, small, style.muted) for line in wrap(one.foot, width, small, most=1)]
    if words.is_foot_beside and one.foot:
        beside = text_width(one.label, label) + _BESIDE_PX
        shapes.append(Text(beside, y + label.line_height - 0.28 * label.size, one.foot, small, style.muted))
    for line, font, ink in below:
        y += font.line_height
        shapes.append(Text(x, y - 0.28 * font.size, line, font, ink, anchor))
    return shapes
