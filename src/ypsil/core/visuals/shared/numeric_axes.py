"""Two measures as places: points, their scales and axes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import polars as pl

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.axes import LABEL_PX, axis_name, axis_room, horizontal_value_axis, value_axis
from ypsil.core.visuals.shared.curves import floats_of
from ypsil.core.visuals.shared.rooms import Room
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, setting
from ypsil.core.visuals.shared.summary import group_name


class NumericPlotOptions(NumberOptions, NoteOptions):
    from_zero: bool = setting(False, "Both scales from zero", "Axes")


@dataclass(frozen=True, slots=True)
class Points:
    """The rows with both measures: ``rows`` are their numbers in the answer, ``split`` the numbers of their series."""

    x: np.ndarray
    y: np.ndarray
    rows: np.ndarray
    split: np.ndarray
    split_names: list[str]


@dataclass(frozen=True, slots=True)
class NumericPlot:
    across: LinearScale
    up: LinearScale
    room: Room
    shapes: list[Shape]

    def zeros(self) -> list[Room]:
        """Return the rooms of the lines at zero, where they are drawn."""
        found = []
        if self.up.domain[0] <= 0 <= self.up.domain[1]:
            found.append(Room(self.room.x, self.up(0), self.room.width, 1))
        if self.across.domain[0] <= 0 <= self.across.domain[1]:
            found.append(Room(self.across(0), self.room.y, 1, self.room.height))
        return found


def points_of(answer: Answer) -> Points:
    """Return the points of an answer's first two measures; rows without one of them are left out."""
    x, y = (floats_of(answer.series(column)) for column in answer.of("measure")[:2])
    kept = np.flatnonzero(~(np.isnan(x) | np.isnan(y)))
    splits = answer.of("split")
    if not splits:
        return Points(x[kept], y[kept], kept, np.zeros(len(kept), dtype=int), [])
    cells = answer.series(splits[0])
    members = pl.Series(cells.name, answer.members(splits[0]), dtype=cells.dtype)
    ranks = pl.DataFrame({"value": members, "rank": np.arange(len(members))})
    places = cells.to_frame("value").join(ranks, on="value", how="left", maintain_order="left")["rank"].to_numpy()
    return Points(x[kept], y[kept], kept, places[kept], [group_name(value, splits[0]) for value in members.to_list()])


def numeric_plot(
    answer: Answer,
    points: Points,
    options: NumericPlotOptions,
    box: Box,
    style: HouseStyle,
    *,
    top: float = 0.0,
    reach: float = 0.0,
) -> NumericPlot:
    """Lay out both axes, each with its measure's name once; marks of ``reach`` px stay within the box."""
    first, second = answer.of("measure")[:2]
    held = points if box.beside is None else points_of(box.beside)
    x_domain, y_domain = (number_domain(values, from_zero=options.from_zero) for values in (held.x, held.y))
    font = style.body(LABEL_PX - 1)
    left = axis_room(y_domain, second, style, options)
    # Drawings beside each other do not name their axes one by one.
    lines = 0 if box.beside else 1
    bottom = box.height - (1 + lines) * font.line_height - 10
    head = top + lines * font.line_height + 10
    across, up = (
        LinearScale(x_domain, (left + 6 + reach, box.width - 18 - reach)),
        LinearScale(y_domain, (bottom - reach, head + 4 + reach)),
    )
    shapes: list[Shape] = []
    shapes += value_axis(y_domain, second, left, box.width, up, style, options)
    shapes += horizontal_value_axis(x_domain, first, head, bottom, across, style, options)
    if not box.beside:
        upward = shorten(axis_name(second, options), box.width, font)
        along = shorten(axis_name(first, options), box.width - left, font)
        end = max(left + text_width(along, font), box.width)
        shapes.append(Text(0, top + font.size, upward, font, style.muted))
        shapes.append(Text(end, box.height - 5, along, font, style.muted, "end"))
    return NumericPlot(across, up, Room(left, head, box.width - left, bottom - head), shapes)


def number_domain(values: np.ndarray, *, from_zero: bool) -> tuple[float, float]:
    """Return a round domain that holds all values, and zero where that is wanted or near."""
    if not len(values):
        return (0.0, 1.0)
    low, high = float(values.min()), float(values.max())
    # Where the lowest value is near zero anyway, the scale starts there (common practice, no source).
    if from_zero or low == high or 0 < low < 0.25 * high:
        low, high = min(0.0, low), max(0.0, high)
    return nice_domain(low, high) if low != high else (0.0, 1.0)
