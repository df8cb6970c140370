"""Large numbers written short, all of a row alike: 48.3M beside 0.9M, never 48,300,000 beside 912K."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from babel.numbers import format_compact_decimal

from ypsil.core.figures.locales import DEFAULT_LOCALE
from ypsil.core.figures.numbers import NARROW_NO_BREAK_SPACE, NO_BREAK_SPACE, format_number

_FACTORS = (1e12, 1e9, 1e6)
# From here on a number is hard to take in at a glance.
_LONG = 1e6
_LEAST_SHOWN = 0.1
_MOST_TIMES = 1e4


@dataclass(frozen=True, slots=True)
class ShortForm:
    """What numbers are divided by, what is written behind them for it, with how many decimals, and where."""

    factor: float = 1.0
    sign: str = ""
    decimals: int | None = None
    locale: str = DEFAULT_LOCALE

    def text(self, value: float, *, unit: str | None = None, decimals: int | None = None) -> str:
        """Return a number in this form.

        >>> form = short_form([48_300_000, 912_000])
        >>> form.text(48_300_000), form.text(912_000), form.text(1_500_000, unit="£")
        ('48.3M', '0.9M', '£1.5M')
        """
        places = self.decimals if decimals is None else decimals
        if self.factor == 1:
            return format_number(value, decimals=places, unit=unit, locale=self.locale)
        plain = format_number(value / self.factor, decimals=places, locale=self.locale)
        # The sign stands right behind the digits, before a unit that follows them.
        whole = format_number(value / self.factor, decimals=places, unit=unit, locale=self.locale)
        return whole.replace(plain, plain + self.sign, 1)


def short_form(values: Iterable[float | None], locale: str = DEFAULT_LOCALE) -> ShortForm:
    """Return the one form in which all the numbers can be read: short where the largest is long.

    The factor is the largest of a million, a billion and a trillion that still leaves the smallest number at least
    0.1. Source of the signs: Unicode CLDR, through Babel.

    >>> short_form([9_412, 38]), short_form([48_300_000]).sign, short_form([48_300_000, 20_000]).factor
    (ShortForm(factor=1.0, sign='', decimals=None, locale='en_GB'), 'M', 1.0)
    """
    sizes = [abs(value) for value in values if value and math.isfinite(value)]
    if not sizes or max(sizes) < _LONG:
        return ShortForm(locale=locale)
    for factor in _FACTORS:
        if max(sizes) >= factor and min(sizes) >= factor * _LEAST_SHOWN:
            return scaled_by(factor, locale)
    return ShortForm(decimals=0, locale=locale)


class ShortText(str):
    """A number written short, which knows how it is written in full: that is told where somebody looks closer."""

    whole: str

    def __new__(cls, text: str, whole: str) -> ShortText:
        made = super().__new__(cls, text)
        made.whole = whole
        return made


def in_full(text: str) -> str:
    """Return a text with its number in full, where that is known.

    >>> in_full(ShortText("48.3M", "48,312,004")), in_full("912")
    ('48,312,004', '912')
    """
    return text.whole if isinstance(text, ShortText) else text


def one_form(values: Iterable[float | None], locale: str = DEFAULT_LOCALE) -> ShortForm:
    """Return the form in which all the numbers of a drawing are written: short where the largest is long, whatever the
    others are, so that no number has more than seven digits.

    >>> form = one_form([48_300_000, 20_000])
    >>> form.factor, form.decimals, form.text(20_000, decimals=2)
    (1000000.0, 1, '0.02M')
    >>> one_form([950_000.0, 12.0]).factor, one_form([2.5e12, 4e6]).factor
    (1.0, 1000000.0)
    """
    sizes = [abs(value) for value in values if value and math.isfinite(value)]
    form = short_form(sizes, locale)
    if form.factor > 1 or not sizes or max(sizes) < _LONG:
        return form
    fitting = (factor for factor in reversed(_FACTORS) if max(sizes) / factor < _MOST_TIMES)
    return scaled_by(next(fitting, _FACTORS[0]), locale)


def scaled_by(factor: float, locale: str = DEFAULT_LOCALE) -> ShortForm:
    """Return the form for numbers divided by a power of a thousand, or by less where a language has no sign for it.

    >>> scaled_by(1e3), scaled_by(1)
    (ShortForm(factor=1000.0, sign='K', decimals=1, locale='en_GB'), ShortForm(factor=1.0, sign='', decimals=None, \
locale='en_GB'))
    """
    while factor > 1:
        sign = _sign(factor, "short", locale) or _sign(factor, "long", locale)
        if sign:
            return ShortForm(factor, sign, 1, locale)
        factor /= 1000
    return ShortForm(locale=locale)


@lru_cache(maxsize=256)
def _sign(factor: float, length: Literal["short", "long"], locale: str) -> str:
    """Return what a locale writes behind 1 for a factor; nothing where it writes 1000 of the next lower."""
    written = str(format_compact_decimal(int(factor), format_type=length, locale=locale))
    sign = written.removeprefix("1").replace(NARROW_NO_BREAK_SPACE, NO_BREAK_SPACE)
    return "" if sign[:1].isdigit() else sign
