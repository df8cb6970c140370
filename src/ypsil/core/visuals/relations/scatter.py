"""Scatter: two measures against each other, a dot a row or group."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Path, Rect, Scene, Shape, Text
from ypsil.core.figures import format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.relations import binned_scatter
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import texts_of
from ypsil.core.visuals.shared.legends import key_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.numeric_axes import NumericPlot, Points, numeric_plot, points_of
from ypsil.core.visuals.shared.point_names import Dot, names_of_dots
from ypsil.core.visuals.shared.settings import setting
from ypsil.core.visuals.shared.summary import group_name, told

MOST_DOTS = 4_000
_SMALL_PX = 220
_NAMED_PX = 160
_MOST_NAMED = 60


class ScatterOptions(binned_scatter.NumericPlotOptions):
    names: Literal["as it suits", "where they fit", "nothing"] = setting(
        "as it suits", "Names at the dots", "Names", "as it suits: of up to 60 groups"
    )
    trend: bool = setting(False, "Straight line through the dots, with r²", "Notes")


@dataclass(frozen=True, slots=True)
class Trend:
    """A least-squares line: ``y = intercept + slope · x``, and which part of the spread it explains."""

    slope: float
    intercept: float
    r2: float


def trend_of(x: np.ndarray, y: np.ndarray) -> Trend | None:
    """Return the least-squares line through points; None for fewer than two places or no spread.

    >>> trend_of(np.array([1.0, 2.0, 3.0]), np.array([2.0, 4.0, 6.0]))
    Trend(slope=2.0, intercept=0.0, r2=1.0)
    """
    dx, dy = x - x.mean() if len(x) else x, y - y.mean() if len(y) else y
    spread = float(dx @ dx)
    if len(x) < 2 or spread == 0:
        return None
    slope = float(dx @ dy) / spread
    whole = float(dy @ dy)
    r2 = slope * float(dx @ dy) / whole if whole else 1.0
    return Trend(slope, float(y.mean() - slope * x.mean()), r2)


def draw(answer: Answer, options: ScatterOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one dot a row of the answer; more than a few thousand become shaded cells, and the drawing says so."""
    if answer.height > MOST_DOTS:
        return binned_scatter.draw(answer, binned_scatter.NumericPlotOptions(**_shared(options)), box, style)
    points = points_of(answer)
    named = [(name, style.colour(index)) for index, name in enumerate(points.split_names)]
    key, top = key_of(named, box.width, style) if len(named) > 1 else ([], 0.0)
    trend = trend_of(points.x, points.y) if options.trend else None
    at = numeric_plot(answer, points, options, box, style, top=top)
    drawn, dots = _dots(answer, points, at, options, style)
    shapes: list[Shape] = [*key, *at.shapes, *drawn]
    are_named = _are_named(answer, options, box)
    names = names_of_dots(dots, at, style) if are_named else []
    said = told(answer, "Scatter", f"{len(points.x):,} dots")
    if trend:
        shapes += _line(trend, points, at, style, answer.locale)
        said += f" r² = {format_number(trend.r2, decimals=2, locale=answer.locale)}."
    nameless = len(dots) - len(names) if are_named else 0
    undrawn = answer.height - len(dots)
    return Scene(box.width, box.height, (*shapes, *names), answer.sentence, said, nameless=nameless, undrawn=undrawn)


def _are_named(answer: Answer, options: ScatterOptions, box: Box) -> bool:
    """Tell whether the dots have names: few groups, unless it is said; single rows and small drawings by wish only."""
    if options.names == "as it suits":
        is_large = min(box.width, box.height) >= _NAMED_PX and box.beside is None
        return is_large and not answer.each_row and answer.height <= _MOST_NAMED
    return options.names == "where they fit" and bool(answer.of("per"))


def _shared(options: ScatterOptions) -> dict[str, object]:
    return {name: getattr(options, name) for name in binned_scatter.NumericPlotOptions.model_fields}


def _dots(
    answer: Answer, points: Points, at: NumericPlot, options: ScatterOptions, style: HouseStyle
) -> tuple[list[Shape], list[Dot]]:
    first, second = answer.of("measure")[:2]
    per = answer.of("per")
    names = [group_name(value, per[0]) for value in answer.values(per[0])] if per else [""] * answer.height
    radius = 5.0 if len(points.x) < 150 else (3.5 if len(points.x) < 1000 else 2.5)
    if abs(at.across.range[1] - at.across.range[0]) < _SMALL_PX:
        radius = min(radius, 2.5)
    opacity = 0.85 if len(points.x) < 150 else 0.55
    across = texts_of(points.x.tolist(), first, options)
    upward = texts_of(points.y.tolist(), second, options)
    shapes: list[Shape] = []
    dots: list[Dot] = []
    for number, row in enumerate(points.rows.tolist()):
        x, y = at.across(float(points.x[number])), at.up(float(points.y[number]))
        split = points.split_names[points.split[number]] if points.split_names else ""
        title = mark_title(
            names[row], f"{first.name} {across[number]}", f"{second.name} {upward[number]}", series=split
        )
        colour = style.colour(int(points.split[number])) if points.split_names else style.accent
        shapes.append(Rect(x - radius, y - radius, 2 * radius, 2 * radius, colour, radius, title, opacity))
        dots.append(Dot(names[row], x, y, radius, colour, opacity))
    return shapes, dots


def _line(trend: Trend, points: Points, at: NumericPlot, style: HouseStyle, locale: str) -> list[Shape]:
    """Return the line as far as there are dots and it stays in the room, with r² beside its end: above a line that
    rises, below one that falls, so that it stands clear of it."""
    low, high = float(points.x.min()), float(points.x.max())
    bottom, top = sorted(at.up.domain)
    x = np.linspace(low, high, 101)
    y = trend.intercept + trend.slope * x
    inside = (y >= bottom) & (y <= top)
    if inside.sum() < 2:
        return []
    x, y = x[inside][[0, -1]], y[inside][[0, -1]]
    ends = [f"{at.across(float(px)):.1f} {at.up(float(py)):.1f}" for px, py in zip(x, y, strict=True)]
    font = style.body(LABEL_PX - 1, bold=True)
    text = f"r² = {format_number(trend.r2, decimals=2, locale=locale)}"
    end = at.up(float(y[1]))
    place = end - 6 if trend.slope >= 0 else end + font.size + 4
    return [
        Path("M" + "L".join(ends), stroke=style.ink, stroke_width=1.5, title=text),
        Text(at.across(float(x[1])), max(font.size, place), text, font, style.ink, "end"),
    ]


VISUAL = Visual(
    name="scatter",
    label="Scatter",
    purposes=("what goes together",),
    purpose="whether two measures go together",
    needs=Needs(
        measures=(2, 2), split="any", split_measures=2, groups=(1, MANY), series=(1, 8), each_row="any", one_unit=False
    ),
    options=ScatterOptions,
    draw=draw,
    native="dots",
    advice=(
        rule(0.9, "{groups} names, a dot for each row: do the two go together?", each_row=True),
        rule(0.25, "time reads from left to right", time=True),
        rule(0.6, "{groups} dots: do the two measures go together?", groups=(5, MANY)),
        rule(0.3, "few dots say little"),
    ),
)
