"""Population pyramid: two groups back to back, level by level."""

from __future__ import annotations

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale, LinearScale
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX, axis_texts, axis_ticks, names_between
from ypsil.core.visuals.shared.grid import grid_of, texts_of_grid
from ypsil.core.visuals.shared.horizontal import SMALLEST_PX
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, PatternOptions, setting
from ypsil.core.visuals.shared.summary import describe


class PyramidOptions(NumberOptions, PatternOptions, NoteOptions):
    from_below: bool = setting(True, "First group at the foot", "Axes", "the youngest stand at the foot")


def draw(answer: Answer, options: PyramidOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the first series to the left and the second to the right of the groups' names, on one scale."""
    grid = grid_of(answer)
    left, right = grid.series
    order = list(range(len(grid.names)))[:: -1 if options.from_below else 1]
    bands = BandScale(len(order), (28, box.height - 24), 0.14)
    font = style.body(min(LABEL_PX, max(SMALLEST_PX, bands.step * 0.8)))
    middle = min(0.3 * box.width, max(text_width(name, font) for name in grid.names)) + 16
    highest = max([0.0, *(value for one in grid.series for value in one.values if value is not None)]) or 1.0
    reach = (box.width - middle) / 2 - 4
    scale = LinearScale((0, highest), (0, reach))
    starts = ((box.width - middle) / 2, (box.width + middle) / 2)
    heading = style.body(LABEL_PX, bold=True)
    shapes: list[Shape] = [
        Text(starts[0], 14, shorten(left.name, reach, heading), heading, style.colour(0), "end", left.name),
        Text(starts[1], 14, shorten(right.name, reach, heading), heading, style.colour(1), title=right.name),
    ]
    texts = texts_of_grid(grid, options)
    every = max(1, -(-int(font.size * 1.1) // max(1, int(bands.step))))
    for place, index in enumerate(order):
        if place % every == 0:
            name = shorten(grid.names[index], middle - 8, font)
            baseline = bands.middle(place) + font.size * 0.35
            shapes.append(Text(box.width / 2, baseline, name, font, style.ink, "middle", grid.names[index]))
        for side, one in enumerate(grid.series):
            value = one.values[index]
            if value is None:
                continue
            width = scale(value)
            x = starts[0] - width if side == 0 else starts[1]
            title = grid.title(side, index, texts[side][index])
            shapes.append(Rect(x, bands.start(place), max(width, 0.5), bands.width, style.colour(side), title=title))
    shapes += _foot(highest, grid.column, scale, starts, box, style, options)
    said = describe(answer, "Population pyramid")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=names_between(grid, every))


def _foot(
    highest: float, column: AnswerColumn, scale: LinearScale, starts: tuple[float, float], box: Box, style: HouseStyle,
    options: PyramidOptions,
) -> list[Shape]:  # fmt: skip
    values = axis_ticks((0, highest), column, 3)
    font = style.body(LABEL_PX - 1)
    shapes: list[Shape] = []
    for value, text in zip(values, axis_texts(values, column, options), strict=True):
        for side, start in enumerate(starts):
            x = start + scale(value) * (1 if side else -1)
            half = text_width(text, font) / 2
            shapes.append(Text(min(max(x, half), box.width - half), box.height - 6, text, font, style.muted, "middle"))
    return shapes


VISUAL = Visual(
    name="pyramid",
    label="Population pyramid",
    purposes=("how it spreads",),
    purpose="two groups back to back, age by age",
    needs=Needs(split="needed", groups=(2, 110), series=(2, 2), dates="never", negative=False),
    options=PyramidOptions,
    draw=draw,
    advice=(
        rule(0.72, "{groups} levels of two groups, back to back", ordered=True, groups=(4, 110)),
        rule(0.3, "the levels have no order of their own"),
    ),
)
