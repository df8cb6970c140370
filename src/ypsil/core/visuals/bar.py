"""Bar chart: amounts as level bars from zero, with room for long names."""

from __future__ import annotations

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale, LinearScale
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Options, Visual, group_count, is_over_time, is_words
from ypsil.core.visuals.frame import LABEL_PX, legend, series_of, value_range
from ypsil.core.visuals.summary import describe, value_texts


class BarOptions(Options):
    emphasis: str = Field("", title="Value to stand out", description="the others are drawn quiet")


def draw(answer: Answer, options: BarOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one bar a group and split value, the name before it and its value behind it."""
    names, series = series_of(answer)
    column = answer.of("measure")[0]
    key, key_height = legend(series, box.width, style)
    bands = BandScale(len(names), (key_height, box.height), 0.28)
    thickness = bands.width / len(series)
    font = style.body(min(LABEL_PX + 1, max(9.0, bands.step * 0.8)))
    value_font = style.body(min(font.size, max(9.0, thickness)), bold=True)
    left = min(0.4 * box.width, max(text_width(name, font) for name in names)) + 10
    texts = [value_texts(one.values, column) for one in series]
    widest = max(text_width(text, value_font) for one in texts for text in one) + 8
    low, high = value_range(series)
    scale = LinearScale((low, high), (left + (widest if low < 0 else 0), box.width - widest))
    zero = scale(0)
    shapes: list[Shape] = [*key]
    for index, name in enumerate(names):
        lines = wrap(name, left - 10, font, most=max(1, int(bands.step // font.line_height)))
        first = bands.middle(index) + font.size * 0.35 - (len(lines) - 1) * font.line_height / 2
        shapes += [
            Text(left - 10, first + row * font.line_height, line, font, style.ink, "end", name)
            for row, line in enumerate(lines)
        ]
        for number, one in enumerate(series):
            value = one.values[index]
            if value is None:
                continue
            y = bands.start(index) + number * thickness
            start, end = min(zero, scale(value)), max(zero, scale(value))
            quiet = options.emphasis and name != options.emphasis
            colour = style.colour(number) if len(series) > 1 else (style.quiet if quiet else style.accent)
            title = ", ".join(part for part in (name, one.name, texts[number][index]) if part)
            shapes.append(Rect(start, y, max(end - start, 0.5), thickness * 0.94, colour, title=title))
            x, anchor = (end + 6, "start") if value >= 0 else (start - 6, "end")
            baseline = y + thickness / 2 + value_font.size * 0.33
            shapes.append(Text(x, baseline, texts[number][index], value_font, style.ink, anchor))  # type: ignore[arg-type]
    shapes.append(Line(zero, key_height, zero, box.height, style.muted))
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Bar chart"))


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
