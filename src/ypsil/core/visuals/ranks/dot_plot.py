"""Dot plot: amounts as dots on a common scale that need not start at zero."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import horizontal_value_axis
from ypsil.core.visuals.shared.grid import grid_of, on_scale, texts_of_grid
from ypsil.core.visuals.shared.horizontal import horizontal_plot
from ypsil.core.visuals.shared.legends import mark_colour
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, setting
from ypsil.core.visuals.shared.summary import describe


class DotOptions(NumberOptions, NoteOptions):
    from_zero: bool = setting(False, "Values from zero", "Axes", "a dot's place is read, not its length")
    lowest: float | None = setting(
        None, "Scale at least from", "Axes", "such as 1 for ratings from 1 to 5", allow_inf_nan=False
    )
    highest: float | None = setting(None, "Scale at least to", "Axes", allow_inf_nan=False)
    emphasis: str = setting("", "Value to stand out", "Colours", "the others are drawn quiet", max_length=300)


def draw(answer: Answer, options: DotOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a row of dots a group, one for each series, over a scale of round values."""
    grid = grid_of(answer)
    values = [value for one in on_scale(grid, box) for value in one.values if value is not None]
    ends = [end for end in (options.lowest, options.highest) if end is not None]
    low, high = min([*values, *ends], default=0.0), max([*values, *ends], default=0.0)
    domain = nice_domain(min(0.0, low), max(0.0, high)) if options.from_zero or low == high else nice_domain(low, high)
    plot = horizontal_plot(grid, domain, [], box, style, rows=1, foot=26, value_room=False)
    scale = replace(plot.scale, range=(plot.left + 8, box.width - 20))
    bottom = box.height - 26
    radius = min(7.0, max(2.5, plot.bands.step * 0.28))
    shapes: list[Shape] = [
        *plot.shapes,
        *horizontal_value_axis(domain, grid.column, plot.top, bottom, scale, style, options),
    ]
    shapes += [
        Line(plot.left, plot.bands.middle(index), box.width, plot.bands.middle(index), style.grid)
        for index in range(len(grid.names))
    ]
    written = texts_of_grid(grid, options)
    for number, one in enumerate(grid.series):
        texts = written[number]
        for index, value in enumerate(one.values):
            if value is None:
                continue
            x, y = scale(value), plot.bands.middle(index)
            colour = mark_colour(grid.names[index], number, len(grid.series), options.emphasis, style)
            title = grid.title(number, index, texts[index])
            shapes.append(Rect(x - radius, y - radius, 2 * radius, 2 * radius, colour, radius, title))
    said = describe(answer, "Dot plot")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


VISUAL = Visual(
    name="dot_plot",
    label="Dots on a scale",
    purposes=("who is biggest",),
    purpose="compare values that lie close together",
    needs=Needs(measures=(1, 5), split="any", groups=(1, 60), series=(1, 6)),
    options=DotOptions,
    draw=draw,
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(
            0.66,
            "{series} dots a row: differences show without bars",
            source="Cleveland and McGill, “Graphical Perception” (1984): position on a common scale is read best",
            series=(2, MANY),
        ),
        rule(0.52, "values close together differ more clearly than as bars"),
    ),
)
