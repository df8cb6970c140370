"""Heat table: amounts of two groupings as shades in a grid."""

from __future__ import annotations

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten, wrap
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.frame import (
    LABEL_PX,
    Grid,
    Room,
    grid_of,
    group_labels,
    short_periods,
    texts_of_grid,
    value_inside,
)
from ypsil.core.visuals.level import SMALLEST_PX
from ypsil.core.visuals.settings import NoteOptions, NumberOptions, setting
from ypsil.core.visuals.summary import describe


class HeatOptions(NumberOptions, NoteOptions):
    values_on_marks: bool = setting(True, "Values in the cells where they fit", "Marks")


def draw(answer: Answer, options: HeatOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a cell for each group (rows) and series (columns); pale is low, strong is high, two hues around zero."""
    grid = grid_of(answer)
    font = style.body(LABEL_PX)
    left = min(0.35 * box.width, max(text_width(name, font) for name in grid.names)) + 10
    splits = answer.of("split")
    heads = [one.name or grid.column.name for one in grid.series]
    if splits and splits[0].kind == "date":
        heads = short_periods(answer.members(splits[0]), splits[0])
    across = BandScale(len(heads), (left, box.width), 0)
    labels, every = group_labels(heads, across.step, font, 2)
    if every > 1 and labels[-1]:
        # Beyond the last column there is no room to spread into.
        labels[-1] = [shorten(line, across.step, font) for line in wrap(heads[-1], across.step, font, most=2)]
    top = max((len(lines) for lines in labels), default=1) * font.line_height + 6
    down = BandScale(len(grid.names), (top, box.height), 0)
    shapes: list[Shape] = []
    for index, lines in enumerate(labels):
        for row, line in enumerate(lines):
            y = top - 8 - (len(lines) - 1 - row) * font.line_height
            shapes.append(Text(across.middle(index), y, line, font, style.ink, "middle", heads[index]))
    name_font = font.sized(min(LABEL_PX, max(SMALLEST_PX, down.step * 0.85)))
    every = max(1, -(-int(name_font.size * 1.1) // max(1, int(down.step))))
    for index in range(0, len(grid.names), every):
        text = shorten(grid.names[index], left - 8, name_font)
        y = down.middle(index) + name_font.size * 0.35
        shapes.append(Text(left - 8, y, text, name_font, style.ink, "end", grid.names[index]))
    return Scene(
        box.width, box.height, (*shapes, *_cells(grid, across, down, options, style)), answer.sentence,
        describe(answer, "Heat table"),
    )  # fmt: skip


def _cells(grid: Grid, across: BandScale, down: BandScale, options: HeatOptions, style: HouseStyle) -> list[Shape]:
    values = [value for one in grid.series for value in one.values if value is not None]
    low, high = min(values, default=0.0), max(values, default=1.0)
    font = style.body(min(LABEL_PX, max(SMALLEST_PX, down.step * 0.7)), bold=True)
    written = texts_of_grid(grid, options)
    widest = max(text_width(text, font) for row in written for text in row)
    font = font.sized(min(font.size, font.size * (across.step - 8) / max(1.0, widest)))
    fits = options.values_on_marks and font.size >= SMALLEST_PX
    shapes: list[Shape] = []
    for number, one in enumerate(grid.series):
        texts = written[number]
        for index, value in enumerate(one.values):
            if value is None:
                continue
            colour = shade(value, low, high, style)
            room = Room(across.start(number) + 1, down.start(index) + 1, across.step - 2, max(0.5, down.step - 2))
            title = grid.title(number, index, texts[index])
            shapes.append(Rect(room.x, room.y, room.width, room.height, colour, 2, title))
            if fits:
                shapes += value_inside(texts[index], room, colour, font, style)
    return shapes


def shade(value: float, low: float, high: float, style: HouseStyle) -> str:
    """Return the colour of a value: from pale to strong, or to two sides of zero where values lie on both."""
    if low < 0 < high:
        return style.diverge(value / max(-low, high))
    return style.ramp((value - low) / (high - low) if high > low else 0.5)


VISUAL = Visual(
    name="heat_table",
    label="Heat table",
    purposes=("what goes together", "how it spreads"),
    purpose="where amounts are high and low over two groupings",
    needs=Needs(measures=(1, 12), split="any", groups=(2, 60), series=(2, 40)),
    options=HeatOptions,
    draw=draw,
    advice=(
        rule(0.66, "{groups} by {series} values: shades show where they are high", series=(5, 40)),
        rule(0.45, "{groups} by {series} values"),
    ),
)
