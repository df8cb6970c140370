"""Columns and a line: an amount and a rate that goes with it, each with its own scale."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX, axis_name, axis_room, axis_texts, axis_ticks, vertical_tick_count
from ypsil.core.visuals.shared.bars import bar_of
from ypsil.core.visuals.shared.grid import Grid, Series, grid_of, on_scale, texts_of, value_domain
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import AxisOptions
from ypsil.core.visuals.shared.summary import describe
from ypsil.core.visuals.shared.vertical import VerticalPlot, vertical_plot


class CombinedOptions(AxisOptions):
    pass


def draw(answer: Answer, options: CombinedOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the first measure as columns on the left scale, the second as a line on the right one."""
    grid = grid_of(answer)
    amounts, rates = grid.series
    second = answer.of("measure")[1]
    scales = on_scale(grid, box)
    domain = value_domain([scales[1]])
    room = axis_room(domain, second, style)
    inner = Box(box.width - room, box.height, box.beside)
    columns = replace(grid, series=[replace(amounts, name="")])
    plot = vertical_plot(columns, value_domain([scales[0]]), options, inner, style, has_legend=False)
    scale = LinearScale(domain, plot.scale.range)
    shapes = [*plot.shapes, *_columns(columns, plot, options, style)]
    shapes += _line(grid, rates, plot, scale, texts_of(rates.values, second, options), style)
    font = style.body(LABEL_PX - 1)
    values = axis_ticks(domain, second, vertical_tick_count(scale))
    for value, label in zip(values, axis_texts(values, second), strict=True):
        shapes.append(Text(box.width - room + 8, scale(value) + 4, label, font, style.colour(1)))
    if options.axis_name and plot.top > 30:
        taken = text_width(axis_name(grid.column, options), font) + 16
        name = shorten(axis_name(second, options), max(20.0, box.width - taken), font)
        shapes.append(Text(box.width, font.size, name, font, style.colour(1), "end"))
    said = describe(answer, "Columns with a line")
    return Scene(box.width, box.height, (*shapes, *plot.front), answer.sentence, said, nameless=plot.nameless)


def _columns(grid: Grid, plot: VerticalPlot, options: CombinedOptions, style: HouseStyle) -> list[Shape]:
    texts = texts_of(grid.series[0].values, grid.column, options)
    shapes: list[Shape] = []
    for index, value in enumerate(grid.series[0].values):
        if value is not None:
            top, foot = sorted((plot.scale(value), plot.scale(0)))
            title = mark_title(grid.names[index], texts[index], series=grid.column.name)
            x = plot.bands.start(index)
            shapes.append(bar_of(x, top, plot.bands.width, max(foot - top, 0.5), style.accent, style, title))
    return shapes


def _line(
    grid: Grid, rates: Series, plot: VerticalPlot, scale: LinearScale, texts: list[str], style: HouseStyle
) -> list[Shape]:
    commands, marks = [], []
    pen_down = False
    colour = style.colour(1)
    for index, value in enumerate(rates.values):
        if value is None:
            pen_down = False
            continue
        x, y = plot.bands.middle(index), scale(value)
        commands.append(f"{'L' if pen_down else 'M'}{x:.1f} {y:.1f}")
        pen_down = True
        marks.append(
            Rect(x - 3.5, y - 3.5, 7, 7, colour, 3.5, mark_title(grid.names[index], texts[index], series=rates.name))
        )
    path = "".join(commands)
    return [
        Path(path, stroke=style.paper, stroke_width=5),
        Path(path, stroke=colour, stroke_width=2.5 * style.charts.line),
        *marks,
    ]


VISUAL = Visual(
    name="combined",
    label="Columns and a line",
    purposes=("how it changes", "what goes together"),
    purpose="an amount, and a rate that goes with it",
    needs=Needs(measures=(2, 2), groups=(1, 60), one_unit=False, ordered=True),
    options=CombinedOptions,
    draw=draw,
    native="columns and line",
    advice=(
        rule(0.8, "two measures with different units over {groups} periods", time=True, one_unit=False, groups=(1, 24)),
        rule(0.35, "two measures with one unit share one scale better", one_unit=True),
        rule(0.5, "many periods: two charts below each other are calmer", groups=(25, MANY)),
        rule(0.55, "two measures with different units"),
    ),
)
