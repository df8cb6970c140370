"""Column chart: amounts as vertical columns from zero, side by side where they are split."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.ranks import bar
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.bars import bar_of
from ypsil.core.visuals.shared.grid import Grid, grid_of, on_scale, texts_of_grid, value_domain, value_range
from ypsil.core.visuals.shared.legends import mark_colour
from ypsil.core.visuals.shared.settings import AxisOptions, BarOptions
from ypsil.core.visuals.shared.summary import describe
from ypsil.core.visuals.shared.vertical import VerticalPlot, names_fit_vertically, vertical_plot

# The part of the range of values that a number below a column takes.
_NUMBER_ROOM = 0.08


class ColumnOptions(AxisOptions, BarOptions):
    pass


def draw(answer: Answer, options: ColumnOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one column a group and series, from a zero baseline; turned where the names do not fit below."""
    grid = grid_of(answer)
    if not names_fit_vertically(grid, box, style):
        return bar.draw(answer, options, box, style)
    domain = value_domain(on_scale(grid, box))
    if options.values_on_marks and domain[0] < 0:
        # Below the lowest column stands its number, above the names.
        low, high = value_range(on_scale(grid, box))
        domain = nice_domain(low - _NUMBER_ROOM * (high - low), high)
    plot = vertical_plot(grid, domain, options, box, style)
    shapes = [*plot.shapes, *_columns(grid, plot, options, style), *plot.front]
    said = describe(answer, "Column chart")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


def _columns(grid: Grid, plot: VerticalPlot, options: ColumnOptions, style: HouseStyle) -> list[Shape]:
    shapes: list[Shape] = []
    series, bands, scale = grid.series, plot.bands, plot.scale
    width = bands.width / len(series)
    font = style.body(LABEL_PX - 1, bold=True)
    texts = texts_of_grid(grid, options)
    widest = max(text_width(text, font) for one in texts for text in one)
    fits = options.values_on_marks and widest <= width + (bands.step - bands.width if len(series) == 1 else 0)
    gap = 1 if len(series) > 1 and width > 6 else 0
    zero = scale(0)
    for number, one in enumerate(series):
        for index, value in enumerate(one.values):
            if value is None:
                continue
            x, end = bands.start(index) + number * width, scale(value)
            top, foot = (end, zero) if end < zero else (zero, end)
            text = texts[number][index]
            colour = mark_colour(grid.names[index], number, len(series), options.emphasis, style)
            title = grid.title(number, index, text)
            shapes.append(bar_of(x, top, width - gap, max(foot - top, 0.5), colour, style, title))
            if fits:
                y = top - 6 if value >= 0 else foot + 15
                shapes.append(Text(x + width / 2, y, text, font, style.ink, "middle"))
    return shapes


VISUAL = Visual(
    name="column",
    label="Columns",
    purposes=("how it changes", "who is biggest", "how it spreads"),
    purpose="compare amounts, or follow them over a few periods",
    needs=Needs(measures=(1, 4), split="any", groups=(1, 60), series=(1, 6)),
    options=ColumnOptions,
    draw=draw,
    native="columns",
    advice=(
        rule(0.8, "{groups} periods: columns show each amount", time=True, groups=(2, 24)),
        rule(0.4, "many periods: a line is calmer", time=True),
        rule(0.5, "columns show how much falls in each class; a histogram has no gaps", classes=True),
        rule(0.85, "{groups} values in their order, side by side", ordered=True, groups=(3, 12)),
        rule(0.75, "{groups} values side by side", groups=(1, 8)),
        rule(0.45, "names have little room under columns", groups=(9, MANY)),
    ),
)
