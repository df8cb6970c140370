"""Shares as people say them: seven in ten, nearly half."""

from __future__ import annotations

from fractions import Fraction

_NUMBERS = ("no one", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
# The few that are said by themselves; the others are tenths.
_PLAIN = tuple(Fraction(*pair) for pair in ((1, 2), (1, 3), (2, 3), (1, 4), (3, 4)))
_CLOSE, _EXACT = 0.015, 0.0005


def share_in_words(share: float) -> str:
    """Return a share from 0 to 1 as people say it; nothing for any other number.

    >>> [share_in_words(share) for share in (0.7, 0.69, 0.5, 0.33, 0.64, 0.66, 0.04)]
    ['seven in ten', 'about seven in ten', 'half', 'about one in three', 'more than six in ten', 'about two in three', \
'fewer than one in ten']
    >>> share_in_words(0), share_in_words(1), share_in_words(1.12)
    ('none', 'all', '')
    """
    if not 0 <= share <= 1:
        return ""
    if share in (0, 1):
        return "all" if share else "none"
    nearest = min(
        (*_PLAIN, *(Fraction(tenth, 10) for tenth in range(1, 10))), key=lambda one: (abs(one - share), one.denominator)
    )
    apart = share - nearest
    if abs(apart) <= _CLOSE:
        return ("" if abs(apart) <= _EXACT else "about ") + _said(nearest)
    tenth = min(9, max(1, round(share * 10)))
    return ("more than " if share > tenth / 10 else "nearly " if share >= 0.1 else "fewer than ") + _said(
        Fraction(tenth, 10)
    )


def _said(part: Fraction) -> str:
    if part == Fraction(1, 2):
        return "half"
    many = part.denominator if part in _PLAIN else 10
    return f"{_NUMBERS[int(part * many)]} in {_NUMBERS[many]}"
