"""Bar chart: amounts as level bars from zero, with room for long names."""

from __future__ import annotations

import math
from dataclasses import dataclass

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale, LinearScale
from ypsil.core.drawing.scene import Font, Line, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Options, Visual, group_count, is_over_time, is_words
from ypsil.core.visuals.frame import LABEL_PX, Series, legend, mark_colour, series_of, value_range
from ypsil.core.visuals.summary import describe, value_texts

_SMALLEST_PX = 9.0


class BarOptions(Options):
    emphasis: str = Field("", title="Value to stand out", description="the others are drawn quiet")


@dataclass(frozen=True, slots=True)
class _Layout:
    """Where bars stand: ``left`` is the end of the names, ``every`` tells how many bars one name stands for."""

    bands: BandScale
    scale: LinearScale
    left: float
    every: int
    font: Font
    value_font: Font
    thickness: float


def draw(answer: Answer, options: BarOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one bar a group and split value, the name before it and its value behind it."""
    names, series = series_of(answer)
    column = answer.of("measure")[0]
    texts = [value_texts(one.values, column) for one in series]
    key, top = legend(series, box.width, style)
    layout = _lay_out(names, series, texts, box, top, style)
    zero = layout.scale(0)
    shapes: list[Shape] = [*key, *_names(names, layout, style)]
    for number, one in enumerate(series):
        colours = [mark_colour(name, number, len(series), options.emphasis, style) for name in names]
        shapes += _bars(names, one, texts[number], colours, number, layout, style)
    shapes.append(Line(zero, top, zero, box.height, style.muted))
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Bar chart"))


def _lay_out(
    names: list[str], series: list[Series], texts: list[list[str]], box: Box, top: float, style: HouseStyle
) -> _Layout:
    bands = BandScale(len(names), (top, box.height), 0.28)
    thickness = bands.width / len(series)
    font = style.body(min(LABEL_PX + 1, max(_SMALLEST_PX, bands.step * 0.8)))
    value_font = style.body(min(font.size, max(_SMALLEST_PX, thickness)), bold=True)
    left = min(0.4 * box.width, max(text_width(name, font) for name in names)) + 10
    room = max(text_width(text, value_font) for one in texts for text in one) + 8
    low, high = value_range(series)
    scale = LinearScale((low, high), (left + (room if low < 0 else 0), box.width - room))
    # Where bars are thinner than a line of text, only every second, third … is named.
    every = max(1, math.ceil(font.size * 1.1 / bands.step))
    return _Layout(bands, scale, left, every, font, value_font, thickness)


def _names(names: list[str], layout: _Layout, style: HouseStyle) -> list[Shape]:
    font, end = layout.font, layout.left - 10
    shapes: list[Shape] = []
    for index in range(0, len(names), layout.every):
        most = max(1, int(layout.every * layout.bands.step // font.line_height))
        lines = wrap(names[index], end, font, most=most)
        first = layout.bands.middle(index) + font.size * 0.35 - (len(lines) - 1) * font.line_height / 2
        for row, line in enumerate(lines):
            shapes.append(Text(end, first + row * font.line_height, line, font, style.ink, "end", names[index]))
    return shapes


def _bars(
    names: list[str],
    one: Series,
    texts: list[str],
    colours: list[str],
    number: int,
    layout: _Layout,
    style: HouseStyle,
) -> list[Shape]:
    shapes: list[Shape] = []
    font, thickness, zero = layout.value_font, layout.thickness, layout.scale(0)
    valued = thickness * layout.every >= font.size * 0.75
    for index, value in enumerate(one.values):
        if value is None:
            continue
        y = layout.bands.start(index) + number * thickness
        start, end = sorted((zero, layout.scale(value)))
        title = ", ".join(part for part in (names[index], one.name, texts[index]) if part)
        shapes.append(Rect(start, y, max(end - start, 0.5), thickness * 0.94, colours[index], title=title))
        if valued and index % layout.every == 0:
            baseline = y + thickness / 2 + font.size * 0.33
            if value >= 0:
                shapes.append(Text(end + 6, baseline, texts[index], font, style.ink))
            else:
                shapes.append(Text(start - 6, baseline, texts[index], font, style.ink, "end"))
    return shapes


def _best_for(answer: Answer) -> tuple[float, str]:
    count = group_count(answer)
    if is_words(answer):
        return 0.6, "bars compare word counts exactly"
    if is_over_time(answer):
        return 0.2, "time reads from left to right"
    return 0.9 if count > 4 else 0.7, f"{count} values with their names in full"


VISUAL = Visual(
    name="bar",
    label="Bars",
    purposes=("who is biggest", "what people say"),
    purpose="rank amounts, names in full",
    needs=Needs(split=True, groups=(1, 40)),
    options=BarOptions,
    draw=draw,
    best_for=_best_for,
    default_size=(12, 42),
)
