"""Headline numbers drawn: cells of one size, their figures in one size on one baseline, whatever their lengths."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Line, Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.svg import number as px
from ypsil.core.drawing.wrap import wrap
from ypsil.core.figures import format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.comparing import State
from ypsil.core.visuals.shared.headline import Headline, HeadlineOptions

_LABEL_PX, _WHEN_PX, _CHANGE_PX, _NOTE_PX = 15, 13, 15, 12
_LEAST_PX = 12.0
_FIGURE_PX = (20.0, 64.0)
# No figure gets smaller than this for the sake of a line of its periods.
_COMFORTABLE_PX = 34.0
_TREND_PX = (22.0, 60.0)
_STATE_PX = 24.0
_GAP_PX = 28.0
# Commas reach below the line that figures stand on.
_BELOW_PX = 12.0
_NARROWEST_PX = 120.0
_ARROW_PX = 18.0
# What a small tile does without, one after the other until the rest fits.
_LESS: tuple[dict[str, Any], ...] = (
    {},
    {"against": 0, "is_beside": False},
    {"when": 0},
    {"state": False},
    {"label": 1},
)


@dataclass(frozen=True, slots=True)
class _Layout:
    """What every cell holds, in px and lines; the same for all of a tile."""

    width: float
    label: int
    when: int
    figure: Font
    change: Font
    against: int
    is_beside: bool
    state: bool
    trend: float

    def height(self) -> float:
        """How much is taken without the trend."""
        lines = self.label * 1.3 * _LABEL_PX + self.when * 1.3 * _WHEN_PX
        change = (max(1, self.against) if self.is_beside else 1 + self.against) * 1.3 * _CHANGE_PX
        has_change = self.against or self.is_beside
        return lines + self.figure.size + _BELOW_PX + (change if has_change else 0) + (_STATE_PX if self.state else 0)


def draw_headlines(
    found: list[Headline], answer: Answer, options: HeadlineOptions, box: Box, style: HouseStyle
) -> Scene:
    """Draw headline numbers beside each other, in as many rows as the width asks for."""
    across = max(1, min(len(found), int((box.width + _GAP_PX) // (_NARROWEST_PX + _GAP_PX))))
    across = math.ceil(len(found) / math.ceil(len(found) / across))
    down = math.ceil(len(found) / across)
    width = (box.width - (across - 1) * _GAP_PX) / across
    note = style.body(_NOTE_PX)
    footnote = _lines(options.footnote, box.width, note, 3)
    foot = len(footnote) * note.line_height if len(footnote) * note.line_height < 0.3 * box.height else 0.0
    height = (box.height - foot) / down
    layout = _fitting(found, width, height - (8 if down > 1 else 0), style)
    shapes: list[Shape] = []
    end = 0.0
    for index, one in enumerate(found):
        x, y = (index % across) * (width + _GAP_PX), (index // across) * height
        row = found[index - index % across : index - index % across + across]
        if index % across:
            shapes.append(Line(x - _GAP_PX / 2, y + 2, x - _GAP_PX / 2, y + height - 8, style.grid))
        cell, used = _cell(one, layout, _label_lines(row, layout, style), style)
        shapes += [shape.moved(x, y) for shape in cell]
        end = max(end, y + used)
    if foot:
        _written(shapes, footnote, 0, end, note, style.muted)
    said = " ".join(one.said for one in found)
    description = f"{said} {options.footnote}".strip() + f" (n = {format_number(answer.base, locale=answer.locale)})"
    return Scene(box.width, box.height, tuple(shapes), ", ".join(one.label for one in found), description)


def _label_lines(row: Sequence[Headline], layout: _Layout, style: HouseStyle) -> int:
    return max(len(wrap(one.label, layout.width, style.body(_LABEL_PX), most=layout.label)) for one in row)


def _fitting(found: Sequence[Headline], width: float, height: float, style: HouseStyle) -> _Layout:
    """Return the layout with the largest figures; what does not fit is left to the description, least first."""
    change = style.body(_CHANGE_PX, bold=True)
    widest = max(_change_width(one, change) for one in found)
    change = change.sized(max(_LEAST_PX, change.size * width / widest)) if widest > width else change
    taken = [_change_width(one, change) for one in found]
    beside = all(
        room + text_width(one.against, style.body(_WHEN_PX + 1)) <= width
        for one, room in zip(found, taken, strict=True)
    )
    layout = _Layout(
        width,
        label=max(len(wrap(one.label, width, style.body(_LABEL_PX), most=2)) for one in found),
        when=max(len(_lines(one.when, width, style.body(_WHEN_PX), 2)) for one in found),
        figure=_figure(found, width, _FIGURE_PX[1], style),
        change=change,
        against=0 if beside else max(len(_lines(one.against, width, style.body(_WHEN_PX + 1), 2)) for one in found),
        is_beside=beside and any(one.change or one.against for one in found),
        state=any(one.state for one in found),
        trend=0.0,
    )
    least = _figure(found, width, _FIGURE_PX[0], style)
    for less in _LESS:
        smallest = replace(layout, figure=least, **less)
        layout = replace(smallest, figure=layout.figure)
        if smallest.height() <= height:
            break
    trend = _TREND_PX[0] + 6 if any(one.trend for one in found) else 0.0
    room = height - (layout.height() - layout.figure.size)
    whole, beside_trend = (max(least.size, min(layout.figure.size, space)) for space in (room, room - trend))
    size = beside_trend if beside_trend >= min(whole, _COMFORTABLE_PX) else whole
    layout = replace(layout, figure=layout.figure.sized(size))
    left = height - layout.height() - 6
    return replace(layout, trend=min(_TREND_PX[1], left) if trend and left >= _TREND_PX[0] else 0.0)


def _figure(found: Sequence[Headline], width: float, size: float, style: HouseStyle) -> Font:
    """Return the font in which the widest figure fits."""
    font = style.heading(size)
    widest = max(text_width(one.figure, font) for one in found)
    return font.sized(size * width / widest) if widest > width else font


def _lines(text: str, width: float, font: Font, most: int) -> list[str]:
    return wrap(text, width, font, most=most) if text else []


def _change_width(one: Headline, font: Font) -> float:
    arrow = _ARROW_PX if one.direction else 0.0
    return arrow + (text_width(one.change, font) + 6 if one.change else 0.0)


def _cell(one: Headline, layout: _Layout, label_lines: int, style: HouseStyle) -> tuple[list[Shape], float]:
    """Return a cell, its top left at 0, 0, and where it ends; ``label_lines`` are those of its row."""
    label, when = style.body(_LABEL_PX), style.body(_WHEN_PX)
    shapes: list[Shape] = []
    lines = wrap(one.label, layout.width, label, most=layout.label)
    # Labels stand on the line above the figure, so that short ones are not torn from it.
    y = (label_lines - len(lines)) * label.line_height
    y = _written(shapes, lines, 0, y, label, style.ink)
    y = _written(shapes, _lines(one.when, layout.width, when, layout.when)[: layout.when], 0, y, when, style.muted)
    y += (layout.when - len(_lines(one.when, layout.width, when, 2)[: layout.when])) * when.line_height
    y += layout.figure.size * 0.98
    shapes.append(Text(0, y, one.figure, layout.figure, style.ink))
    y += _BELOW_PX
    if layout.is_beside or layout.against:
        y = _change(shapes, one, layout, y, style)
    if layout.state:
        if one.state:
            shapes += _state(one.state, y + 17, style)
        y += _STATE_PX
    if layout.trend:
        if one.trend:
            shapes += _line_of(one.trend, layout.width, y + 6, layout.trend - 6, style)
        y += layout.trend
    return shapes, y


def _written(shapes: list[Shape], lines: Sequence[str], x: float, y: float, font: Font, colour: str) -> float:
    """Add lines of text below ``y`` and return where they end."""
    for line in lines:
        y += font.line_height
        shapes.append(Text(x, y - 0.28 * font.size, line, font, colour))
    return y


def _change(shapes: list[Shape], one: Headline, layout: _Layout, y: float, style: HouseStyle) -> float:
    bold, plain = layout.change, style.body(_WHEN_PX + 1)
    line = 1.3 * _CHANGE_PX
    baseline = y + line - 0.28 * _CHANGE_PX
    colour = style.muted if one.is_good is None else style.rise if one.is_good else style.fall
    if one.direction:
        shapes.append(_arrow(0, baseline, one.direction > 0, colour))
    if one.change:
        shapes.append(Text(_ARROW_PX if one.direction else 0, baseline, one.change, bold, colour))
    if layout.is_beside:
        if one.against:
            shapes.append(Text(_change_width(one, bold), baseline, one.against, plain, style.muted))
        return y + line
    end = y + (1 + layout.against) * line
    top = y + (line if one.change else 0)
    _written(shapes, _lines(one.against, layout.width, plain, layout.against), 0, top, plain, style.muted)
    return end


def _arrow(x: float, baseline: float, up: bool, colour: str) -> Path:
    top, foot = baseline - 11, baseline
    tip, flat = (top, foot) if up else (foot, top)
    return Path(f"M{px(x)} {px(flat)}L{px(x + 12)} {px(flat)}L{px(x + 6)} {px(tip)}Z", fill=colour)


def _state(state: State, baseline: float, style: HouseStyle) -> list[Shape]:
    """The state in words, with a sign of its own: a disc, a diamond, a square."""
    colour = {"On track": style.rise, "Watch": style.watch, "Act": style.fall}[state]
    y = baseline - 5
    signs: dict[State, Shape] = {
        "On track": Rect(0, y - 6, 12, 12, colour, 6),
        "Watch": Path(f"M6 {px(y - 7)}L13 {px(y)}L6 {px(y + 7)}L-1 {px(y)}Z", fill=colour),
        "Act": Rect(0, y - 6, 12, 12, colour),
    }
    return [signs[state], Text(_ARROW_PX, baseline, state, style.body(14, bold=True), colour)]


def _line_of(values: Sequence[float | None], width: float, top: float, height: float, style: HouseStyle) -> list[Shape]:
    """A line of the periods without axis, open where one is missing, with a dot at the last if it is there."""
    present = [value for value in values if value is not None]
    low, high = min(present), max(present)
    step = (width - 8) / max(1, len(values) - 1)
    points = [
        None if value is None else (4 + index * step, top + height - 3 - (height - 6) * _part(value, low, high))
        for index, value in enumerate(values)
    ]
    pieces = [
        f"{'M' if index == 0 or points[index - 1] is None else 'L'}{px(point[0])} {px(point[1])}"
        for index, point in enumerate(points)
        if point is not None
    ]
    shapes: list[Shape] = [Path("".join(pieces), stroke=style.quiet, stroke_width=2 * style.charts.line)]
    if points[-1] is not None:
        x, y = points[-1]
        shapes.append(Rect(x - 3.5, y - 3.5, 7, 7, style.accent, 3.5))
    return shapes


def _part(value: float, low: float, high: float) -> float:
    return (value - low) / (high - low) if high > low else 0.5
