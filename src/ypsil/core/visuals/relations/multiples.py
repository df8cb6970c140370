"""Small multiples: the same small chart for each value of the split, all on one scale."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Any

import polars as pl

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.scene import Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.figures.capitals import lower_first
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.amounts import column
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, facts, fit, rule, unmet
from ypsil.core.visuals.changes import area, combined, line, stacked_area
from ypsil.core.visuals.ranks import bar, dot_plot, lollipop
from ypsil.core.visuals.relations import binned_scatter, scatter
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.legends import key_of
from ypsil.core.visuals.shared.rooms import Room, message_scene
from ypsil.core.visuals.shared.settings import PatternOptions, ReferenceOptions, one_of, setting
from ypsil.core.visuals.shared.side_by_side import Layout
from ypsil.core.visuals.shared.summary import describe, group_name
from ypsil.core.visuals.shares import stacked_bar, stacked_column
from ypsil.core.visuals.spreads import box, density, histogram, strip

_WIDTH_PX = 110.0
_SHAPE = 1.5  # width to height
_SUITS = "as it suits"
_CHARTS: dict[str, Visual] = {
    "columns": column.VISUAL,
    "bars": bar.VISUAL,
    "lollipops": lollipop.VISUAL,
    "dots": dot_plot.VISUAL,
    "lines": line.VISUAL,
    "areas": area.VISUAL,
    "stacked columns": stacked_column.VISUAL,
    "stacked bars": stacked_bar.VISUAL,
    "stacked areas": stacked_area.VISUAL,
    "columns and a line": combined.VISUAL,
    "histograms": histogram.VISUAL,
    "scatters": scatter.VISUAL,
    "shaded cells": binned_scatter.VISUAL,
    "boxes": box.VISUAL,
    "strips": strip.VISUAL,
    "densities": density.VISUAL,
}
# Bars stand among them by choice only: names in front of bars take half of a small chart.
_BY_THEMSELVES = ("columns", "lines", "histograms", "scatters", "shaded cells", "strips", "columns and a line")


class MultiplesOptions(ReferenceOptions, PatternOptions):
    chart: Annotated[str, one_of((_SUITS, *_CHARTS), "each is drawn as one of")] = setting(
        _SUITS, "Each drawn as", "Marks", choices={name: name for name in (_SUITS, *_CHARTS)}
    )


def draw(answer: Answer, options: MultiplesOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a chart a split value, in rows, under its name; one scale, so that all can be compared."""
    split = answer.of("split")[0]
    members = answer.members(split)
    parts = [_part(answer, member) for member in members]
    entry = _chart(parts[0], options.chart)
    reason = unmet(entry.needs, facts(parts[0]))
    if reason:
        return message_scene(f"{entry.label}: {reason}.", box, style, answer.sentence)
    shapes, top = _legend(answer, entry, box, style)
    layout = Layout.of(len(members), Room(0, top, box.width, box.height - top), _SHAPE, _WIDTH_PX)
    small = entry.options(**_shared(options, entry))

    def drawn(width: float, height: float) -> list[Scene]:
        return [entry.draw(part, small, Box(width, height, beside=answer), style) for part in parts]

    names = [group_name(member, split) for member in members]
    charts, nameless = layout.drawn(names, drawn, style)
    shapes += charts
    said = describe(answer, f"{len(members)} small charts")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=nameless)


def _chart(part: Answer, wanted: str) -> Visual:
    """Return the chart that is wanted, or the one that suits best."""
    if wanted != _SUITS:
        return _CHARTS[wanted]
    given = facts(part)
    return max((_CHARTS[name] for name in _BY_THEMSELVES), key=lambda entry: fit(entry, given).score)


def _shared(options: MultiplesOptions, entry: Visual) -> dict[str, Any]:
    """Return the settings that the small charts have too; their axes' names would only repeat each other."""
    given = options.model_dump(exclude={"chart", "patterns", "note", "note_at"}) | {"axis_name": False, "points": False}
    return {name: value for name, value in given.items() if name in entry.options.model_fields}


def _legend(answer: Answer, entry: Visual, box: Box, style: HouseStyle) -> tuple[list[Shape], float]:
    """Return what colours or axes mean, once for all charts, where each shows several measures."""
    measures = answer.of("measure")
    if len(measures) < 2:
        return [], 0.0
    if entry.needs.measures == (2, 2):
        font = style.body(LABEL_PX)
        along = measures[0].name if answer.each_row else lower_first(measures[0].name)
        text = f"{measures[1].name} upwards, {along} along"
        return [Text(0, font.size, shorten(text, box.width, font), font, style.muted)], font.line_height + 6
    return key_of([(one.name, style.colour(index)) for index, one in enumerate(measures)], box.width, style)


def _part(answer: Answer, member: object) -> Answer:
    """Return the rows of one split value, without the split; groups that it has no row for are missing values."""
    split = answer.of("split")[0]
    name = answer.frame.columns[answer.columns.index(split)]
    frame = answer.frame.filter(answer.series(split) == member).drop(name)
    if not answer.each_row:
        keys = [_field(answer, column) for column in answer.of("per")]
        every = answer.frame.select(pl.struct(keys).alias("key").unique(maintain_order=True)).unnest("key")
        frame = every.join(frame, on=keys, how="left", maintain_order="left").select(frame.columns)
    kept = tuple(column for column in answer.columns if column is not split)
    # A part of the answer is no whole that shares could be of.
    return replace(answer, columns=kept, frame=frame, is_cut=True, bases=None)


def _field(answer: Answer, column: AnswerColumn) -> str:
    return answer.frame.columns[answer.columns.index(column)]


VISUAL = Visual(
    name="multiples",
    label="Small charts side by side",
    purposes=("how it changes", "who is biggest"),
    purpose="the same chart for each, so that none hides another",
    needs=Needs(
        measures=(1, 4),
        split="needed",
        split_measures=4,
        groups=(1, MANY),
        series=(2, 24),
        each_row="any",
        one_unit=False,
    ),
    options=MultiplesOptions,
    draw=draw,
    advice=(
        rule(0.9, "{series} lines would cross each other: side by side each is seen", time=True, series=(6, 24)),
        rule(0.88, "{measures} measures for each of {series}", measures=(2, 4)),
        rule(0.6, "{series} clouds of dots would hide each other", each_row=True),
        rule(0.55, "{series} charts on one scale", time=True),
        rule(0.4, "{series} charts on one scale", groups=(1, 8)),
        rule(0.25, "names have little room in small charts"),
    ),
)
