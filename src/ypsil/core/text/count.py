"""Counting terms: the same text and settings give the same list."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from operator import attrgetter
from typing import Literal

import snowballstemmer
from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.errors import QuestionRefused
from ypsil.core.text.stopwords import stop_word_set
from ypsil.core.text.tokens import clauses

_STEMMERS = {
    "ar": "arabic", "ca": "catalan", "da": "danish", "de": "german", "el": "greek", "en": "english",
    "es": "spanish", "fi": "finnish", "fr": "french", "hi": "hindi", "hu": "hungarian", "id": "indonesian",
    "it": "italian", "nl": "dutch", "no": "norwegian", "pt": "portuguese", "ro": "romanian",
    "ru": "russian", "sv": "swedish", "tr": "turkish",
}  # fmt: skip


class WordSettings(BaseModel):
    """How text becomes terms."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    language: str = Field("en", description="language of the stop words and of merging, ISO 639-1")
    phrase_length: int = Field(1, ge=1, le=5, description="words in a term")
    min_count: int = Field(1, ge=1, description="rarer terms are left out")
    count: Literal["occurrences", "responses"] = "occurrences"
    merge: Literal["none", "stem"] = Field("none", description="count book and books as one")
    keep_stop_words: bool = False
    leave_out: tuple[str, ...] = Field((), description="own words to leave out")


@dataclass(frozen=True, slots=True)
class Term:
    """A word or phrase with its count and the number of responses that hold it."""

    term: str
    count: int
    responses: int


@dataclass(frozen=True, slots=True)
class TermCounts:
    """The counted terms in descending order, ties in alphabetical order.

    ``responses`` counts the texts with anything in them, ``tokens`` all their words, before any is left out.
    """

    responses: int
    tokens: int
    terms: tuple[Term, ...]


def count_terms(texts: Iterable[str | None], settings: WordSettings | None = None) -> TermCounts:
    """Count the terms of the texts, each text being one response.

    >>> found = count_terms(["Warm rooms, kind staff", "kind, kind people"])
    >>> [(term.term, term.count, term.responses) for term in found.terms[:2]]
    [('kind', 3, 2), ('people', 1, 1)]
    """
    settings = settings or WordSettings()
    wanted = _word_filter(settings)
    stem = _stem_of_term(settings.language) if settings.merge == "stem" else None
    spellings: dict[str, Counter[str]] = {}
    occurrences: Counter[str] = Counter()
    holding: Counter[str] = Counter()
    responses = tokens = 0
    for text in texts:
        if not text or not text.strip():
            continue
        responses += 1
        parts = clauses(text)
        tokens += sum(map(len, parts))
        found = list(_phrases(parts, settings.phrase_length, wanted))
        if stem is not None:
            for term in found:
                spellings.setdefault(stem(term), Counter())[term] += 1
            found = [stem(term) for term in found]
        occurrences.update(found)
        holding.update(set(found))
    ranking = occurrences if settings.count == "occurrences" else holding
    terms = [
        Term(_commonest(spellings[key]) if stem else key, occurrences[key], holding[key])
        for key, count in ranking.items()
        if count >= settings.min_count
    ]
    amount = attrgetter("count" if settings.count == "occurrences" else "responses")
    terms.sort(key=lambda term: (-amount(term), term.term))
    return TermCounts(responses, tokens, tuple(terms))


def _word_filter(settings: WordSettings) -> Callable[[str], bool]:
    if settings.keep_stop_words and not settings.leave_out:
        return lambda word: True
    own = frozenset(word.lower() for word in settings.leave_out)
    if settings.keep_stop_words:
        return lambda word: word not in own
    stops = stop_word_set(settings.language) | own
    return lambda word: word not in stops and len(word) > 1 and not word.isdigit()


def _phrases(parts: list[list[str]], length: int, wanted: Callable[[str], bool]) -> Iterator[str]:
    """Yield the terms of one response; a phrase spans neither a left-out word nor the end of a clause."""
    for words in parts:
        if length == 1:
            yield from filter(wanted, words)
            continue
        keep = [wanted(word) for word in words]
        for start in range(len(words) - length + 1):
            if all(keep[start : start + length]):
                yield " ".join(words[start : start + length])


def _commonest(spellings: Counter[str]) -> str:
    return min(spellings, key=lambda term: (-spellings[term], term))


def _stem_of_term(language: str) -> Callable[[str], str]:
    """Return a function from a term to its Snowball stems, remembered for the length of one count."""
    if language not in _STEMMERS:
        raise QuestionRefused(
            f"words of the language “{language}” cannot be merged by stem",
            remedy="choose no merging or one of " + ", ".join(_STEMMERS),
        )
    stemmer = snowballstemmer.stemmer(_STEMMERS[language])
    known: dict[str, str] = {}

    def stem(term: str) -> str:
        if term not in known:
            known[term] = " ".join(stemmer.stemWords(term.split()))
        return known[term]

    return stem
