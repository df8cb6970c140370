"""What a control says of the data: how much there is in each period, and how many rows are left."""

from __future__ import annotations

from typing import Any

import polars as pl

from ypsil.core.choosing import Offered
from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.scene import Mark, Path, Shape
from ypsil.core.errors import YpsilError
from ypsil.core.figures import format_number, format_period
from ypsil.core.questions.model import Measure, Per, Question
from ypsil.core.tiles.context import Context
from ypsil.core.visuals import Box

_COUNT = Measure(stat="count")
# Narrower ones stand without air between them.
_APART_PX, _PART = 3.0, 0.8


def bars_of(offered: Offered, box: Box, context: Context) -> tuple[Shape, ...]:
    """Return how much there is in each period, those that are chosen in the accent; nothing for other columns."""
    counts = _per_period(offered, context)
    most = max(counts.values(), default=0)
    if not most:
        return ()
    within = _within(offered, context)
    step = box.width / len(offered.periods)
    shapes: list[Shape] = []
    for place, start in enumerate(offered.periods):
        count = counts.get(start, 0)
        if not count:
            continue
        high = max(1.0, box.height * count / most)
        name = format_period(start, offered.grain, locale=context.locale)
        wide = max(0.5, step * (_PART if step > _APART_PX else 1.0))
        fill = context.style.accent if start in within else context.style.grid
        said = Mark(f"{name}: {format_number(count, locale=context.locale)}", name)
        bar = Path(rounded(wide, high, 0), fill, x=place * step, y=box.height - high, title=said)
        shapes.append(bar)
    return tuple(shapes)


def counted(offered: Offered) -> Question:
    """Return how many rows there are, in each period where a period is chosen."""
    if offered.way != "period":
        return Question(measures=(_COUNT,))
    return Question(measures=(_COUNT,), per=(Per(column=offered.column.name, by=offered.grain),))


def _per_period(offered: Offered, context: Context) -> dict[Any, int]:
    if offered.way != "period" or not offered.periods:
        return {}
    table = context.tables[offered.control.table]
    asked = counted(offered).model_copy(update={"least_base": context.choices.least_bases.get(offered.control.table)})
    try:
        found = table.answer(table.narrowed(asked, context.filters))
    except (YpsilError, pl.exceptions.PolarsError):
        return {}
    return {start: int(count) for start, count in found.rows if count is not None}


def _within(offered: Offered, context: Context) -> set[Any]:
    """Return the periods that are chosen."""
    choice, starts = context.choices.of(offered.control.id), offered.starts()
    if choice.last:
        return set(offered.periods[-choice.last :])
    low, high = starts.get(choice.low), starts.get(choice.high)
    return {start for start in offered.periods if (not low or start >= low) and (not high or start <= high)}


def rows_said(offered: Offered, context: Context) -> str:
    """Return how many rows are left of a control's table with all that readers chose where it stands."""
    name = offered.control.table
    table, asked = context.tables[name], Question(measures=(_COUNT,))
    try:
        every = table.answer(table.narrowed(asked, context.filters)).rows[0][0]
        rules = context.choices.heard_by(offered.control.id)
        found = table.answer(table.narrowed(asked, context.filters, rules, context.choices.least_bases.get(name)))
    except (YpsilError, pl.exceptions.PolarsError):
        return ""
    of_all = f"{format_number(every, locale=context.locale)} row{'' if every == 1 else 's'}"
    if found.hides:
        return f"so few of {of_all} that they are hidden"
    left = found.rows[0][0]
    return of_all if left == every else f"{format_number(left, locale=context.locale)} of {of_all}"
