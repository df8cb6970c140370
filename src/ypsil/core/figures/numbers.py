"""Numbers as text, in the reader's locale, with their unit shown once.

A value with the unit ``%`` is a fraction (0.41 is written 41%), as spreadsheets keep it, and so is a change of such
values, in points (0.05 is written 5 pts). The units
``£ € $ ¥`` and ``%`` stand where the locale has them, every other unit behind the number.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from decimal import ROUND_HALF_UP, Context, Decimal, localcontext
from functools import lru_cache
from itertools import pairwise

from babel.numbers import format_compact_decimal, format_decimal

from ypsil.core.figures.locales import DEFAULT_LOCALE, sign_place

# Shares of one, written times a hundred: as they are, and how far two of them lie apart.
POINTS = "pts"
SHARE_UNITS = ("%", POINTS)
CURRENCY_SIGNS = ("£", "€", "$", "¥")
NO_BREAK_SPACE = "\u00a0"
# Babel writes some locales with U+202F, which many typefaces do not have.
NARROW_NO_BREAK_SPACE = "\u202f"
MINUS = "\u2212"
# The largest float has 309 figures before its point.
_WITH_ROOM = Context(prec=400)


def round_half_up(value: float, decimals: int) -> Decimal:
    """Round to ``decimals`` places, halves away from zero, as readers expect of a printed figure.

    >>> round_half_up(2.675, 2), round_half_up(-0.5, 0)
    (Decimal('2.68'), Decimal('-1'))
    """
    return Decimal(repr(float(value))).quantize(Decimal(1).scaleb(-decimals), ROUND_HALF_UP, _WITH_ROOM)


def decimals_kept(values: Iterable[float], *, most: int = 4) -> int:
    """Return how many decimals a list of numbers was given with, at most ``most``.

    >>> decimals_kept([1.5, 2.25, 3]), decimals_kept([4, 5]), decimals_kept([1 / 3])
    (2, 0, 4)
    """
    numbers = [float(value) for value in values if math.isfinite(value)]
    enough = (places for places in range(most) if all(round(number, places) == number for number in numbers))
    return next(enough, most)


def decimals_for(values: Iterable[float], *, unit: str | None = None) -> int:
    """Return how many decimals a list of numbers needs: about three digits of the largest, and more where values that
    differ would look alike or vanish, up to five digits of the largest.

    Money has two or none, unless it is less than a penny.

    >>> decimals_for([1204, 37]), decimals_for([1.5, 2.25]), decimals_for([0.041, 0.5]), decimals_for([113.25])
    (0, 2, 2, 0)
    >>> decimals_for([0.0012, 0.0034]), decimals_for([113.25, 113.31]), decimals_for([0.5, 0.001])
    (4, 2, 3)
    """
    numbers = [float(value) for value in values if math.isfinite(value)]
    largest = max(map(abs, numbers), default=0.0)
    if not largest or all(number == int(number) for number in numbers):
        return 0
    is_money = unit in CURRENCY_SIGNS
    start = 0 if largest >= 100 else 1 if largest >= 10 and not is_money else 2
    start = max(start, _first_decimal(largest) + 1 if largest < 0.1 else 0)
    return decimals_apart(numbers, start, most=2 if is_money and largest >= 0.01 else 6)


def decimals_apart(numbers: Sequence[float], start: int, *, most: int = 6) -> int:
    """Return at least ``start`` decimals, as many as keep different numbers apart and none from being written as zero.

    Five digits of the largest are enough; very many numbers are not all written, and keep to the start. Numbers given
    with fewer decimals need no more than those.

    >>> decimals_apart([4.1, 4.14], 0), decimals_apart([12_345.6, 12_345.7], 0)
    (2, 0)
    """
    if len(numbers) > _MANY:
        return start
    different = sorted(set(numbers))
    if not _look_alike(different, start):
        return start
    largest = max(map(abs, numbers), default=0.0)
    most = min(most, max(start, _DIGITS - len(str(int(largest)))), decimals_kept(numbers, most=_MOST_DECIMALS))
    while start < most and _look_alike(different, start):
        start += 1
    return start


def _look_alike(different: Sequence[float], decimals: int) -> bool:
    """Tell whether rising numbers would be written alike, or one of them as zero."""
    unit = 10.0**-decimals
    if all(above - below > unit for below, above in pairwise(different)) and not any(
        0 < abs(number) < unit for number in different
    ):
        # More than a unit apart, they are rounded apart.
        return False
    written = [round_half_up(number, decimals) for number in different]
    return len(set(written)) < len(written) or any(new == 0 != old for new, old in zip(written, different, strict=True))


def _first_decimal(number: float) -> int:
    """Return the decimal place of a small number's first digit: 3 for 0.0041."""
    return -math.floor(math.log10(abs(number)))


_DIGITS, _MOST_DECIMALS, _MANY = 5, 10, 25


@lru_cache(maxsize=64)
def _decimal_pattern(decimals: int) -> str:
    return "#,##0." + "0" * decimals if decimals else "#,##0"


def _with_unit(text: str, unit: str | None, locale: str) -> str:
    if not unit:
        return text
    if unit not in CURRENCY_SIGNS and unit != "%":
        return text + NO_BREAK_SPACE + unit
    first, is_apart = sign_place(locale, "%" if unit == "%" else "¤")
    space = NO_BREAK_SPACE if is_apart else ""
    if not first:
        return text + space + unit
    return MINUS + unit + space + text[1:] if text.startswith(MINUS) else unit + space + text


def _tidy(text: str) -> str:
    return text.replace(NARROW_NO_BREAK_SPACE, NO_BREAK_SPACE).replace("-", MINUS)


def format_number(
    value: float, *, decimals: int | None = None, unit: str | None = None, locale: str = DEFAULT_LOCALE
) -> str:
    """Return ``value`` with the locale's separators, a true minus sign and its unit.

    Source of the patterns: Unicode CLDR, through Babel.

    >>> format_number(1234.5), format_number(-300, unit="£"), format_number(0.4137, unit="%", decimals=1)
    ('1,234.5', '−£300', '41.4%')
    >>> format_number(1234.5, unit="€", locale="de_DE", decimals=2), format_number(0.41, unit="%", locale="de_DE")
    ('1.234,50\\xa0€', '41\\xa0%')
    """
    return _formatted(value, decimals, unit, locale)


@lru_cache(maxsize=65536)
def _formatted(value: float, decimals: int | None, unit: str | None, locale: str) -> str:
    number = float(value)
    if not math.isfinite(number):
        return "–"
    if unit in SHARE_UNITS:
        number *= 100
    if decimals is None:
        decimals = decimals_for([number], unit=unit) if abs(number) < 0.1 else 1 if abs(number) >= 10 else 2
        decimals = 0 if number == int(number) else 2 if unit in CURRENCY_SIGNS and abs(number) >= 0.1 else decimals
    rounded = round_half_up(number, decimals)
    # Nothing is less than nothing: no minus before a zero.
    with localcontext(_WITH_ROOM):
        shown = abs(rounded) if rounded == 0 else rounded
        text = format_decimal(shown, format=_decimal_pattern(decimals), locale=locale)
    return _with_unit(_tidy(str(text)), unit, locale)


def format_compact(value: float, *, unit: str | None = None, locale: str = DEFAULT_LOCALE) -> str:
    """Return a large figure in at most about four characters of number; smaller ones in full.

    Source of the short forms: Unicode CLDR, through Babel.

    >>> format_compact(48_300_000), format_compact(9_412, unit="£"), format_compact(1_260_000, locale="de_DE")
    ('48.3M', '£9,412', '1,3\\xa0Mio.')
    """
    if unit == "%" or abs(value) < 1_000_000:
        return format_number(value, decimals=None if abs(value) < 100 else 0, unit=unit, locale=locale)
    text = format_compact_decimal(value, format_type="short", locale=locale, fraction_digits=1)
    return _with_unit(_tidy(str(text)), unit, locale)


def format_share(share: float, *, locale: str = DEFAULT_LOCALE, decimals: int = 0) -> str:
    """Return a fraction as a percentage with ``decimals``, near its ends with as many as show that it is not there.

    >>> format_share(0.4137), format_share(0.004), format_share(0.998), format_share(1), format_share(0.0004)
    ('41%', '0.4%', '99.8%', '100%', '0.04%')
    """
    percent = abs(share * 100)
    far = min(percent, abs(100 - percent))
    if 0 < far < 1 and percent <= 100:
        decimals = max(decimals, min(_MOST_DECIMALS, max(1, _first_decimal(far))) if far > 1e-9 else 0)
    return format_number(share, decimals=decimals, unit="%", locale=locale)


def format_change(before: float, after: float, *, locale: str = DEFAULT_LOCALE) -> str | None:
    """Return the relative change as a signed percentage, or None where it has no meaning.

    There is none from zero, and none across a change of sign.

    >>> format_change(200, 230), format_change(50, 48), format_change(0, 4), format_change(10, 10)
    ('+15%', '−4%', None, '0%')
    """
    if before == 0 or before * after < 0:
        return None
    ratio = (after - before) / abs(before)
    decimals = 1 if 0 < abs(ratio) < 0.0995 and round(ratio * 100, 1) != round(ratio * 100) else 0
    text = format_number(ratio, decimals=decimals, unit="%", locale=locale)
    return "+" + text if ratio > 0 else text
