"""Lollipop chart: a dot at each amount on a thin stem, calmer than bars where there are many."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Anchor, Line, Rect, Scene, Shape, Text
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import grid_of, on_scale, texts_of, value_range
from ypsil.core.visuals.shared.horizontal import horizontal_plot
from ypsil.core.visuals.shared.legends import mark_colour
from ypsil.core.visuals.shared.settings import EmphasisOptions, MarkOptions
from ypsil.core.visuals.shared.summary import describe


class LollipopOptions(MarkOptions, EmphasisOptions):
    pass


def draw(answer: Answer, options: LollipopOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one stem with a dot a group, the name before it and its value behind it."""
    grid = grid_of(answer)
    texts = texts_of(grid.series[0].values, grid.column, options)
    plot = horizontal_plot(grid, value_range(on_scale(grid, box)), [texts], box, style)
    radius = min(7.0, max(2.5, plot.bands.step * 0.26))
    start, end = plot.scale.range
    plot = replace(plot, scale=replace(plot.scale, range=(start, end - radius)))
    shapes: list[Shape] = [*plot.shapes, Line(plot.scale(0), plot.top, plot.scale(0), box.height, style.muted)]
    for index, value in enumerate(grid.series[0].values):
        if value is None:
            continue
        x, y = plot.scale(value), plot.bands.middle(index)
        colour = mark_colour(grid.names[index], 0, 1, options.emphasis, style)
        title = grid.title(0, index, texts[index])
        shapes.append(Line(plot.scale(0), y, x, y, colour, 2))
        shapes.append(Rect(x - radius, y - radius, 2 * radius, 2 * radius, colour, radius, title))
        if options.values_on_marks and index % plot.every == 0:
            side = 1 if value >= 0 else -1
            anchor: Anchor = "start" if value >= 0 else "end"
            at = x + side * (radius + 5)
            shapes.append(Text(at, y + plot.value_font.size * 0.34, texts[index], plot.value_font, style.ink, anchor))
    said = describe(answer, "Lollipop chart")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


VISUAL = Visual(
    name="lollipop",
    label="Lollipops",
    purposes=("who is biggest",),
    purpose="rank many amounts, with little ink",
    needs=Needs(groups=(1, 60)),
    options=LollipopOptions,
    draw=draw,
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.62, "{groups} values, lighter than bars", groups=(12, MANY)),
        rule(0.5, "{groups} values, lighter than bars"),
    ),
)
