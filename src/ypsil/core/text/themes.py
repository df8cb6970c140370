"""Themes: named groups of words and phrases, found in answers and corrected by hand.

An answer carries each theme whose words or phrases stand in it. What a reader decides about an answer holds for
every answer with the same text, also for those that arrive later.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.text.contexts import Piece, pieces_of
from ypsil.core.text.corpus import BREAK, Corpus, Ids, corpus_of
from ypsil.core.text.count import language_of
from ypsil.core.text.stems import LANGUAGES as STEMMED
from ypsil.core.text.stems import stems_of
from ypsil.core.text.tokens import normalise, tokenise, tokens_of

MOST_THEMES, MOST_TERMS, LONGEST_NAME, LONGEST_TERM = 60, 500, 60, 100
_KEY_LETTERS = 16
_CLOSING = ".!… "
Carried = NDArray[np.bool_]


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Theme(_Model):
    """A named group of words and phrases."""

    name: str = Field(min_length=1, max_length=LONGEST_NAME)
    terms: tuple[str, ...] = Field((), max_length=MOST_TERMS)


class Decision(_Model):
    """What a reader decided about an answer beyond its words: themes it carries all the same, and themes it does not.

    An empty one says that the answer was read and left as its words have it.
    """

    carries: tuple[str, ...] = ()
    lacks: tuple[str, ...] = ()


class ThemeRules(_Model):
    """How themes are found: ``forms`` takes all forms of a word for one (by its stem), in the ``language`` given or
    guessed; ``decisions`` are those of a reader, by ``answer_key``."""

    themes: tuple[Theme, ...] = Field((), max_length=MOST_THEMES)
    forms: bool = True
    language: str | None = None
    decisions: dict[str, Decision] = {}


@dataclass(frozen=True, eq=False)
class Carrying:
    """Which answer carries which theme: a row for each text, a column for each theme; and which texts say anything."""

    carried: Carried
    answered: Carried

    @property
    def uncoded(self) -> Carried:
        """Tell of each text whether it says something and carries no theme."""
        return self.answered & ~self.carried.any(axis=1)


def answer_key(text: str) -> str:
    """Return the key under which decisions about an answer are kept: the same however it is spaced and capitalised,
    and whatever sign it ends with.

    >>> answer_key("Too few  chairs!") == answer_key("too few chairs "), len(answer_key(""))
    (True, 16)
    """
    folded = " ".join(normalise(text).casefold().split()).rstrip(_CLOSING)
    return hashlib.sha256(folded.encode()).hexdigest()[:_KEY_LETTERS]


def find_themes(texts: Sequence[str | None], rules: ThemeRules, corpus: Corpus | None = None) -> Carrying:
    """Tell which of the texts carry which themes; ``corpus`` is that of the texts, where it is at hand.

    >>> hours, staff = Theme(name="Hours", terms=("opening hours",)), Theme(name="Staff", terms=("staff",))
    >>> said = ["Longer opening hours", "Kind staff at the opening hour", "Nothing", None]
    >>> find_themes(said, ThemeRules(themes=(hours, staff))).carried.tolist()
    [[True, False], [True, True], [False, False], [False, False]]
    """
    corpus = corpus or corpus_of(texts)
    places = _Places.of(corpus, rules)
    carried = np.zeros((len(texts), len(rules.themes)), dtype=bool)
    for column, theme in enumerate(rules.themes):
        for term in theme.terms:
            carried[corpus.answers[places.starts_of(term)], column] = True
    answered = np.array([bool(text) and not str(text).isspace() for text in texts], dtype=bool)
    if rules.decisions:
        rows_of: dict[str, list[int]] = {}
        for row, text in enumerate(texts):
            if text:
                rows_of.setdefault(answer_key(text), []).append(row)
        carried = with_decisions(carried, rows_of, rules)
    return Carrying(carried, answered)


def with_decisions(carried: Carried, rows_of: Mapping[str, Sequence[int]], rules: ThemeRules) -> Carried:
    """Return which answer carries which theme once a reader's decisions count; ``rows_of`` gives the rows of a key."""
    carried = carried.copy()
    columns = {theme.name: column for column, theme in enumerate(rules.themes)}
    for key, decision in rules.decisions.items():
        for names, value in ((decision.carries, True), (decision.lacks, False)):
            for name in names:
                if name in columns:
                    carried[list(rows_of.get(key, ())), columns[name]] = value
    return carried


@dataclass(frozen=True)
class _Places:
    """A text as numbers that are the same for words taken for one."""

    corpus: Corpus
    numbers: Ids
    known: Mapping[str, int]
    language: str | None

    @classmethod
    def of(cls, corpus: Corpus, rules: ThemeRules) -> _Places:
        language = rules.language or language_of(corpus)
        if not rules.forms or language not in STEMMED:
            known = {word: number for number, word in enumerate(corpus.words)}
            return cls(corpus, corpus.places, known, None)
        different, numbers = np.unique(stems_of(corpus.words, language), return_inverse=True)
        known = {stem: number for number, stem in enumerate(different.tolist())}
        of_word = np.array([*numbers.tolist(), BREAK], dtype=np.int64)
        return cls(corpus, of_word[corpus.places], known, language)

    def starts_of(self, term: str) -> Ids:
        """Return the places at which a word or phrase starts."""
        words = tokenise(term)
        words = stems_of(words, self.language) if self.language else words
        numbers = [self.known.get(word) for word in words]
        span = len(numbers)
        if not span or None in numbers or len(self.numbers) < span:
            return np.zeros(0, dtype=np.int64)
        length = len(self.numbers) - span + 1
        found = np.ones(length, dtype=bool)
        for offset, number in enumerate(numbers):
            found &= self.numbers[offset : length + offset] == number
        found &= self.corpus.answers[:length] == self.corpus.answers[span - 1 :]
        return np.flatnonzero(found)


def marked_themes(text: str, rules: ThemeRules) -> tuple[Piece, ...]:
    """Return a text in pieces, those that are words of a theme marked.

    >>> rules = ThemeRules(themes=(Theme(name="Staff", terms=("kind staff",)),), language="en")
    >>> [piece.text for piece in marked_themes("So kind staff!", rules) if piece.is_term]
    ['kind staff']
    """
    corpus = corpus_of([text])
    places = _Places.of(corpus, rules)
    spans = []
    for theme in rules.themes:
        for term in theme.terms:
            length = len(tokenise(term))
            starts = places.starts_of(term)
            spans += list(zip(corpus.first[starts].tolist(), corpus.last[starts + length - 1].tolist(), strict=True))
    return pieces_of(text, tokens_of([text]).to_list()[0] or [], _apart(spans))


def _apart(spans: list[tuple[int, int]]) -> list[tuple[int, int]]:
    """Join stretches that overlap, in the order of the text."""
    joined: list[tuple[int, int]] = []
    for first, last in sorted(spans):
        if joined and first <= joined[-1][1]:
            joined[-1] = (joined[-1][0], max(last, joined[-1][1]))
        else:
            joined.append((first, last))
    return joined
