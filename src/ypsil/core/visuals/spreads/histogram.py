"""Histogram: how many values fall in each class, without gaps, since one class starts where the last one ends."""

from __future__ import annotations

from collections.abc import Sequence

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Line, Rect, Scene, Shape, Text
from ypsil.core.drawing.ticks import ticks
from ypsil.core.style.house import HouseStyle
from ypsil.core.tables.classes import border_texts
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX, axis_texts
from ypsil.core.visuals.shared.grid import Grid, grid_of, on_scale, texts_of, value_domain
from ypsil.core.visuals.shared.settings import AxisOptions, setting
from ypsil.core.visuals.shared.summary import describe
from ypsil.core.visuals.shared.vertical import VerticalPlot, vertical_plot


class HistogramOptions(AxisOptions):
    values_on_marks: bool = setting(False, "Counts on the columns where they fit", "Marks")


def draw(answer: Answer, options: HistogramOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one column a class, the classes' borders below."""
    grid = grid_of(answer)
    unnamed = Grid(grid.groups, [""] * len(grid.names), grid.series, grid.per, grid.column)
    plot = vertical_plot(unnamed, value_domain(on_scale(grid, box)), options, box, style, padding=0.0)
    texts = texts_of(grid.series[0].values, grid.column, options)
    font = style.body(LABEL_PX - 1, bold=True)
    shapes: list[Shape] = list(plot.shapes)
    for index, value in enumerate(grid.series[0].values):
        if not value:
            continue
        top, x = plot.scale(value), plot.bands.start(index)
        title = grid.title(0, index, texts[index])
        shapes.append(Rect(x + 0.5, top, max(0.5, plot.bands.step - 1), plot.bottom - top, style.accent, title=title))
        if options.values_on_marks and text_width(texts[index], font) < plot.bands.step - 2:
            shapes.append(Text(plot.bands.middle(index), top - 5, texts[index], font, style.ink, "middle"))
    shapes += _borders(grid, plot, box, style)
    return Scene(box.width, box.height, (*shapes, *plot.front), answer.sentence, describe(answer, "Histogram"))


def _borders(grid: Grid, plot: VerticalPlot, box: Box, style: HouseStyle) -> list[Shape]:
    """Name as many borders as have room."""
    font = style.body(LABEL_PX)
    if not _are_round(grid.per.edges):
        return _ticks(grid, plot, box, font, style)
    texts = border_texts(grid.per.edges, grid.per.unit)
    widest = max(text_width(text, font) for text in texts) + 10
    every = max(1, int(-(-widest // plot.bands.step)))
    shapes: list[Shape] = []
    free = 0.0
    for index in range(0, len(texts), every):
        half = text_width(texts[index], font) / 2
        x = min(max(plot.left + index * plot.bands.step, half), box.width - half)
        if x - half < free:
            continue
        free = x + half + 6
        shapes.append(Text(x, plot.bottom + 18, texts[index], font, style.ink, "middle"))
    return shapes


def _are_round(edges: Sequence[float]) -> bool:
    """Tell whether borders are multiples of a round width, short enough to be read."""
    width = edges[1] - edges[0]
    multiples = all(abs(edge / width - round(edge / width)) < 1e-6 for edge in edges)
    return multiples and max(map(abs, edges)) < _LONG and len(f"{width:g}") <= _SHORT_LETTERS


def _ticks(grid: Grid, plot: VerticalPlot, box: Box, font: Font, style: HouseStyle) -> list[Shape]:
    """Stand round numbers at their places between borders that are not round themselves."""
    low, high = grid.per.edges[0], grid.per.edges[-1]
    values = [value for value in ticks(low, high, max(2, int((plot.right - plot.left) // 90))) if low <= value <= high]
    column = AnswerColumn(grid.per.name, "number", "measure", grid.per.unit)
    shapes: list[Shape] = []
    for value, text in zip(values, axis_texts(values, column), strict=True):
        half = text_width(text, font) / 2
        x = plot.left + (value - low) / (high - low) * (plot.right - plot.left)
        shapes.append(Line(x, plot.bottom, x, plot.bottom + 4, style.muted))
        shapes.append(Text(min(max(x, half), box.width - half), plot.bottom + 18, text, font, style.ink, "middle"))
    return shapes


_LONG, _SHORT_LETTERS = 1e6, 5


VISUAL = Visual(
    name="histogram",
    label="Histogram",
    purposes=("how it spreads",),
    purpose="how often values of each size occur",
    needs=Needs(groups=(1, 200), classes="needed", negative=False),
    options=HistogramOptions,
    draw=draw,
    native="histogram",
    advice=(rule(0.95, "{groups} classes of numbers: where most values lie", classes=True),),
)
