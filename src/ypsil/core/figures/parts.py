"""Parts of a whole as percentages that add up to it, as readers check them."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ypsil.core.figures.locales import DEFAULT_LOCALE
from ypsil.core.figures.numbers import format_number

_WHOLE = 1e-6
# A part below this would be rounded to nothing.
_SMALLEST = 0.005


def whole_parts(parts: Sequence[float | None], decimals: int = 0) -> list[float | None]:
    """Round parts of one whole (0 to 1, or down to −1) so that their percentages add up to exactly 100.

    Each is rounded down to ``decimals`` places of a percent, and what is missing to 100 goes to those that lost most:
    the method of the largest remainder (Hamilton; Balinski and Young, “Fair Representation”, 1982). Parts that do
    not make up a whole are rounded one by one. Missing parts stay missing.

    >>> whole_parts([1 / 3, 1 / 3, 1 / 3]), whole_parts([0.145, 0.415, 0.44])
    ([0.34, 0.33, 0.33], [0.15, 0.41, 0.44])
    """
    scale = 100 * 10**decimals
    sizes = [abs(part or 0.0) * scale for part in parts]
    if abs(sum(sizes) / scale - 1) > _WHOLE:
        return [None if part is None else round(part * scale) / scale for part in parts]
    # What is a hair below a whole number was one before it was divided.
    units = [math.floor(size + 1e-9) for size in sizes]
    missing = round(sum(sizes)) - sum(units)
    # Of parts that lost as much the first gets more.
    losers = sorted(range(len(sizes)), key=lambda place: round(units[place] - sizes[place], 9))
    for place in losers[:missing]:
        units[place] += 1
    return [
        None if part is None else math.copysign(unit, part) / scale for part, unit in zip(parts, units, strict=True)
    ]


def part_texts(
    parts: Sequence[float | None], decimals: int | None = None, *, adds_up: bool = True, locale: str = DEFAULT_LOCALE
) -> list[str]:
    """Return parts of one whole as percentages with one number of decimals, which add up to 100 unless not wanted.

    There is one decimal where a part would be rounded to nothing otherwise, none in all other cases.

    >>> part_texts([2 / 3, 1 / 6, 1 / 6]), part_texts([2 / 3, 1 / 6, 1 / 6], adds_up=False)
    (['67%', '17%', '16%'], ['67%', '17%', '17%'])
    >>> part_texts([0.996, 0.004, None])
    ['99.6%', '0.4%', '–']
    """
    if decimals is None:
        decimals = int(any(part and abs(part) < _SMALLEST for part in parts))
    shown = whole_parts(parts, decimals) if adds_up else parts
    return ["–" if part is None else format_number(part, decimals=decimals, unit="%", locale=locale) for part in shown]
