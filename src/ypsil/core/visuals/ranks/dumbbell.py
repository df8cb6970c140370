"""Dumbbell chart: two values a group, joined by a line that shows how far they lie apart."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Anchor, Line, Rect, Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import Grid, grid_of, texts_of_grid
from ypsil.core.visuals.shared.horizontal import HorizontalPlot, horizontal_plot
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, setting
from ypsil.core.visuals.shared.summary import describe


class DumbbellOptions(NumberOptions, NoteOptions):
    values_on_marks: bool = setting(True, "Values beside the dots", "Marks")


def draw(answer: Answer, options: DumbbellOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw two dots a group; the first series is quiet, the second in the accent colour."""
    grid = grid_of(answer)
    values = [value for one in grid.series for value in one.values if value is not None]
    low, high = min(values, default=0.0), max(values, default=1.0)
    domain = (low, high) if low != high else nice_domain(low, high)
    plot = horizontal_plot(grid, domain, [], box, style, rows=1, value_room=False)
    texts = texts_of_grid(grid, options)
    room = max((text_width(text, plot.value_font) for row in texts for text in row), default=0.0)
    if room > 0.22 * box.width:
        options = options.model_copy(update={"values_on_marks": False})
    room = room + 16 if options.values_on_marks else 12
    start = plot.left + room
    plot = replace(plot, scale=replace(plot.scale, range=(start, max(start + 10, box.width - room))))
    shapes = list(plot.shapes)
    for index in range(len(grid.names)):
        shapes += _pair(grid, index, texts, plot, options, style)
    said = describe(answer, "Dumbbell chart")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


def _pair(
    grid: Grid, index: int, texts: list[list[str]], plot: HorizontalPlot, options: DumbbellOptions, style: HouseStyle
) -> list[Shape]:
    y = plot.bands.middle(index)
    radius = min(7.0, max(2.5, plot.bands.step * 0.26))
    ends = [(one.values[index], number) for number, one in enumerate(grid.series)]
    present = [(value, number) for value, number in ends if value is not None]
    shapes: list[Shape] = []
    if len(present) == 2:
        shapes.append(Line(plot.scale(present[0][0]), y, plot.scale(present[1][0]), y, style.quiet, 3))
    highest = max(present, default=(0.0, 0))
    for value, number in present:
        x = plot.scale(value)
        title = mark_title(grid.names[index], texts[number][index], series=grid.series[number].name)
        shapes.append(Rect(x - radius, y - radius, 2 * radius, 2 * radius, style.colour(number), radius, title))
        if options.values_on_marks and index % plot.every == 0:
            right = (value, number) == highest
            anchor: Anchor = "start" if right else "end"
            at = x + (radius + 5 if right else -radius - 5)
            baseline = y + plot.value_font.size * 0.34
            shapes.append(Text(at, baseline, texts[number][index], plot.value_font, style.ink, anchor))
    return shapes


VISUAL = Visual(
    name="dumbbell",
    label="Dumbbells",
    purposes=("who is biggest", "how it changes"),
    purpose="two values of each, and the distance between them",
    needs=Needs(measures=(1, 2), split="any", groups=(1, 30), series=(2, 2)),
    options=DumbbellOptions,
    draw=draw,
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.8, "two values for each of {groups}: the gap is what one sees", groups=(3, 30)),
        rule(0.5, "two values for each"),
    ),
)
