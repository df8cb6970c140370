"""A visual as a chart that office programs draw themselves: its kind, its names and its numbers, in the colours of the
drawing."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.scene import Mark, Path, Rect, Scene
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import NativeKind
from ypsil.core.visuals.shared.grid import Series, grid_of
from ypsil.core.visuals.shared.numeric_axes import number_domain
from ypsil.core.visuals.shared.summary import group_name

# What a program opens and redraws at once; more becomes a picture.
_MOST_VALUES = 4_000
_TURNED: dict[NativeKind, NativeKind] = {
    "columns": "bars",
    "stacked columns": "stacked bars",
    "shared columns": "shared bars",
}
_OF_TWO_AMOUNTS = ("dots", "bubbles")
_BY_PARTS = ("pie", "ring")
_ALONG_TIME = ("lines", "areas", "stacked areas")


@dataclass(frozen=True, slots=True)
class NativeSeries:
    """Values for each name, in a colour of their own; ``odd`` are the colours of single values that have another, by
    their place. ``across`` and ``sizes`` are those of dots."""

    name: str
    values: tuple[float | None, ...]
    column: AnswerColumn
    colour: str
    odd: dict[int, str]
    across: tuple[float | None, ...] = ()
    sizes: tuple[float | None, ...] = ()


@dataclass(frozen=True, slots=True)
class NativeChart:
    """A chart of office programs. ``names`` are days where time runs along them evenly, else texts; ``across`` is the
    measure that dots are placed by from left to right. Scales that need not begin at zero have their domains."""

    kind: NativeKind
    names: tuple[str | dt.date, ...]
    per: AnswerColumn | None
    series: tuple[NativeSeries, ...]
    has_values: bool = False
    across: AnswerColumn | None = None
    up_domain: tuple[float, float] | None = None
    across_domain: tuple[float, float] | None = None


def native_chart(kind: NativeKind, answer: Answer, options: Any, scene: Scene, style: HouseStyle) -> NativeChart | None:
    """Return the chart of office programs that shows what a drawing shows; None where there are too many values, or
    none that such a chart can carry."""
    if not answer.height or answer.height * len(answer.of("measure")) > _MOST_VALUES or scene.refusal:
        return None
    colours = _colours(scene)
    has_values = bool(getattr(options, "values_on_marks", False))
    if kind in _OF_TWO_AMOUNTS:
        return _dots(kind, answer, options, colours, style)
    if not answer.of("per"):
        return None
    grid = grid_of(_as_drawn(answer, scene) if kind in _BY_PARTS else answer)
    measures = answer.of("measure")
    of_measures = len(measures) > 1 and not answer.of("split")
    series = tuple(
        _series(one, measures[place] if of_measures else grid.column, grid.names, colours, kind, place, style)
        for place, one in enumerate(grid.series)
    )
    if not any(value is not None for one in series for value in one.values):
        return None
    turned = _TURNED.get(kind, kind) if _lies(scene) else kind
    names = _named(grid.groups, grid.names, grid.per, kind)
    found = [value for one in grid.series for value in one.values if value is not None]
    begins_anywhere = kind == "lines" and not options.from_zero and min(found) != max(found)
    domain = nice_domain(min(found), max(found)) if begins_anywhere else None
    return NativeChart(turned, names, grid.per, series, has_values, up_domain=domain)


def _as_drawn(answer: Answer, scene: Scene) -> Answer:
    """Return the groups of an answer in the order that they are drawn in; those that are not drawn are not there."""
    per = answer.of("per")[0]
    places = {mark.group: place for place, mark in reversed(list(enumerate(scene.marks())))}
    rows = [(places.get(group_name(value, per)), row) for row, value in enumerate(answer.values(per))]
    kept = [row for place, row in sorted((place, row) for place, row in rows if place is not None)]
    return replace(answer, frame=answer.frame[kept]) if kept else answer


def _series(
    one: Series,
    column: AnswerColumn,
    names: Sequence[str],
    colours: dict[tuple[str, str], str],
    kind: NativeKind,
    place: int,
    style: HouseStyle,
) -> NativeSeries:
    found = [colours.get((name, one.name)) or colours.get((name, "")) for name in names]
    whole = colours.get(("", one.name))
    usual = Counter(filter(None, found)).most_common(1)
    colour = whole or (usual[0][0] if usual else style.colour(place))
    by_parts = kind in _BY_PARTS
    odd = {index: own for index, own in enumerate(found) if own and (by_parts or (own != colour and not whole))}
    return NativeSeries(one.name or column.shown or column.name, one.values, column, colour, odd)


def _named(
    groups: Sequence[Any], names: Sequence[str], per: AnswerColumn, kind: NativeKind
) -> tuple[str | dt.date, ...]:
    """Return what stands along an axis: days where a line runs through time, so that it runs evenly."""
    days = [value.date() if isinstance(value, dt.datetime) else value for value in groups]
    are_days = all(isinstance(day, dt.date) and day.year > 1900 for day in days) and len(set(days)) == len(days)
    return tuple(days) if kind in _ALONG_TIME and are_days and len(days) > 1 else tuple(names)


def _dots(
    kind: NativeKind, answer: Answer, options: Any, colours: dict[tuple[str, str], str], style: HouseStyle
) -> NativeChart | None:
    measures, splits, per = answer.of("measure"), answer.of("split"), answer.of("per")
    columns = [answer.values(one) for one in measures]
    names = [group_name(value, per[0]) for value in answer.values(per[0])] if per else [""] * answer.height
    kinds = [group_name(value, splits[0]) for value in answer.values(splits[0])] if splits else [""] * answer.height
    series = []
    for place, split in enumerate(dict.fromkeys(kinds)):
        rows = [
            row
            for row in range(answer.height)
            if kinds[row] == split and all(isinstance(values[row], int | float) for values in columns)
        ]
        if not rows:
            continue
        found = [colours.get((names[row], split)) for row in rows]
        usual = Counter(filter(None, found)).most_common(1)
        across, up, *sizes = (tuple(float(values[row]) for row in rows) for values in columns)
        series.append(
            NativeSeries(
                split or measures[1].shown or measures[1].name,
                up,
                measures[1],
                usual[0][0] if usual else style.colour(place),
                {},
                across,
                sizes[0] if sizes else (),
            )
        )
    if not series or (kind == "bubbles" and not all(one.sizes for one in series)):
        return None
    across, up = (
        number_domain(np.array([value for one in found for value in one]), from_zero=options.from_zero)
        for found in ([one.across for one in series], [one.values for one in series])
    )
    return NativeChart(
        kind,
        (),
        per[0] if per else None,
        tuple(series),
        across=measures[0],
        up_domain=up,
        across_domain=across,
    )


def _colours(scene: Scene) -> dict[tuple[str, str], str]:
    """Return the colour of each shape that stands for data, by group and series; surfaces before lines."""
    found: dict[tuple[str, str], str] = {}
    for shape in scene.shapes:
        if isinstance(shape, Rect | Path) and isinstance(shape.title, Mark):
            drawn = shape.fill if shape.fill != "none" or isinstance(shape, Rect) else shape.stroke
            if drawn != "none":
                found.setdefault((shape.title.group, shape.title.series), drawn)
    return found


def _lies(scene: Scene) -> bool:
    """Tell whether the bars of a drawing lie: they are then of one height, and stand below each other."""
    bars = [shape for shape in scene.shapes if isinstance(shape, Rect) and isinstance(shape.title, Mark)]
    paths = [shape for shape in scene.shapes if isinstance(shape, Path) and isinstance(shape.title, Mark)]
    if len(bars) < 2 or paths:
        return _lies_by_texts(scene, paths or bars)
    wide, high = {round(bar.width) for bar in bars}, {round(bar.height) for bar in bars}
    if len(wide) != len(high):
        return len(high) < len(wide)
    return len({round(bar.y) for bar in bars}) > len({round(bar.x) for bar in bars})


def _lies_by_texts(scene: Scene, marks: Sequence[Rect | Path]) -> bool:
    """Tell it by the names of the groups: they stand at one height below columns, at one side beside bars."""
    named = {mark.title.group for mark in marks if isinstance(mark.title, Mark)}
    texts = [text for text in scene.texts() if text.text in named]
    return bool(texts) and len({round(text.y) for text in texts}) > max(1, len(texts) // 2)
