"""Numbers found in a text: where they stand, what they are, in which unit, and what they count."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ypsil.core.numbers.asides import asides_in
from ypsil.core.numbers.counted import counted_after, counted_before
from ypsil.core.numbers.model import Aside, Number
from ypsil.core.numbers.reading import (
    FIGURES,
    GLYPHS,
    TENS,
    UNITS,
    WORD,
    figures_value,
    word_matches,
    word_set,
    words_value,
)
from ypsil.core.numbers.shares import is_one_in_many, part_in_words, share, so_many_of
from ypsil.core.numbers.signs import Read, begins_unit, with_signs
from ypsil.core.text.stopwords import guess_language

_GLYPH = "".join(GLYPHS)
_BEGINS = re.compile(rf"[\d{_GLYPH}]|(?<![\w.,])\.(?=\d)|(?<![A-Za-z\d])[A-Za-z]+")
_FRACTION = re.compile(r"\s?/\s?(\d{1,3})(?![\d/])")
_MIXED = re.compile(rf"[\s ]?([{_GLYPH}])")
_DECIMAL_COMMA = frozenset({"de", "fr", "es", "it", "nl", "pt", "da", "sv", "nb", "no", "fi", "pl", "cs", "ru", "tr"})
# Where "one" is a pronoun or part of a saying, and no number.
_ONE_AFTER = word_set(
    "of another who which that can should would could may must might cannot will day thing way more by needs has had "
    "is was and or to in for at on as but if when from with about morning evening night time side hand does did than"
)
_ONE_BEFORE = word_set(
    "no any every each this that another which some the a an day by one as only such first last next new old good bad "
    "big small little other same right wrong either neither everyone loved"
)
_FIRST_WORDS = frozenset({*UNITS, *TENS, "a", "an", "half", "halves"})
_MOST_LETTERS = 2_000_000
_READ_FOR_LANGUAGE = 5_000
_LARGEST_UNDER = 100
# Between the two ends of a range, between what was and what is; and where only the second says what is counted.
_JOINED = re.compile(r"\s?[-–—]\s?|\s+to\s+|(\s+and\s+)", re.IGNORECASE)
_LABELLED = re.compile(r"[,;]\s+(?:and\s+|but\s+)?(?:the\s+)?[^\d,.;:]{1,40}", re.IGNORECASE)
_ENDS = re.compile(r"\s*(?:[.,;:)]|$)")


def numbers_in(text: str) -> list[Number]:
    """Return the numbers of a text in their order; after two million letters nothing more is looked at.

    >>> [(one.text, one.value, one.unit) for one in numbers_in("Two thirds of the loans, 12% more, £3.5m in all.")]
    [('Two thirds', 0.6667, 'share'), ('12%', 12.0, '%'), ('£3.5m', 3500000.0, '£')]
    """
    text = text[:_MOST_LETTERS]
    language = guess_language(text[:_READ_FOR_LANGUAGE].lower().split())
    reads = _Reader(text, language in _DECIMAL_COMMA).reads(asides_in(text))
    return _counted(text, reads, language in (None, "en"))


def _counted(text: str, reads: Sequence[Read], is_english: bool) -> list[Number]:
    """Return numbers with what they count, which is read in English alone."""
    found: list[Number] = []
    for place, read in enumerate(reads):
        before = reads[place - 1].end if place else 0
        after = reads[place + 1].start if place + 1 < len(reads) else len(text)
        link, rest = text[before : read.start], text[read.end : after]
        of = (counted_after(rest, read.unit) or counted_before(link)) if is_english else None
        number = Number(text[read.start : read.end], read.start, read.end, read.value, read.unit, of)
        if place and (joined := _JOINED.fullmatch(link)):
            found[-1], number = _as_range(found[-1], number, is_and=joined[1] is not None)
        elif place and number.unit is None and number.of and _ENDS.match(rest) and _LABELLED.fullmatch(link):
            # "Branches 14 minutes, bus 31": the unit is said once.
            number = replace(number, unit=found[-1].unit)
        found.append(number)
    return found


def _as_range(first: Number, second: Number, *, is_and: bool) -> tuple[Number, Number]:
    """Return the two ends of a range: what is said of one holds for the other."""
    if first.unit is None and second.unit is not None and not (is_and and first.of):
        first = replace(first, unit=second.unit)
    if is_and:
        return first, second
    return replace(first, of=first.of or second.of), replace(second, of=second.of or first.of)


@dataclass(frozen=True, slots=True)
class _Reader:
    text: str
    decimal_comma: bool

    def reads(self, asides: Sequence[Aside]) -> list[Read]:
        """Return the numbers that lie in none of the figures that are none."""
        found: list[Read] = []
        place = at = 0
        for match in _BEGINS.finditer(self.text):
            start = match.start()
            while place < len(asides) and asides[place].end <= start:
                place += 1
            if start < at:
                continue
            limit = asides[place].start if place < len(asides) else len(self.text)
            if limit <= start:
                at = asides[place].end
                continue
            read = self._in_words(start) if match.group()[0].isalpha() else self._in_figures(start)
            if read is not None and read.end <= limit:
                found.append(read)
                at = read.end
        return found

    def _in_figures(self, start: int) -> Read | None:
        text = self.text
        if text[start] in GLYPHS:
            is_of_unit = re.compile(r"\s?(?:%|(?!of\b)[A-Za-z]{1,3}\b)").match(text, start + 1)
            value, end = GLYPHS[text[start]], start + 1
            return with_signs(text, start, end, value) if is_of_unit else share(text, start, end, value)
        match = FIGURES.match(text, start)
        if match is None or (start and (text[start - 1].isalnum() or text[start - 1] == "_")):
            return None
        value, end = figures_value(match.group(), self.decimal_comma), match.end()
        fraction = _FRACTION.match(text, end)
        if fraction and 0 < value < float(fraction[1]) <= _LARGEST_UNDER and value == int(value):
            return share(text, start, fraction.end(), value / float(fraction[1]))
        mixed = _MIXED.match(text, end)
        if mixed:
            value, end = value + GLYPHS[mixed[1]], mixed.end()
        if text[end : end + 1].isalpha() and not begins_unit(text, end):
            return None
        return so_many_of(text, start, end, value, self.decimal_comma) or with_signs(text, start, end, value)

    def _in_words(self, start: int) -> Read | None:
        words = [(one.group().lower(), one.start(), one.end()) for one in word_matches(self.text, start)]
        said = [word for word, _, _ in words]
        if not said or said[0] not in _FIRST_WORDS:
            return None
        part = part_in_words(self.text, words)
        found = None if part else words_value(said)
        if found is None:
            return part
        end = words[found.count - 1][2]
        if (
            said[0] == "one"
            and found.count == 1
            and (self.text[start - 1 : start] == "-" or self._is_pronoun(start, end, said))
        ):
            return None
        of = so_many_of(self.text, start, end, found.value, self.decimal_comma)
        return of or with_signs(self.text, start, end, found.value)

    def _is_pronoun(self, start: int, end: int, said: Sequence[str]) -> bool:
        """Tell whether “one” stands for somebody or something, and counts nothing."""
        if is_one_in_many(self.text, end):
            return False
        before = WORD.findall(self.text[max(0, start - 20) : start].lower())
        following = said[1] if len(said) > 1 else ""
        return not following or following in _ONE_AFTER or bool(before and before[-1] in _ONE_BEFORE)
