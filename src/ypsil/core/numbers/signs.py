"""What stands at a number and belongs to it: its sign, its currency, its scale, its unit."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ypsil.core.numbers.reading import MEASURES, MONEY, MONEY_WORDS, SCALES, SHORT_SCALES

_MINUS = re.compile(r"(?:(?<![\w)\d])(?:[-–]|−\s?)|\b(?:minus|negative)\s+)$", re.IGNORECASE)
_CURRENCY = re.compile(r"(?:US\$|A\$|[£$€¥₹]|\b(?:GBP|USD|EUR|CHF)\s?)\s?$", re.IGNORECASE)
_SCALE = re.compile(
    r"[\s -]?(hundred|thousand|millions?|billions?|trillion|dozen|bn|mn|mio|tn|k|m|b)(?![\w²³/°])", re.IGNORECASE
)
_UNIT = re.compile(
    r"[\s -]?(per\s+cent(?:age)?(?:\s+points?)?|percent(?:age)?(?:\s+points?)?|%|‰|"
    r"square\s+(?:metres|kilometres|miles|feet)|km/h|°\s?[CF]\b|°|[A-Za-zµ²³]+(?:/[a-z]+)?²?|×)",
    re.IGNORECASE,
)
# After "m": what is so long, and no million.
_LENGTHS = re.compile(
    r"^\s*(?:long|wide|high|tall|deep|thick|away|apart|above|below|of\b|x\b|×|by\b|/|-|to\b|sprint|race|dash|relay|"
    r"hurdles|run|swim|freestyle|[.,;)]|$)",
    re.IGNORECASE,
)
_AND_A_HALF = re.compile(r"\s+and\s+a\s+half\b", re.IGNORECASE)
_PLURAL = re.compile(r"\s+[a-z]+s\b")
_SQUARED = {"square metres": "m²", "square kilometres": "km²", "square miles": "sq mi", "square feet": "sq ft"}
_POINTS = "percentage points"


@dataclass(frozen=True, slots=True)
class Read:
    """A number at its place, before it is known what it counts."""

    start: int
    end: int
    value: float
    unit: str | None


def begins_unit(text: str, at: int) -> bool:
    """Tell whether letters right after figures can be a unit or a scale."""
    return _UNIT.match(text, at) is not None


def is_measured_in(text: str, at: int) -> str | None:
    """Return the unit that a place begins with, in words or in more than one letter."""
    unit = _UNIT.match(text, at)
    called = unit[1].lower() if unit else ""
    return MEASURES.get(called) if len(called) > 1 else None


def with_signs(text: str, start: int, end: int, value: float) -> Read:
    """Return a number with what belongs to it.

    >>> with_signs("It cost £3.5m.", 9, 12, 3.5), with_signs("minus 4 °C", 6, 7, 4)
    (Read(start=8, end=13, value=3500000.0, unit='£'), Read(start=0, end=10, value=-4.0, unit='°C'))
    """
    money, start = _currency_before(text, start)
    sign = _MINUS.search(text[max(0, start - 10) : start])
    if sign and not _is_range(text, start, sign):
        start -= len(sign.group())
        value = -value
        if not money:
            money, start = _currency_before(text, start)
    scale = _SCALE.match(text, end)
    if scale and _is_scale(text, scale, bool(money)):
        value *= SCALES.get(scale[1].lower(), SHORT_SCALES.get(scale[1].lower(), 1.0))
        end = scale.end()
    value = float(f"{value:.12g}")
    if money:
        return Read(start, end, value, money)
    unit = _UNIT.match(text, end)
    known = _known_unit(text, unit) if unit else None
    if unit is None or known is None:
        return Read(start, end, value, None)
    half = _AND_A_HALF.match(text, unit.end())
    return Read(start, half.end(), value + 0.5, known) if half else Read(start, unit.end(), value, known)


def _currency_before(text: str, start: int) -> tuple[str, int]:
    """Return the currency that stands before a place, and where it begins."""
    found = _CURRENCY.search(text[max(0, start - 4) : start])
    if found is None:
        return "", start
    sign = found.group().strip()
    return MONEY.get(sign.lower(), MONEY.get(sign[-1:], sign.upper())), start - len(found.group())


def _is_range(text: str, start: int, sign: re.Match[str]) -> bool:
    """Tell whether a dash parts two numbers rather than being a sign."""
    before = start - len(sign.group()) - 1
    return sign.group().strip() in "-−–" and before >= 0 and text[before].isdigit()


def _is_scale(text: str, scale: re.Match[str], is_money: bool) -> bool:
    """Tell whether what follows is a scale: a single letter is one only where it cannot be anything else."""
    name = scale[1].lower()
    if name not in SHORT_SCALES or len(name) > 1:
        return True
    rest = text[scale.end() : scale.end() + 14]
    is_close = scale.group()[0] == scale[1][0]
    if name == "b":
        return is_money
    if name == "k":
        return is_close
    return is_money or ((is_close or _PLURAL.match(rest) is not None) and not _LENGTHS.match(rest))


def _known_unit(text: str, unit: re.Match[str]) -> str | None:
    called = re.sub(r"\s+", " ", unit[1].lower())
    if called.startswith(("per cent", "percent")):
        points = "point" in called or re.compile(r"\s+points?\b", re.IGNORECASE).match(text, unit.end())
        return _POINTS if points else "%"
    known = MONEY_WORDS.get(called) or MONEY.get(called) or _SQUARED.get(called)
    if known:
        return known
    known = MEASURES.get(called.replace(" ", "").rstrip("."))
    return known if known and _is_unit(text, unit, called) else None


def _is_unit(text: str, unit: re.Match[str], called: str) -> bool:
    """Tell whether letters after a number are its unit: single ones stand close to it, or nothing follows them."""
    rest = text[unit.end() : unit.end() + 12]
    if len(called) > 1 or called in "%‰°×":
        # "in" is a word more often than inches.
        return called != "in"
    close = unit.group()[0] not in "   -"
    if called == "m":
        # Before what is counted it is short for a million, and was looked at before.
        return close or not _PLURAL.match(rest)
    if called == "s":
        return close or _LENGTHS.match(rest) is not None
    return (close or called in "glth") and not re.match(r"[A-Za-z]", rest)
