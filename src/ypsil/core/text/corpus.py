"""Answers as numbers: each different word once, and for each place in the text the number of the word there."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
import polars as pl
from numpy.typing import NDArray

from ypsil.core.text.tokens import is_word, normalise, tokens_of

BREAK = -1
Ids = NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class Corpus:
    """What was written in a number of answers.

    ``words`` are the different words in lower case, in alphabetical order, ``spelt`` as most people wrote each of them
    within their sentences.
    ``places`` holds the number of a word for each place in the text, or ``BREAK`` where a phrase has to end;
    ``answers`` the number of the text that each place stands in. ``first`` and ``last`` tell which of that text's
    tokens stand there: the same one, unless words are kept together. ``responses`` counts the texts with anything in
    them. ``written`` are the different tokens and ``tokens_at`` the number of the one at each place, or ``BREAK`` where
    words are kept together or taken for others.
    """

    words: tuple[str, ...]
    spelt: tuple[str, ...]
    places: Ids
    answers: Ids
    first: Ids
    last: Ids
    responses: int
    written: tuple[str, ...]
    tokens_at: Ids

    @property
    def tokens(self) -> int:
        """How many words were written."""
        return int((self.places != BREAK).sum())

    def number_of(self, word: str) -> int | None:
        """Return the number of a word in lower case, or nothing where nobody wrote it."""
        place = bisect_left(self.words, word)
        return place if place < len(self.words) and self.words[place] == word else None

    def counts(self) -> Ids:
        """Return how often each word was written."""
        return np.bincount(self.places[self.places != BREAK], minlength=len(self.words))


def corpus_of(texts: Sequence[str | None]) -> Corpus:
    """Read texts, each being one answer.

    >>> found = corpus_of(["Warm rooms, kind staff", None, "Kind, KIND people"])
    >>> found.words, found.spelt[0], found.responses
    (('kind', 'people', 'rooms', 'staff', 'warm'), 'kind', 2)
    >>> found.places.tolist(), found.answers.tolist()
    ([4, 2, -1, 0, 3, 0, -1, 0, 1], [0, 0, 0, 0, 0, 2, 2, 2, 2])
    """
    lists = tokens_of(texts)
    lengths = lists.list.len().fill_null(0).cast(pl.Int64).to_numpy()
    tokens = lists.filter(lengths > 0).explode()
    different = tokens.unique(maintain_order=True)
    raw = tokens.cast(pl.Enum(different)).to_physical().to_numpy().astype(np.int64)
    written = [normalise(token) for token in different.to_list()]
    folded = [token.lower() if is_word(token) else "" for token in written]
    words = tuple(sorted(set(folded) - {""}))
    of_word = dict(zip(words, range(len(words)), strict=True)) | {"": BREAK}
    of_token = np.array([of_word[word] for word in folded], dtype=np.int64)
    answers = np.repeat(np.arange(len(lengths)), lengths)
    inside = np.arange(len(answers)) - np.repeat(np.cumsum(lengths) - lengths, lengths)
    responses = sum(1 for text in texts if text and not text.isspace())
    places = of_token[raw]
    # What begins an answer or stands behind a sign may have its capital from there.
    inside_clause = np.zeros(len(places), dtype=bool)
    inside_clause[1:] = (answers[1:] == answers[:-1]) & (places[:-1] != BREAK)
    votes = [np.bincount(raw[voters], minlength=len(written)) for voters in (inside_clause, ~inside_clause)]
    spelt = _commonest_spellings(words, written, folded, votes)
    return Corpus(words, spelt, places, answers, inside, inside, responses, tuple(written), raw)


def _commonest_spellings(
    words: Sequence[str], written: Sequence[str], folded: Sequence[str], votes: Sequence[Ids]
) -> tuple[str, ...]:
    """Return how each word is spelt most often within clauses, or where it only begins them, there."""
    best: dict[str, tuple[int, int, str]] = {}
    for token, word, *counts in zip(written, folded, *(vote.tolist() for vote in votes), strict=True):
        # Of spellings written as often the one in small letters, which sorts last.
        best[word] = max(best.get(word, (0, 0, "")), (*counts, token))
    return tuple(best[word][-1] for word in words)


def of_answers(corpus: Corpus, numbers: Sequence[int] | Ids) -> Corpus:
    """Return the corpus of some of its answers, each with something in it, in this order; one that is named more than
    once counts as often.

    >>> found = of_answers(corpus_of(["Warm rooms", "kind staff", "kind"]), [2, 1, 1])
    >>> [found.words[place] for place in found.places], found.answers.tolist(), found.responses
    (['kind', 'kind', 'staff', 'kind', 'staff'], [0, 1, 1, 2, 2], 3)
    """
    numbers = np.asarray(numbers, dtype=np.int64)
    starts = np.searchsorted(corpus.answers, numbers)
    lengths = np.searchsorted(corpus.answers, numbers, side="right") - starts
    answers = np.repeat(np.arange(len(numbers)), lengths)
    at = np.arange(len(answers)) + np.repeat(starts - np.cumsum(lengths) + lengths, lengths)
    return replace(
        corpus,
        places=corpus.places[at],
        answers=answers,
        first=corpus.first[at],
        last=corpus.last[at],
        responses=len(numbers),
        tokens_at=corpus.tokens_at[at],
    )


def kept_together(corpus: Corpus, phrases: Iterable[Sequence[str]]) -> Corpus:
    """Return a corpus in which each of these phrases (as words) is one word; longer phrases are found first.

    >>> found = kept_together(corpus_of(["Opening hours, longer opening hours"]), [("opening", "hours")])
    >>> [found.words[place] for place in found.places if place != BREAK]
    ['opening hours', 'longer', 'opening hours']
    """
    for words in sorted(
        {tuple(word.lower() for word in phrase) for phrase in phrases}, key=lambda one: (-len(one), one)
    ):
        corpus = joined(corpus, words)
    return corpus


def joined(corpus: Corpus, phrase: Sequence[str]) -> Corpus:
    """Return the corpus with a phrase as one word wherever it stands, or the same corpus where it does not."""
    numbers = [corpus.number_of(word) for word in phrase]
    if len(phrase) < 2 or None in numbers or len(corpus.places) < len(phrase):
        return corpus
    span = len(phrase)
    starts = np.ones(len(corpus.places) - span + 1, dtype=bool)
    for place, number in enumerate(numbers):
        starts &= corpus.places[place : len(corpus.places) - span + 1 + place] == number
    starts &= corpus.answers[: len(starts)] == corpus.answers[span - 1 :]
    firsts = _without_overlaps(np.flatnonzero(starts), span)
    if not len(firsts):
        return corpus
    name = " ".join(corpus.spelt[number] for number in numbers if number is not None)
    corpus, number = _with_word(corpus, name)
    places = corpus.places.copy()
    places[firsts] = number
    tokens_at = corpus.tokens_at.copy()
    tokens_at[firsts] = BREAK
    last = corpus.last.copy()
    last[firsts] = corpus.last[firsts + span - 1]
    keep = np.ones(len(places), dtype=bool)
    for offset in range(1, span):
        keep[firsts + offset] = False
    return replace(
        corpus,
        places=places[keep],
        answers=corpus.answers[keep],
        first=corpus.first[keep],
        last=last[keep],
        tokens_at=tokens_at[keep],
    )


def _with_word(corpus: Corpus, name: str) -> tuple[Corpus, int]:
    """Return the corpus with a word more, and its number."""
    word = name.lower()
    number = bisect_left(corpus.words, word)
    spelt = corpus.spelt
    if corpus.number_of(word) is not None:
        return replace(corpus, spelt=(*spelt[:number], name, *spelt[number + 1 :])), number
    return replace(
        corpus,
        words=(*corpus.words[:number], word, *corpus.words[number:]),
        spelt=(*spelt[:number], name, *spelt[number:]),
        places=corpus.places + (corpus.places >= number),
    ), number


def merged(corpus: Corpus, merges: Mapping[str, str]) -> Corpus:
    """Return a corpus in which words (and what is kept together) are taken for others, spelt as these are given.

    >>> found = merged(corpus_of(["Colour, color"]), {"color": "Colour"})
    >>> found.counts().tolist(), found.spelt
    ([0, 2], ('color', 'Colour'))
    """
    for variant, name in merges.items():
        number = corpus.number_of(variant.lower())
        if number is None or variant.lower() == name.lower():
            continue
        corpus, target = _with_word(corpus, name)
        number = corpus.number_of(variant.lower())
        moved = corpus.places == number
        corpus = replace(
            corpus,
            places=np.where(moved, target, corpus.places),
            tokens_at=np.where(moved, BREAK, corpus.tokens_at),
        )
    return corpus


def as_written(corpus: Corpus) -> Corpus:
    """Return a corpus in which words that are capitalised differently are different ones; what is kept together or
    taken for others stays one.

    >>> found = as_written(corpus_of(["IT helps us", "It is in the US"]))
    >>> found.words
    ('IT', 'It', 'US', 'helps', 'in', 'is', 'the', 'us')
    """
    names = (*corpus.written, *corpus.spelt)
    own = (corpus.places != BREAK) & (corpus.tokens_at == BREAK)
    keys = np.where(own, len(corpus.written) + corpus.places, np.where(corpus.places == BREAK, BREAK, corpus.tokens_at))
    used = np.unique(keys[keys != BREAK]).tolist()
    words = tuple(sorted({names[key] for key in used}))
    number_of = {word: number for number, word in enumerate(words)}
    # The last one is that of a break.
    numbers = np.full(len(names) + 1, BREAK, dtype=np.int64)
    numbers[used] = [number_of[names[key]] for key in used]
    return replace(corpus, words=words, spelt=words, places=numbers[keys])


def _without_overlaps(starts: Ids, span: int) -> Ids:
    """Return the starts of a phrase that do not lie within the one before, as in "no no no"."""
    if not len(starts) or int(np.diff(starts).min(initial=span)) >= span:
        return starts
    kept, end = [], -1
    for start in starts.tolist():
        if start >= end:
            kept.append(start)
            end = start + span
    return np.array(kept, dtype=np.int64)
