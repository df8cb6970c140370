"""The sentences of a text, with where each begins, and the periods that they name."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ypsil.core.numbers.asides import MONTH
from ypsil.core.numbers.model import Number

_SENTENCE = re.compile(r"(?<=[.!?])[\"”’)]*\s+(?=[A-Z“\"‘(\d])|\n\s*\n|\n(?=\s*(?:[-*•–]|\(?\d{1,3}[.)])\s)")
_NO_END = re.compile(
    r"\b(?:Mr|Mrs|Ms|Dr|St|Prof|No|Nos|vs|approx|ca|e\.g|i\.e|etc|Fig|p|pp|vol|Jan|Feb|Mar|Apr|Jun|Jul|Aug|Sept?|Oct|"
    r"Nov|Dec)\.$"
)
PERIOD = re.compile(
    rf"\b(?:(?:{MONTH})(?:\s+\d{{4}})?|(?:1[5-9]|20|21)\d\d(?:[/–-]\d{{2,4}})?|Q[1-4](?:\s+\d{{4}})?|"
    r"(?:Mon|Tues|Wednes|Thurs|Fri|Satur|Sun)days?|(?:week|month|day|year)\s+(?:\d+|one|two|three|four|five|six)|"
    r"spring|summer|autumn|winter)\b",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True)
class Part:
    start: int
    end: int
    text: str


def sentences(text: str) -> Iterator[Part]:
    """Yield the sentences of a text; the items of a list are one each."""
    start = 0
    for match in _SENTENCE.finditer(text):
        if _NO_END.search(text[start : match.start()]):
            continue
        if text[start : match.start()].strip():
            yield Part(start, match.start(), text[start : match.start()])
        start = match.end()
    if text[start:].strip():
        yield Part(start, len(text), text[start:])


def numbers_between(numbers: Sequence[Number], start: int, end: int) -> Sequence[Number]:
    """Return those of some numbers, which stand in their order, that begin between two places."""
    return numbers[_place(numbers, start) : _place(numbers, end)]


def _place(numbers: Sequence[Number], at: int) -> int:
    return bisect_left(numbers, at, key=lambda one: one.start)
