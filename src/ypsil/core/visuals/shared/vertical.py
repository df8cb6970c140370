"""Charts with groups side by side and values upwards."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale, LinearScale
from ypsil.core.drawing.scene import Font, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.axes import (
    LABEL_PX,
    axis_name,
    axis_room,
    full_name,
    group_labels,
    named_axis,
    names_between,
    short_periods,
    value_axis,
)
from ypsil.core.visuals.shared.grid import Grid
from ypsil.core.visuals.shared.legends import legend
from ypsil.core.visuals.shared.reference_lines import (
    draw_reference_lines,
    reference_bands,
    reference_lines_of,
    reference_room,
    with_reference,
)
from ypsil.core.visuals.shared.settings import AxisOptions


@dataclass(frozen=True, slots=True)
class VerticalPlot:
    """Where marks stand: ``bands`` from left to right, ``scale`` from values to y; ``shapes`` stand behind them."""

    bands: BandScale
    scale: LinearScale
    left: float
    right: float
    top: float
    bottom: float
    shapes: list[Shape]
    front: list[Shape]
    nameless: int = 0


def vertical_plot(
    grid: Grid,
    domain: tuple[float, float],
    options: AxisOptions,
    box: Box,
    style: HouseStyle,
    *,
    padding: float | None = None,
    has_legend: bool = True,
    colours: Sequence[str] = (),
) -> VerticalPlot:
    """Lay out axis, names and legend around the room for the marks."""
    names = short_periods(grid.groups, grid.per) if grid.per.kind == "date" else grid.names
    domain = with_reference(domain, options)
    font = style.body(LABEL_PX)
    is_keyed = has_legend and box.beside is None
    key, key_height = legend(grid.series, box.width, style, colours=colours) if is_keyed else ([], 0.0)
    said = axis_name(grid.column, options, [one.name for one in grid.series])
    named, name_height = named_axis(said, box, key_height, style, shown=options.axis_name)
    left = axis_room(domain, grid.column, style, options)
    crossing = reference_lines_of(grid, options)
    right = box.width - reference_room(crossing, box, style)
    usual = 0.3 if len(names) < 30 else 0.15
    bands = BandScale(len(names), (left, right), usual if padding is None else padding)
    labels, every = group_labels(names, bands.step, font)
    if every > 1 and grid.per.kind == "date":
        # Of the periods that are named, the first of each year says the year; years begin with a name if they can.
        first = next((place for place in range(every) if _begins_year(grid.groups[place::every])), 0)
        shown, room = short_periods(grid.groups[first::every], grid.per), every * bands.step - 4
        labels = [[] for _ in names]
        labels[first::every] = [wrap(name, room, font, most=2) for name in shown]
    bottom = box.height - max((len(lines) for lines in labels), default=1) * font.line_height - 8
    top = min(key_height + name_height + 20, bottom - 10)
    scale = LinearScale(domain, (bottom, top))
    behind = reference_bands(crossing, scale, left, right, style)
    axis = value_axis(domain, grid.column, left, right, scale, style, options)
    shapes: list[Shape] = [*key, *named, *behind, *axis]
    for index, lines in enumerate(labels):
        whole = full_name(grid.names[index], lines)
        for row, line in enumerate(lines):
            y = bottom + 18 + row * font.line_height
            # The name of the last of many groups is wider than what stands right of its middle.
            x = min(bands.middle(index), box.width - text_width(line, font) / 2)
            shapes.append(Text(x, y, line, font, style.ink, "middle", whole))
    front = draw_reference_lines(crossing, scale, left, right, box.width, style)
    nameless = names_between(grid, every)
    return VerticalPlot(bands, scale, left, right, top, bottom, shapes, front, nameless)


def _begins_year(periods: Sequence[dt.date]) -> bool:
    """Tell whether the first period of some year is among these."""
    return any(period.month == 1 for period in periods)


def names_fit_vertically(grid: Grid, box: Box, style: HouseStyle) -> bool:
    """Tell whether all names can stand whole under their groups; if not, the chart is better turned."""
    if grid.per.kind == "date" or grid.per.grain is not None:
        return True
    return _whole_in(tuple(grid.names), (box.width - 40) / max(1, len(grid.names)), style.body(LABEL_PX))


@lru_cache(maxsize=256)
def _whole_in(names: tuple[str, ...], step: float, font: Font) -> bool:
    if any(text_width(word, font) > step - 4 for name in names for word in name.split()):
        return False
    lines, every = group_labels(list(names), step, font)
    return every == 1 and not any(line.endswith("…") for one in lines for line in one)
