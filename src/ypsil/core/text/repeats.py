"""What a writer repeats: words and phrases used again and again, and how far apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ypsil.core.text.corpus import BREAK, corpus_of
from ypsil.core.text.count import TermCounts, count_in, language_of
from ypsil.core.text.settings import WordSettings
from ypsil.core.text.stems import LANGUAGES as STEMMED
from ypsil.core.text.stopwords import stop_word_set

# A word may be needed twice (common practice, no source); a phrase of one's own seldom is.
_LEAST_WORDS, _LEAST_PHRASES = 3, 2
_LONGEST = 5


@dataclass(frozen=True, slots=True)
class Repeat:
    """A word or phrase with its uses, and how many words lie between one use and the next: in the middle of all gaps
    (their median), and where they are closest."""

    term: str
    count: int
    apart: int
    closest: int


def repeats(texts: Sequence[str | None], *, language: str | None = None, most: int = 12) -> list[Repeat]:
    """Return the words of three uses or more and the phrases of two or more, the most used first, of as many uses the
    closest; ``texts`` stand one after the other.

    Small words do not count, and phrases need one that is not small; parts of a longer phrase that are used no more
    often than it are left out.

    >>> said = ["A warm room is a good room.", "At the end of the day we like the room at the end of the hall"]
    >>> for one in repeats(said):
    ...     print(one.term, one.count, one.apart, one.closest)
    room 3 6 3
    at the end of the 2 5 5
    """
    corpus = corpus_of(texts)
    language = language or language_of(corpus)
    small = stop_word_set(language)
    words = count_in(
        corpus,
        WordSettings(language=language, merge="stem" if language in STEMMED else "none", min_count=_LEAST_WORDS),
    )
    phrases: list[Repeat] = []
    for length in range(_LONGEST, 1, -1):
        settings = WordSettings(language=language, phrase_length=length, keep_stop_words=True, min_count=_LEAST_PHRASES)
        for one in _repeats(count_in(corpus, settings)):
            if set(one.term.split()) <= small or any(_is_within(one, longer) for longer in phrases):
                continue
            phrases.append(one)
    single = [one for one in _repeats(words) if not any(_is_within(one, phrase) for phrase in phrases)]
    return sorted([*single, *phrases], key=lambda one: (-one.count, one.closest, one.term))[:most]


def gaps(found: TermCounts, term: str) -> list[int]:
    """Return how many words lie between each use of a term and the next."""
    uses = found.uses(term)
    if len(uses.starts) < 2:
        return []
    before = np.cumsum(uses.corpus.places != BREAK)
    starts, ends = np.sort(uses.starts), np.sort(uses.ends)
    return [int(gap) for gap in before[starts[1:]] - before[ends[:-1]] - 1]


def _repeats(found: TermCounts) -> list[Repeat]:
    made = []
    for term in found.terms:
        between = gaps(found, term.term)
        if between:
            made.append(Repeat(term.term, term.count, int(np.median(between)), max(0, min(between))))
    return made


def _is_within(one: Repeat, longer: Repeat) -> bool:
    return one.count <= longer.count and f" {one.term} " in f" {longer.term} "
