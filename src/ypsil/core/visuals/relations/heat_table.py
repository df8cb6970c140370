"""Heat table: amounts of two groupings as shades in a grid."""

from __future__ import annotations

import math

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale
from ypsil.core.drawing.scene import Font, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten, wrap
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX, group_labels, names_between, short_periods
from ypsil.core.visuals.shared.grid import Grid, grid_of, texts_of, texts_of_grid
from ypsil.core.visuals.shared.horizontal import SMALLEST_PX
from ypsil.core.visuals.shared.rooms import Room, value_inside
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, setting
from ypsil.core.visuals.shared.shades import KEY_PX, key_of_shades, shade
from ypsil.core.visuals.shared.summary import describe

_MOST_OF_HEIGHT = 0.3


class HeatOptions(NumberOptions, NoteOptions):
    values_on_marks: bool = setting(True, "Values in the cells where they fit", "Marks")


def draw(answer: Answer, options: HeatOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a cell for each group (rows) and series (columns); pale is low, strong is high, two hues around zero.

    Where numbers do not fit into all cells, a key says what the shades mean.
    """
    grid = grid_of(answer)
    font = style.body(LABEL_PX)
    left = min(0.35 * box.width, max(text_width(name, font) for name in grid.names)) + 10
    across = BandScale(len(grid.series), (left, box.width), 0)
    heads, top = _heads(answer, grid, across, box, style)
    number_font, height = _numbers_fit(grid, across, box.height - top, options, style), box.height
    if number_font is None:
        height -= KEY_PX
    down = BandScale(len(grid.names), (top, height), 0)
    name_font = font.sized(min(LABEL_PX, max(SMALLEST_PX, down.step * 0.85)))
    every = max(1, math.ceil(name_font.size * 1.1 / max(1.0, down.step)))
    shapes: list[Shape] = list(heads)
    for index in range(0, len(grid.names), every):
        text = shorten(grid.names[index], left - 8, name_font)
        y = down.middle(index) + name_font.size * 0.35
        shapes.append(Text(left - 8, y, text, name_font, style.ink, "end", grid.names[index]))
    shapes += _cells(grid, across, down, options, number_font, style)
    if number_font is None:
        low, high = _range(grid)
        ends = texts_of([low, high], grid.column, options)
        shapes += key_of_shades(low, high, (ends[0], ends[1]), grid.column.name, box.width, box.height, style)
    said = describe(answer, "Heat table")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=names_between(grid, every))


def _heads(answer: Answer, grid: Grid, across: BandScale, box: Box, style: HouseStyle) -> tuple[list[Text], float]:
    """Return the names of the columns and the height they take: turned where they do not fit side by side.

    Of periods as many are named as fit.
    """
    splits = answer.of("split")
    font = style.body(LABEL_PX)
    names = [one.name or grid.column.name for one in grid.series]
    heads = short_periods(answer.members(splits[0]), splits[0]) if splits and splits[0].kind == "date" else names
    labels, every = group_labels(heads, across.step, font, 2)
    if every > 1 and heads is names:
        return _turned(names, across, font.sized(min(LABEL_PX, max(SMALLEST_PX, across.step - 2))), box, style)
    if every > 1 and labels[-1]:
        # Beyond the last column there is no room to spread into.
        labels[-1] = [shorten(line, across.step, font) for line in wrap(heads[-1], across.step, font, most=2)]
    top = max((len(lines) for lines in labels), default=1) * font.line_height + 6
    texts: list[Text] = []
    for index, lines in enumerate(labels):
        for row, line in enumerate(lines):
            y = top - 8 - (len(lines) - 1 - row) * font.line_height
            texts.append(Text(across.middle(index), y, line, font, style.ink, "middle", heads[index]))
    return texts, top


def _turned(names: list[str], across: BandScale, font: Font, box: Box, style: HouseStyle) -> tuple[list[Text], float]:
    """Return names that read upwards over their columns, and the height they take."""
    room = min(_MOST_OF_HEIGHT * box.height, max(text_width(name, font) for name in names))
    texts = []
    for index, name in enumerate(names):
        x = across.middle(index) + 0.35 * font.size
        texts.append(Text(x, room + 2, shorten(name, room, font), font, style.ink, title=name, angle=-90))
    return texts, room + 8


def _range(grid: Grid) -> tuple[float, float]:
    values = [value for one in grid.series for value in one.values if value is not None]
    return min(values, default=0.0), max(values, default=1.0)


def _numbers_fit(grid: Grid, across: BandScale, height: float, options: HeatOptions, style: HouseStyle) -> Font | None:
    """Return the letters of the numbers in the cells, or None where these are too small or numbers are not wanted."""
    tall = height / max(1, len(grid.names))
    font = style.body(min(LABEL_PX, max(SMALLEST_PX, tall * 0.7)), bold=True)
    widest = max(text_width(text, font) for row in texts_of_grid(grid, options) for text in row)
    font = font.sized(min(font.size, font.size * (across.step - 8) / max(1.0, widest)))
    fits = options.values_on_marks and font.size >= SMALLEST_PX and tall - 2 >= font.size + 3
    return font if fits else None


def _cells(
    grid: Grid, across: BandScale, down: BandScale, options: HeatOptions, font: Font | None, style: HouseStyle
) -> list[Shape]:
    low, high = _range(grid)
    written = texts_of_grid(grid, options)
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
            if font is not None:
                shapes += value_inside(texts[index], room, colour, font, style)
    return shapes


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
