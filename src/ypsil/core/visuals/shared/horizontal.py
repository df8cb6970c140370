"""Charts with groups below each other, their names in front and values to the right."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale, LinearScale
from ypsil.core.drawing.scene import Font, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.axes import LABEL_PX, full_name, names_between
from ypsil.core.visuals.shared.grid import Grid
from ypsil.core.visuals.shared.legends import legend

# Type under it is not read; what has no room for it is left out and said.
SMALLEST_PX = 12.0
# So far below the drawing's edge a baseline stands at least, as a part of the letters' size.
HIGHEST = 0.8


@dataclass(frozen=True, slots=True)
class HorizontalPlot:
    """Where marks stand: ``left`` is the end of the names, ``every`` tells how many marks one name stands for."""

    bands: BandScale
    scale: LinearScale
    left: float
    top: float
    every: int
    font: Font
    value_font: Font
    thickness: float
    shapes: list[Shape]
    nameless: int = 0


def horizontal_plot(
    grid: Grid,
    domain: tuple[float, float],
    texts: list[list[str]],
    box: Box,
    style: HouseStyle,
    *,
    rows: int | None = None,
    has_legend: bool = True,
    head: float = 0.0,
    foot: float = 0.0,
    value_room: bool = True,
    colours: Sequence[str] = (),
) -> HorizontalPlot:
    """Lay out names and legend around the room for the marks; ``rows`` is how many marks share a band's height.

    ``texts`` are what stands at the ends of the marks; room is kept for the widest, unless ``value_room`` is false.
    """
    rows = rows or len(grid.series)
    key, top = (
        legend(grid.series, box.width, style, colours=colours) if has_legend and box.beside is None else ([], 0.0)
    )
    top += head
    bands = BandScale(len(grid.names), (top, box.height - foot), 0.28)
    thickness = bands.width / rows
    font = style.body(min(LABEL_PX + 1, max(SMALLEST_PX, bands.step * 0.8)))
    value_font = style.body(min(font.size, max(SMALLEST_PX, thickness)), bold=True)
    left = min(0.4 * box.width, max(text_width(name, font) for name in grid.names)) + 10
    room = max((text_width(text, value_font) for one in texts for text in one), default=0) + 8 if value_room else 8
    low, high = domain
    scale = LinearScale((low, high), (left + (room if low < 0 else 0), max(left + 10, box.width - room)))
    # Where bars are thinner than a line of text, only every second, third … is named.
    every = max(1, math.ceil(font.size * 1.1 / bands.step))
    names = _names(grid.names, bands, every, font, left - 10, style)
    nameless = names_between(grid, every)
    return HorizontalPlot(bands, scale, left, top, every, font, value_font, thickness, [*key, *names], nameless)


def _names(names: list[str], bands: BandScale, every: int, font: Font, end: float, style: HouseStyle) -> list[Shape]:
    shapes: list[Shape] = []
    for index in range(0, len(names), every):
        most = max(1, int(every * bands.step // font.line_height))
        lines = wrap(names[index], end + 0.5, font, most=most)
        middle = bands.middle(index) + font.size * 0.35 - (len(lines) - 1) * font.line_height / 2
        first = max(middle, HIGHEST * font.size)
        whole = full_name(names[index], lines)
        for row, line in enumerate(lines):
            shapes.append(Text(end, first + row * font.line_height, line, font, style.ink, "end", whole))
    return shapes
