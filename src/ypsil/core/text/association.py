"""How much more often words stand together, or stand in one text rather than another, than chance would have it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ypsil.core.text.corpus import Corpus, Ids, joined

Floats = NDArray[np.float64]
Counts = Floats | NDArray[np.int64] | float
Finding = Literal["sure", "many"]
# The likelihood that chance passes once in a thousand times and once in twenty (chi-square, 1 degree of freedom).
_ONCE_IN_1000, _ONCE_IN_20 = 10.83, 3.84
_THRESHOLDS: dict[Finding, tuple[int, float]] = {"sure": (5, _ONCE_IN_1000), "many": (3, _ONCE_IN_20)}
# A phrase is found where its words stand together eight times as often as chance has it (common practice, no source).
_LEAST_PMI = 3.0
_MOST_PHRASES = 200
_LONGEST = 5


def pmi(together: Floats | float, first: Floats | float, second: Floats | float, tokens: float) -> Floats:
    """Return the pointwise mutual information in bits: how many doublings above chance two words stand together.

    K. W. Church and P. Hanks, Word association norms, mutual information, and lexicography, Computational Linguistics
    16 (1990).

    >>> round(float(pmi(20, 42, 20, 14_307_668)), 2)
    18.38
    """
    expected = np.asarray(first, dtype=float) * np.asarray(second, dtype=float) / tokens
    return np.asarray(np.log2(np.asarray(together, dtype=float) / expected))


def pair_likelihood(together: Floats | float, first: Floats | float, second: Floats | float, tokens: float) -> Floats:
    """Return the log-likelihood ratio of two words standing together against their being independent.

    T. Dunning, Accurate methods for the statistics of surprise and coincidence, Computational Linguistics 19 (1993).
    It is read as chi-square with one degree of freedom.
    """
    both = np.asarray(together, dtype=float)
    a, b = np.asarray(first, dtype=float), np.asarray(second, dtype=float)
    cells = (both, a - both, b - both, tokens - a - b + both)
    expected = (a * b, a * (tokens - b), (tokens - a) * b, (tokens - a) * (tokens - b))
    weighed = [_weighed(seen, chance / tokens) for seen, chance in zip(cells, expected, strict=True)]
    return np.asarray(2 * np.sum(weighed, axis=0))


def keyness(here: Counts, there: Counts, size_here: float, size_there: float) -> Floats:
    """Return the log-likelihood of a word's counts in two texts of these sizes; negative where ``there`` has it more.

    P. Rayson and R. Garside, Comparing corpora using frequency profiling, Workshop on Comparing Corpora (2000).
    """
    a, b = np.asarray(here, dtype=float), np.asarray(there, dtype=float)
    whole = size_here + size_there
    likelihood = 2 * (_weighed(a, size_here * (a + b) / whole) + _weighed(b, size_there * (a + b) / whole))
    return np.where(a * size_there >= b * size_here, likelihood, -likelihood)


def log_ratio(here: Floats | float, there: Floats | float, size_here: float, size_there: float) -> Floats:
    """Return how many doublings more often a word stands in one text than in another; nought counts as a half.

    A. Hardie, Log Ratio: an informal introduction (2014).

    >>> float(log_ratio(40, 10, 1000, 1000)), float(log_ratio(0, 4, 1000, 1000))
    (2.0, -3.0)
    """
    a, b = (np.where(np.asarray(count) > 0, count, 0.5) for count in (here, there))
    return np.log2(a / size_here) - np.log2(b / size_there)


def _weighed(seen: Floats, expected: Floats) -> Floats:
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(seen > 0, seen * np.log(seen / expected), 0.0)


@dataclass(frozen=True, slots=True)
class Phrase:
    """Words that stand together more often than by chance: how often, how surely and by how many doublings."""

    text: str
    count: int
    likelihood: float
    pmi: float


def with_phrases(corpus: Corpus, wanted: NDArray[np.bool_], finding: Finding) -> tuple[Corpus, tuple[Phrase, ...]]:
    """Return the corpus with phrases found in it kept together, and these, the surest first.

    ``wanted`` tells of each word whether it may be part of a phrase. ``sure`` takes pairs that are written five times
    and that chance would bring together once in a thousand times, ``many`` three times and once in twenty; both must
    stand together eight times as often as chance has it. Phrases grow from pairs, up to five words.
    """
    found: dict[str, Phrase] = {}
    for _ in range(_LONGEST - 1):
        pairs = _pairs(corpus, wanted, finding)
        if not pairs:
            break
        for phrase, words in pairs:
            made = joined(corpus, words)
            if made is corpus:
                continue
            if len(made.words) > len(corpus.words):
                wanted = np.insert(wanted, made.words.index(phrase.text), True)
            corpus = made
            found[phrase.text] = phrase
    # What became part of a longer phrase everywhere is none of its own.
    counts = dict(zip(corpus.words, corpus.counts().tolist(), strict=True))
    kept = [replace(phrase, count=counts[phrase.text]) for phrase in found.values() if counts[phrase.text]]
    return corpus, tuple(sorted(kept, key=lambda phrase: (-phrase.likelihood, phrase.text)))


def _pairs(corpus: Corpus, wanted: NDArray[np.bool_], finding: Finding) -> list[tuple[Phrase, tuple[str, str]]]:
    """Return the pairs of words that stand together by more than chance, the surest first."""
    places, counted = corpus.places, np.append(wanted, False)[corpus.places]
    starts = counted[:-1] & counted[1:] & (corpus.answers[:-1] == corpus.answers[1:])
    keys = places[:-1][starts] * len(corpus.words) + places[1:][starts]
    different, together = _counted(keys)
    first, second = different // max(1, len(corpus.words)), different % max(1, len(corpus.words))
    counts, tokens = corpus.counts(), corpus.tokens
    least, surely = _THRESHOLDS[finding]
    lengths = np.array([word.count(" ") + 1 for word in corpus.words], dtype=np.int64)
    fits = (together >= least) & (first != second) & (lengths[first] + lengths[second] <= _LONGEST)
    first, second, together = first[fits], second[fits], together[fits]
    likelihood = pair_likelihood(together, counts[first], counts[second], tokens)
    bits = pmi(together, counts[first], counts[second], tokens)
    sure = np.flatnonzero((likelihood >= surely) & (bits >= _LEAST_PMI))
    order = sure[np.lexsort((second[sure], first[sure], -likelihood[sure]))][:_MOST_PHRASES]
    found = []
    for row in order.tolist():
        words = (corpus.words[first[row]], corpus.words[second[row]])
        found.append((Phrase(" ".join(words), int(together[row]), float(likelihood[row]), float(bits[row])), words))
    return found


def _counted(keys: Ids) -> tuple[Ids, Ids]:
    """Return the different keys in order and how often each stands there."""
    ordered = np.sort(keys)
    changes = np.flatnonzero(np.concatenate(([True], ordered[1:] != ordered[:-1]))) if len(ordered) else ordered
    return ordered[changes], np.diff(np.append(changes, len(ordered)))
