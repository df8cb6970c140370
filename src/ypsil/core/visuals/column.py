"""Column chart: amounts as upright bars from zero, side by side where there is a split."""

from __future__ import annotations

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale, LinearScale
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.questions.model import Answer, AnswerColumn
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Options, Visual, group_count, is_over_time
from ypsil.core.visuals.frame import (
    LABEL_PX,
    Series,
    axis_room,
    group_labels,
    legend,
    mark_colour,
    series_of,
    value_axis,
    value_domain,
)
from ypsil.core.visuals.summary import describe, value_texts


class ColumnOptions(Options):
    values_on_marks: bool = Field(True, title="Values on the columns where they fit")
    emphasis: str = Field("", title="Value to stand out", description="the others are drawn quiet")


def draw(answer: Answer, options: ColumnOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one column a group and split value, from a zero baseline."""
    names, series = series_of(answer)
    column = answer.of("measure")[0]
    domain = value_domain(series)
    font = style.body(LABEL_PX)
    key, key_height = legend(series, box.width, style)
    left = axis_room(domain, column, style)
    bands = BandScale(len(names), (left, box.width), 0.3 if len(names) < 30 else 0.15)
    labels, _ = group_labels(names, bands.step, font)
    bottom = box.height - max((len(lines) for lines in labels), default=1) * font.line_height - 8
    scale = LinearScale(domain, (bottom, key_height + 20))
    shapes: list[Shape] = [*key, *value_axis(domain, column, left, box.width, scale, style)]
    shapes += _columns(names, series, bands, scale, column, options, style)
    for index, lines in enumerate(labels):
        for row, line in enumerate(lines):
            y = bottom + 18 + row * font.line_height
            shapes.append(Text(bands.middle(index), y, line, font, style.ink, "middle", names[index]))
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Column chart"))


def _columns(
    names: list[str],
    series: list[Series],
    bands: BandScale,
    scale: LinearScale,
    column: AnswerColumn,
    options: ColumnOptions,
    style: HouseStyle,
) -> list[Shape]:
    shapes: list[Shape] = []
    width = bands.width / len(series)
    font = style.body(LABEL_PX - 1, bold=True)
    texts = [value_texts(one.values, column) for one in series]
    widest = max(text_width(text, font) for one in texts for text in one)
    fits = options.values_on_marks and widest <= width + (bands.step - bands.width if len(series) == 1 else 0)
    for number, one in enumerate(series):
        for index, value in enumerate(one.values):
            if value is None:
                continue
            x = bands.start(index) + number * width
            top, foot = min(scale(value), scale(0)), max(scale(value), scale(0))
            title = ", ".join(part for part in (names[index], one.name, texts[number][index]) if part)
            gap = 1 if len(series) > 1 and width > 6 else 0
            colour = mark_colour(names[index], number, len(series), options.emphasis, style)
            shapes.append(Rect(x, top, width - gap, max(foot - top, 0.5), colour, title=title))
            if fits:
                y = top - 6 if value >= 0 else foot + 15
                shapes.append(Text(x + width / 2, y, texts[number][index], font, style.ink, "middle"))
    return shapes


def _best_for(answer: Answer) -> tuple[float, str]:
    count = group_count(answer)
    if is_over_time(answer):
        return (
            (0.8, f"{count} periods: columns show each amount")
            if count <= 24
            else (0.4, "many periods: a line is calmer")
        )
    return (0.75, f"{count} values side by side") if count <= 8 else (0.45, "names have little room under columns")


VISUAL = Visual(
    name="column",
    label="Columns",
    purposes=("how it changes", "who is biggest"),
    purpose="compare amounts, or follow them over a few periods",
    needs=Needs(split=True, groups=(1, 60)),
    options=ColumnOptions,
    draw=draw,
    best_for=_best_for,
    default_size=(12, 42),
)
