"""Bar chart: amounts as horizontal bars from zero, with room for long names."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape, Text
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.bars import bar_of
from ypsil.core.visuals.shared.grid import Grid, grid_of, on_scale, texts_of_grid, value_range
from ypsil.core.visuals.shared.horizontal import HIGHEST, HorizontalPlot, horizontal_plot
from ypsil.core.visuals.shared.legends import mark_colour
from ypsil.core.visuals.shared.reference_lines import ReferenceLine, reference_lines_of
from ypsil.core.visuals.shared.rooms import sheet_behind
from ypsil.core.visuals.shared.settings import BarOptions
from ypsil.core.visuals.shared.summary import describe


def draw(answer: Answer, options: BarOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one bar a group and series, the name before it and its value behind it."""
    grid = grid_of(answer)
    texts = texts_of_grid(grid, options)
    lines = reference_lines_of(grid, options)
    low, high = value_range(on_scale(grid, box))
    ends = [end for line in lines for end in (line.value, line.end) if end is not None]
    low, high = min([low, *ends]), max([high, *ends])
    plot = horizontal_plot(grid, (low, high), texts, box, style, head=20.0 if lines else 0.0)
    zero = plot.scale(0)
    marks: list[Shape] = []
    values: list[Text] = []
    for number in range(len(grid.series)):
        bars, numbers = _bars(grid, number, texts[number], plot, options, style)
        marks += bars
        values += numbers
    marks.append(Line(zero, plot.top, zero, box.height, style.muted))
    marks += _lines_down(lines, plot, plot.top, box, style)
    if lines:
        marks += [sheet_behind(text, style) for text in values]
    shapes = [*plot.shapes, *_bands_down(lines, plot, box, style), *marks, *values]
    said = describe(answer, "Bar chart")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


def _bars(
    grid: Grid, number: int, texts: list[str], plot: HorizontalPlot, options: BarOptions, style: HouseStyle
) -> tuple[list[Shape], list[Text]]:
    shapes: list[Shape] = []
    said: list[Text] = []
    one = grid.series[number]
    font, thickness, zero = plot.value_font, plot.thickness, plot.scale(0)
    valued = options.values_on_marks and thickness * plot.every >= font.size * 0.75
    for index, value in enumerate(one.values):
        if value is None:
            continue
        y = plot.bands.start(index) + number * thickness
        start, end = sorted((zero, plot.scale(value)))
        title = grid.title(number, index, texts[index])
        colour = mark_colour(grid.names[index], number, len(grid.series), options.emphasis, style)
        shapes.append(bar_of(start, y, max(end - start, 0.5), thickness * 0.94, colour, style, title))
        if valued and index % plot.every == 0:
            baseline = max(y + thickness / 2 + font.size * 0.33, HIGHEST * font.size)
            if value >= 0:
                said.append(Text(end + 6, baseline, texts[index], font, style.ink))
            else:
                said.append(Text(start - 6, baseline, texts[index], font, style.ink, "end"))
    return shapes, said


def _lines_down(
    lines: list[ReferenceLine], plot: HorizontalPlot, top: float, box: Box, style: HouseStyle
) -> list[Shape]:
    """Return the lines across as vertical lines, their names at the head."""
    font = style.body(LABEL_PX - 1, bold=True)
    shapes: list[Shape] = []
    free = 0.0
    for line in sorted(lines, key=lambda one: one.middle):
        x = plot.scale(line.middle)
        text = f"{line.name} {line.text}"
        half = text_width(text, font) / 2
        if line.end is None:
            shapes.append(Line(x, top, x, box.height, style.ink, 1.25, text, dash="5 4"))
        middle = max(min(max(x, half), box.width - half), free + half)
        free = middle + half + 10
        shapes.append(Text(middle, top - 4, text, font, style.ink, "middle"))
    return shapes


def _bands_down(lines: list[ReferenceLine], plot: HorizontalPlot, box: Box, style: HouseStyle) -> list[Shape]:
    """Return the bands across as light vertical strips behind the bars."""
    strips: list[Shape] = []
    for line in lines:
        if line.end is not None:
            start, stop = plot.scale(line.value), plot.scale(line.end)
            title = f"{line.name} {line.text}"
            room = (start, plot.top, stop - start, box.height - plot.top)
            strips.append(Rect(*room, style.quiet, title=title, opacity=0.4))
    return strips


VISUAL = Visual(
    name="bar",
    label="Bars",
    purposes=("who is biggest", "what people say"),
    purpose="rank amounts, names in full",
    needs=Needs(measures=(1, 4), split="any", groups=(1, 60), series=(1, 6)),
    options=BarOptions,
    draw=draw,
    native="bars",
    advice=(
        rule(0.6, "bars compare word counts exactly", words=True),
        rule(0.2, "time reads from left to right", time=True),
        rule(0.4, "classes read from left to right", classes=True),
        rule(0.9, "{groups} values with their names in full", groups=(5, 30)),
        rule(0.7, "{groups} values with their names in full", groups=(1, 4)),
        rule(0.6, "many values: the first few say more", groups=(31, MANY)),
    ),
)
