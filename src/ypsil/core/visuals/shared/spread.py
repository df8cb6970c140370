"""What box, strip and density share: single values by group, along a horizontal scale."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import polars as pl

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale, LinearScale
from ypsil.core.drawing.scene import Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.tables.natural_order import natural_order
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.axes import LABEL_PX, axis_name, horizontal_value_axis
from ypsil.core.visuals.shared.horizontal import SMALLEST_PX
from ypsil.core.visuals.shared.settings import NamedAxisOptions
from ypsil.core.visuals.shared.summary import group_name

MOST_GROUPS = 40


@dataclass(frozen=True, slots=True)
class Spread:
    """The values of each group; one group without a name where the rows' names say nothing together."""

    names: list[str]
    values: list[np.ndarray]
    column: AnswerColumn


@dataclass(frozen=True, slots=True)
class Lanes:
    bands: BandScale
    scale: LinearScale
    shapes: list[Shape]


def spread_of(answer: Answer) -> Spread:
    """Return single values by the split or, without one, by the rows' names where these repeat."""
    column = answer.of("measure")[0]
    values = answer.series(column).cast(pl.Float64)
    splits, per = answer.of("split"), answer.of("per")[0]
    by = splits[0] if splits else per
    cells = answer.series(by)
    if not splits and (cells.n_unique() > MOST_GROUPS or cells.n_unique() > 0.5 * len(cells)):
        return Spread([""], [values.drop_nulls().to_numpy()], column)
    members = answer.members(by)
    found = {member: values.filter(cells == member).drop_nulls().to_numpy() for member in members}
    found = {member: held for member, held in found.items() if len(held)}
    named = natural_order(found) if cells.dtype == pl.String else sorted(found)
    if len(found) == 1:
        return Spread([""], list(found.values()), column)
    ordered = named or sorted(found, key=lambda member: -float(np.median(found[member])))
    return Spread([group_name(member, by) for member in ordered], [found[member] for member in ordered], column)


def lanes(spread: Spread, options: NamedAxisOptions, box: Box, style: HouseStyle, *, padding: float = 0.3) -> Lanes:
    """Lay out a lane a group over a horizontal scale, with the measure's name once at its foot."""
    held = spread.values if box.beside is None else spread_of(box.beside).values
    low = min((float(values.min()) for values in held), default=0.0)
    high = max((float(values.max()) for values in held), default=1.0)
    domain = nice_domain(low, high)
    font = style.body(LABEL_PX - 1)
    foot = 2 * font.line_height + 8 if box.height >= 120 else 24.0
    bands = BandScale(len(spread.names), (4, box.height - foot), padding)
    names = style.body(min(LABEL_PX + 1, max(SMALLEST_PX, bands.step * 0.8)))
    left = min(0.35 * box.width, max(text_width(name, names) for name in spread.names)) + 14
    scale = LinearScale(domain, (left, box.width - 20))
    shapes = horizontal_value_axis(domain, spread.column, 4, box.height - foot, scale, style, options)
    every = max(1, -(-int(names.size * 1.1) // max(1, int(bands.step))))
    for index in range(0, len(spread.names), every):
        text = shorten(spread.names[index], left - 14, names)
        baseline = bands.middle(index) + names.size * 0.35
        shapes.append(Text(left - 12, baseline, text, names, style.ink, "end", spread.names[index]))
    if options.axis_name and box.height >= 120:
        text = shorten(axis_name(spread.column, options), box.width, font)
        shapes.append(Text(box.width, box.height - 5, text, font, style.muted, "end"))
    return Lanes(bands, scale, shapes)
