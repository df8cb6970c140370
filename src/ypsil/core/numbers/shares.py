"""Shares that are said in words: two thirds, a quarter of, half the; nine of ten, one in five."""

from __future__ import annotations

import re
from collections.abc import Sequence

from ypsil.core.numbers.model import SHARE
from ypsil.core.numbers.reading import FIGURES, MEASURES, PARTS, SCALES, UNITS, figures_value, word_matches, words_value
from ypsil.core.numbers.signs import Read, is_measured_in, with_signs

Word = tuple[str, int, int]
_OF_MANY = re.compile(r"\s+(?:in|out\s+of|of(?:\s+every)?)\s+(?:every\s+)?", re.IGNORECASE)
_NOT_OF_MANY = re.compile(r"\s+(?:the|all|these|those|our|their|its|his|her|my|your|this|that)\b", re.IGNORECASE)
_OF_A_UNIT = re.compile(r"\s+(?:of\s+)?an?\s+(hour|mile|metre|minute|day|year|century|litre|kilo)\b", re.IGNORECASE)
_AFTER_HALF = frozenset({"past", "term", "time", "way", "year", "hour", "hearted", "price"})
# The first half of a match is no share.
_ORDINAL_BEFORE = re.compile(r"(?:first|second|1st|2nd|other|latter|last|better)\s+$", re.IGNORECASE)
_MOST_IN = 99
_LARGEST_WHOLE = 1_000_000


def share(text: str, start: int, end: int, value: float) -> Read:
    """Return a share, or part of a unit where that is what is measured: half an hour."""
    unit = _OF_A_UNIT.match(text, end)
    if unit:
        return Read(start, unit.end(), value, MEASURES.get(unit[1].lower(), unit[1].lower()))
    return Read(start, end, round(value, 4), SHARE)


def part_in_words(text: str, words: Sequence[Word]) -> Read | None:
    """Return the share that some words begin with; None where they do not."""
    said = [word for word, _, _ in words]
    if said[0] in ("a", "an") and said[2:5] == ["and", "a", "half"] and said[1] in MEASURES:
        return Read(words[0][1], words[4][2], 1.5, MEASURES[said[1]])
    many, at = (1.0, 0) if said[0] in ("half", "halves") else (float(UNITS.get(said[0], 1)), 1)
    if (at and said[0] not in UNITS and said[0] not in ("a", "an")) or len(said) <= at or said[at] not in PARTS:
        return None
    name, following = said[at], said[at + 1] if len(said) > at + 1 else ""
    if name.startswith("half") and following in ("a", "an", *SCALES):
        return _half_of(text, words, at)
    if name == "half" and not at and _ORDINAL_BEFORE.search(text[max(0, words[0][1] - 12) : words[0][1]]):
        return None
    linked = text[words[0][2] : words[at][1]]
    is_plural = many <= 1 or name.endswith("s") or "-" in linked
    if not is_plural or _is_no_part(said[0], name, following):
        return None
    return share(text, words[0][1], words[at][2], many / PARTS[name])


def _is_no_part(first: str, name: str, following: str) -> bool:
    """Tell whether words say something else: half past, quarter to, a second."""
    if name == "half" and first == "half" and following in _AFTER_HALF:
        return True
    if name == "quarter":
        return following in ("to", "past", "final", "finals") or (first in ("a", "one") and following not in ("of", ""))
    return False


def _half_of(text: str, words: Sequence[Word], at: int) -> Read | None:
    """Return half a million, half a dozen, half an hour."""
    said = [word for word, _, _ in words]
    name = said[at + 2] if len(said) > at + 2 else ""
    if said[at + 1] in SCALES or name not in (*SCALES, *MEASURES):
        return None
    end = words[at + 2][2]
    if name in SCALES:
        return with_signs(text, words[0][1], end, 0.5 * SCALES[name])
    return Read(words[0][1], end, 0.5, MEASURES[name])


def so_many_of(text: str, start: int, end: int, value: float, decimal_comma: bool) -> Read | None:
    """Return the share that “9 of 10” and “one in five” are; None where nothing like that follows a number."""
    link = _OF_MANY.match(text, end)
    if link is None or _NOT_OF_MANY.match(text, link.end() - 1):
        return None
    found = _whole(text, link.end(), decimal_comma)
    if found is None:
        return None
    whole, stop = found
    is_in = link.group().split()[0].lower() == "in"
    if not 0 < value <= whole or whole < 2:
        return None
    if is_in and (value > _MOST_IN or whole > _LARGEST_WHOLE or is_measured_in(text, stop)):
        # Three in two days is no share.
        return None
    return Read(start, stop, round(value / whole, 4), SHARE)


def is_one_in_many(text: str, end: int) -> bool:
    """Tell whether “one” begins a share: one in five."""
    link = _OF_MANY.match(text, end)
    return link is not None and _whole(text, link.end(), decimal_comma=False) is not None


def _whole(text: str, at: int, decimal_comma: bool) -> tuple[float, int] | None:
    """Return the number that a share is of, and where it ends."""
    digits = FIGURES.match(text, at)
    if digits is None:
        words = [(one.group().lower(), one.end()) for one in word_matches(text, at)]
        found = words_value([word for word, _ in words])
        return (found.value, words[found.count - 1][1]) if found else None
    stop, whole = digits.end(), figures_value(digits.group(), decimal_comma)
    following = text[stop : stop + 2]
    is_year = 1500 <= whole <= 2100
    if is_year or following[:1].isalpha() or re.match(r"\s?[%/-]|\.\d", following):
        return None
    return whole, stop
