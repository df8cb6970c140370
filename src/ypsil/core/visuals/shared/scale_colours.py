"""Colours of parts that stand in an order of for and against: from one end by way of a pale middle to the other."""

from __future__ import annotations

from collections.abc import Sequence

from ypsil.core.answers.model import AnswerColumn
from ypsil.core.drawing.colour import mix
from ypsil.core.style.house import HouseStyle
from ypsil.core.tables.natural_order import has_two_sides, is_beside, middle_of

# Don't know, no answer, other: each next one so much darker.
_GREY_STEP = 0.45


def colours_of_parts(names: Sequence[str], column: AnswerColumn | None, style: HouseStyle) -> list[str]:
    """Return a colour for each part: those of a scale where the names are steps of a rating, else the palette's."""
    if column is not None and is_rating(names, column):
        return scale_colours(names, style)
    return [style.colour(index) for index in range(len(names))]


def is_rating(names: Sequence[str], column: AnswerColumn) -> bool:
    """Tell whether names are steps of a rating scale, in words or in numbers from 0 or 1 to 10 at most."""
    steps = [name for name in names if not is_beside(name)]
    if len(steps) < 2 or column.grain is not None or column.edges or not column.ordered:
        return False
    return has_two_sides(steps) or all(name.isdigit() and int(name) <= 10 for name in steps)


def scale_colours(names: Sequence[str], style: HouseStyle) -> list[str]:
    """Return colours that part at the scale's neutral point; answers beside the scale are greys that differ."""
    steps = [name for name in names if not is_beside(name)]
    if len(steps) == 1:
        return [style.accent if name in steps else style.quiet for name in names]
    middle = middle_of(steps)
    half = max(middle, len(steps) - middle, 1.0) - 0.5
    weights = {name: max(-1.0, min(1.0, (place + 0.5 - middle) / half)) for place, name in enumerate(steps)}
    beside = [name for name in names if name not in weights]
    greys = {name: mix(style.grid, style.muted, place * _GREY_STEP) for place, name in enumerate(beside)}
    return [_of_weight(weights[name], style) if name in weights else greys[name] for name in names]


def _of_weight(weight: float, style: HouseStyle) -> str:
    if abs(weight) < 1e-9:
        return style.quiet
    return style.diverge(0.35 * (1 if weight > 0 else -1) + 0.65 * weight)
