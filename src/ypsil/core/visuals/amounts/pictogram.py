"""Pictogram chart: an icon stands for so many, the last one of a row in part.

Rows of repeated signs of one size, not signs of different sizes: O. Neurath, International Picture Language (1936),
whose rule is that a greater number is shown by a greater number of signs.
"""

from __future__ import annotations

import math

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.contours import level as filled_to
from ypsil.core.drawing.icons import icon_path, icons
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Part, Scene, Shape, Text
from ypsil.core.figures import format_number
from ypsil.core.figures.capitals import lower_first
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.amounts.icons_of import PictureOptions
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import grid_of, texts_of
from ypsil.core.visuals.shared.horizontal import HorizontalPlot, horizontal_plot
from ypsil.core.visuals.shared.legends import mark_colour
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.settings import setting
from ypsil.core.visuals.shared.summary import describe, mark_texts

_MOST_ICONS = 15
_MOST_BY_HAND = 60
_GAP = 0.14
_KEY_PX = 30.0
_STEPS = (1, 2, 2.5, 5)


class PictogramOptions(PictureOptions):
    each: float | None = setting(
        None, "One icon stands for", "Numbers", "so that rows hold 3 to 15 icons, unless said", gt=0, le=1e15
    )
    values_on_marks: bool = setting(True, "Values behind the icons", "Marks")


def units_per_icon(highest: float, *, whole: bool = True) -> float:
    """Return the round number that an icon stands for, so that the longest row holds 6 to 15 icons.

    Round numbers are 1, 2, 2.5 and 5 times a power of ten; of ``whole`` things no part is taken for a unit.

    >>> [units_per_icon(highest) for highest in (4, 15, 16, 140, 2600)]
    [1, 1, 2, 10, 200]
    >>> units_per_icon(2.4, whole=False)
    0.2
    """
    if highest <= 0:
        return 1
    power = math.floor(math.log10(highest / _MOST_ICONS))
    candidates = [step * 10.0**exponent for exponent in (power, power + 1) for step in _STEPS]
    if whole:
        candidates = [one for one in candidates if one >= 1 and float(one).is_integer()] or [1.0]
    found = round(next(one for one in candidates if highest / one <= _MOST_ICONS + 1e-9), 12)
    return int(found) if found.is_integer() else found


def draw(answer: Answer, options: PictogramOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a row of icons for each group, its name before it, and what one icon stands for at the head."""
    grid = grid_of(answer)
    values = grid.series[0].values
    highest = max((value for value in values if value is not None), default=0.0)
    each = options.each or units_per_icon(highest, whole=all(value is None or value == int(value) for value in values))
    if highest / each > _MOST_BY_HAND:
        least, many, one = (
            format_number(count, locale=answer.locale)
            for count in (units_per_icon(highest), math.ceil(highest / each), each)
        )
        said = f"With an icon for each {one} a row would hold {many} icons. Let one stand for {least}."
        return message_scene(said, box, style, answer.sentence)
    texts = texts_of(values, grid.column, options)
    shown = texts if options.values_on_marks else [""] * len(texts)
    plot = horizontal_plot(grid, (0, max(highest, each)), [shown], box, style, head=_KEY_PX)
    aspect = icons()[options.icon].aspect
    step = min(
        (plot.scale.range[1] - plot.left) / max(1, math.ceil(highest / each)), plot.bands.width * (aspect + _GAP)
    )
    tall = step / (aspect + _GAP)
    shapes: list[Shape] = [*_key(each, grid.column, options, box, style), *plot.shapes]
    for index, value in enumerate(values):
        if value is None:
            continue
        colour = mark_colour(grid.names[index], 0, 1, options.emphasis, style)
        y = plot.bands.middle(index) - tall / 2
        count = value / each
        for place in range(math.ceil(round(count, 6))):
            shape = icon_path(options.icon, plot.left + place * step, y, tall, colour)
            part = round(count - place, 6)
            if part < 1:
                shape.part = Part(filled_to(shape.d, part, "right"), style.grid, "right")
            shape.title = grid.title(0, index, texts[index]) if place == 0 else ""
            shapes.append(shape)
        if options.values_on_marks and index % plot.every == 0:
            shapes.append(_value(texts[index], plot, index, plot.left + math.ceil(round(count, 6)) * step, style))
    said = f"{describe(answer, 'Pictogram chart')} {_stands_for(each, grid.column)}."
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


def _value(text: str, plot: HorizontalPlot, index: int, end: float, style: HouseStyle) -> Text:
    baseline = plot.bands.middle(index) + plot.value_font.size * 0.34
    return Text(end + 4, baseline, text, plot.value_font, style.ink)


def _stands_for(each: float, column: AnswerColumn) -> str:
    unit = f" {column.unit}" if column.unit else ""
    return f"Each icon stands for {format_number(each, locale=column.locale)}{unit}"


def _key(each: float, column: AnswerColumn, options: PictogramOptions, box: Box, style: HouseStyle) -> list[Shape]:
    """Return the key at the head: an icon and what it stands for."""
    font = style.body(LABEL_PX)
    icon = icon_path(options.icon, 0, 1, 18, style.muted)
    left = 18 * icons()[options.icon].aspect + 7
    what = f"= {mark_texts([each], column)[0]}"
    name = lower_first(column.name)
    longer = f"{what}, {name}"
    fits = left + text_width(longer, font) <= box.width
    return [icon, Text(left, 15, longer if fits else what, font, style.muted)]


VISUAL = Visual(
    name="pictogram",
    label="Pictogram",
    purposes=("who is biggest",),
    purpose="amounts that can be counted, an icon for so many",
    needs=Needs(groups=(1, 14), negative=False),
    options=PictogramOptions,
    draw=draw,
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.66, "{groups} amounts that can be counted", parts=True, groups=(2, 8)),
        rule(0.4, "{groups} amounts in icons"),
    ),
)
