"""Waterfall: how a sum builds up, step by step."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Line, Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.bars import bar_of
from ypsil.core.visuals.shared.comparing import AS_SAID, Good, unsaid, way_of
from ypsil.core.visuals.shared.grid import Grid, Series, grid_of, texts_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import AxisOptions, setting
from ypsil.core.visuals.shared.summary import describe
from ypsil.core.visuals.shared.vertical import vertical_plot


class WaterfallOptions(AxisOptions):
    total_name: str = setting("Total", "Name of the sum", "Names", "empty for none", max_length=60)
    good: Good = setting(AS_SAID, "Which way is good", "Colours", "as said of the table's column")


def draw(answer: Answer, options: WaterfallOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each value from where the one before ended, and their sum at the end from zero."""
    grid = grid_of(answer)
    values = list(grid.series[0].values)
    ends = [0.0]
    for value in values:
        ends.append(ends[-1] + (value or 0.0))
    names, groups = list(grid.names), list(grid.groups)
    if options.total_name:
        names, groups = [*names, options.total_name], [*groups, options.total_name]
        values.append(ends[-1])
    per = replace(grid.per, kind="category", grain=None) if options.total_name else grid.per
    shown = Grid(tuple(groups), names, [Series("", tuple(values))], per, grid.column)
    low, high = min(ends), max(ends)
    plot = vertical_plot(shown, nice_domain(low, high) if low != high else (0.0, 1.0), options, box, style)
    texts = texts_of(values, grid.column, options)
    font = style.body(LABEL_PX - 1, bold=True)
    shapes: list[Shape] = list(plot.shapes)
    fits = max(text_width(f"+{text}", font) for text in texts) <= plot.bands.step - 2
    way = way_of(options.good, grid.column)
    for index, value in enumerate(values):
        if value is None:
            continue
        is_total = options.total_name and index == len(values) - 1
        start, stop = (0.0, ends[-1]) if is_total else (ends[index], ends[index + 1])
        top, foot = plot.scale(max(start, stop)), plot.scale(min(start, stop))
        x = plot.bands.start(index)
        colour = style.accent if is_total else _colour(value, way, style)
        title = mark_title(names[index], texts[index])
        shapes.append(bar_of(x, top, plot.bands.width, max(foot - top, 0.75), colour, style, title))
        if index + 1 < len(values):
            y = plot.scale(stop)
            shapes.append(Line(x + plot.bands.width, y, plot.bands.start(index + 1), y, style.muted, 1))
        if fits:
            text = texts[index] if is_total or value < 0 else f"+{texts[index]}"
            shapes.append(Text(plot.bands.middle(index), top - 5, text, font, style.ink, "middle"))
    hints = unsaid(options.good, grid.column)
    said = describe(answer, "Waterfall chart")
    return Scene(box.width, box.height, (*shapes, *plot.front), answer.sentence, said, hints, nameless=plot.nameless)


def _colour(value: float, way: Good, style: HouseStyle) -> str:
    if way == "neither":
        return style.accent if value >= 0 else style.colour(1)
    return style.rise if (value >= 0) == (way == "up") else style.fall


VISUAL = Visual(
    name="waterfall",
    label="Waterfall",
    purposes=("how it changes", "share of a whole"),
    purpose="how a sum builds up or shrinks, step by step",
    needs=Needs(groups=(2, 24)),
    options=WaterfallOptions,
    draw=draw,
    advice=(
        rule(0.7, "rises and falls that add up", negative=True),
        rule(0.35, "how {groups} amounts add up", groups=(2, 12)),
        rule(0.2, "many steps are hard to follow", groups=(13, MANY)),
    ),
)
