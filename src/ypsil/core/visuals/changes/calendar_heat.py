"""Calendar: a square a day, weeks side by side, shaded by amount."""

from __future__ import annotations

import datetime as dt

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.figures import days_after, format_period
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import grid_of, texts_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions
from ypsil.core.visuals.shared.shades import KEY_PX, key_of_shades, shade
from ypsil.core.visuals.shared.summary import describe

_DAYS = ("Mon", "Wed", "Fri", "Sun")
_LEFT_PX = 36.0
_LEAST_BLOCK_PX = 44.0
_HEAD_PX = LABEL_PX + 8


class CalendarOptions(NumberOptions, NoteOptions):
    pass


def draw(answer: Answer, options: CalendarOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a block of weeks a year (Monday to Sunday downwards); days without rows stay empty."""
    grid = grid_of(answer)
    values = dict(zip(grid.groups, grid.series[0].values, strict=True))
    present = [value for value in values.values() if value is not None]
    low, high = min([0.0, *present]), max(present, default=1.0)
    height = box.height - KEY_PX
    blocks, note = _fitting(_blocks(grid.groups[0], grid.groups[-1], Box(box.width, height)), height, box, style)
    block = height / len(blocks)
    weeks = max(_weeks_between(start, last) for start, last in blocks)
    side = max(2.0, min((box.width - _LEFT_PX) / weeks, (block - _HEAD_PX - 6) / 7))
    texts = dict(zip(grid.groups, texts_of(grid.series[0].values, grid.column, options), strict=True))
    has_years = grid.groups[0].year != grid.groups[-1].year
    ends = texts_of([low, high], grid.column, options)
    name = "" if note else grid.column.name
    shapes: list[Shape] = [
        *note,
        *key_of_shades(low, high, (ends[0], ends[1]), name, box.width, box.height, style),
    ]
    for number, (first, last) in enumerate(blocks):
        top = number * block
        start = first - dt.timedelta(days=first.weekday())
        shapes += _heads(first, last, side, top, has_years, style)
        for day, value in values.items():
            if not first <= day <= last or value is None:
                continue
            week, weekday = (day - start).days // 7, day.weekday()
            title = mark_title(format_period(day, "day"), texts[day])
            x, y = _LEFT_PX + week * side, top + _HEAD_PX + weekday * side
            shapes.append(Rect(x, y, side - 1, side - 1, shade(value, low, high, style), min(2.0, side / 5), title))
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Calendar"))


def _fitting(
    blocks: list[tuple[dt.date, dt.date]], height: float, box: Box, style: HouseStyle
) -> tuple[list[tuple[dt.date, dt.date]], list[Text]]:
    """Return the last years that have room, and what is said of the others."""
    most = max(1, int(height // _LEAST_BLOCK_PX))
    left_out = len(blocks) - most
    if left_out <= 0:
        return blocks, []
    years = "1 earlier year has" if left_out == 1 else f"{left_out} earlier years have"
    font = style.body(LABEL_PX - 1)
    return blocks[-most:], [Text(0, box.height - 4, f"{years} no room here", font, style.muted)]


def _blocks(first: dt.date, last: dt.date, box: Box) -> list[tuple[dt.date, dt.date]]:
    """Return stretches of days to stand below each other: years, or parts of a year where these give larger squares."""
    if first.year != last.year:
        years = range(first.year, last.year + 1)
        return [(dt.date(year, 1, 1), dt.date(year, 12, 31)) for year in years]
    weeks = _weeks_between(first, last)

    def side(count: int) -> float:
        return min((box.width - _LEFT_PX) / -(-weeks // count), (box.height / count - _HEAD_PX - 6) / 7)

    count = max((1, 2, 3, 4), key=side)
    length = 7 * -(-weeks // count)
    monday = first - dt.timedelta(days=first.weekday())
    starts = [monday + dt.timedelta(days=length * number) for number in range(count)]
    ends = [start + dt.timedelta(days=length - 1) for start in starts]
    return [(max(start, first), min(end, last)) for start, end in zip(starts, ends, strict=True) if start <= last]


def _weeks_between(first: dt.date, last: dt.date) -> int:
    return (last - (first - dt.timedelta(days=first.weekday()))).days // 7 + 1


def _heads(first: dt.date, last: dt.date, side: float, top: float, has_years: bool, style: HouseStyle) -> list[Shape]:
    """Return the names of months above and of days in front, and the year where there are several."""
    font = style.body(LABEL_PX - 1)
    shapes: list[Shape] = []
    free = 0.0
    monday = first - dt.timedelta(days=first.weekday())
    for week in range(_weeks_between(first, last)):
        days = (days_after(monday, 7 * week + day) for day in range(7))
        start = next((day for day in days if day.day == 1 and first <= day <= last), None)
        x = _LEFT_PX + week * side
        if start is not None and x >= free:
            shapes.append(Text(x, top + LABEL_PX, format_period(start, "month").split(" ")[0], font, style.muted))
            free = x + 30
    if has_years:
        shapes.append(Text(0, top + LABEL_PX, str(first.year), style.body(LABEL_PX - 1, bold=True), style.ink))
    if side >= 8:
        for place, name in zip((0, 2, 4, 6), _DAYS, strict=True):
            y = top + _HEAD_PX + place * side + side * 0.78
            shapes.append(Text(0, y, name, font, style.muted))
    return shapes


VISUAL = Visual(
    name="calendar_heat",
    label="Calendar",
    purposes=("how it changes", "how it spreads"),
    purpose="which days were high and low",
    needs=Needs(groups=(2, 2000), dates="needed", grain="day"),
    options=CalendarOptions,
    draw=draw,
    advice=(
        rule(0.7, "{groups} days: weekdays and seasons show", groups=(28, 2000)),
        rule(0.3, "few days: columns show each"),
    ),
)
