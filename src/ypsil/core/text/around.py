"""What stands beside a term, and which rare terms look like frequent ones."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from rapidfuzz import process
from rapidfuzz.distance import OSA

from ypsil.core.text.corpus import BREAK
from ypsil.core.text.count import Term, TermCounts
from ypsil.core.text.stems import LANGUAGES as STEMMED
from ypsil.core.text.stems import stems_of
from ypsil.core.text.stopwords import stop_word_set

# A slip of the finger is rare beside the word that was meant (common practice, no source).
_RARELY, _TIMES_RARER, _SHORTEST, _LONG = 2, 5, 5, 9
_MOST_FREQUENT, _MOST_RARE = 500, 3000


def neighbours(found: TermCounts, term: str, *, most: int = 3) -> list[Term]:
    """Return the phrases that a term makes with the word beside it, those of at least two uses, the commonest first;
    small words beside it make none.

    >>> from ypsil.core.text.count import count_terms
    >>> said = ["Longer opening hours", "Opening hours on Sunday", "The hours"]
    >>> [(one.term, one.count) for one in neighbours(count_terms(said), "hours")]
    [('opening hours', 2)]
    """
    uses = found.uses(term)
    corpus = uses.corpus
    small = stop_word_set(found.language)
    phrases: dict[tuple[int, ...], list[int]] = {}
    for start, end in zip(uses.starts.tolist(), uses.ends.tolist(), strict=True):
        for first, last, beside in ((start - 1, end, start - 1), (start, end + 1, end + 1)):
            if not 0 <= beside < len(corpus.places) or corpus.places[beside] == BREAK:
                continue
            is_small = corpus.words[corpus.places[beside]].lower() in small
            if corpus.answers[beside] == corpus.answers[start] and not is_small:
                phrases.setdefault(tuple(corpus.places[first : last + 1].tolist()), []).append(first)
    counted = [
        Term(
            " ".join(corpus.spelt[number] for number in numbers),
            len(places),
            len(np.unique(corpus.answers[places])),
        )
        for numbers, places in phrases.items()
        if len(places) > 1
    ]
    return sorted(counted, key=lambda one: (-one.count, one.term))[:most]


@dataclass(frozen=True, slots=True)
class Respelt:
    """A rare term that a frequent one may be meant by."""

    rare: Term
    meant: Term


def likely_slips(found: TermCounts, *, most: int = 10) -> list[Respelt]:
    """Return the rare terms that are a letter (of long ones two) away from one that is used five times as often.

    Letters that are left out, added, exchanged or turned round count alike (optimal string alignment). Forms of one
    word are no slips of each other.
    """
    terms = [term for term in found.terms if len(term.term) >= _SHORTEST and term.term.replace(" ", "").isalpha()]
    frequent = [term for term in terms if term.count >= _RARELY + 1][:_MOST_FREQUENT]
    rare = [term for term in terms if term.count <= _RARELY][:_MOST_RARE]
    if not frequent or not rare:
        return []
    distances = process.cdist(
        [term.term.lower() for term in rare],
        [term.term.lower() for term in frequent],
        scorer=OSA.distance,
        score_cutoff=2,
    )
    slips = []
    for row, column in zip(*np.nonzero(distances <= 2), strict=True):
        one, other = rare[row], frequent[column]
        allowed = 2 if len(one.term) >= _LONG else 1
        if 0 < distances[row, column] <= allowed and one.count * _TIMES_RARER <= other.count:
            slips.append((int(distances[row, column]), -other.count, one.term, Respelt(one, other)))
    best: dict[str, Respelt] = {}
    for _, _, name, slip in sorted(slips, key=lambda one: one[:3]):
        best.setdefault(name, slip)
    kept = [slip for slip in best.values() if not _are_forms(slip, found.language)]
    return sorted(kept, key=lambda slip: (-slip.meant.count, slip.rare.term))[:most]


def _are_forms(slip: Respelt, language: str) -> bool:
    """Tell whether two terms are forms of one word: singular and plural, or with another ending."""
    one, other = slip.rare.term.lower(), slip.meant.term.lower()
    if language in STEMMED and len(set(stems_of([one, other], language))) == 1:
        return True
    shorter, longer = sorted((one, other), key=len)
    return longer.startswith(shorter[: len(shorter) - 1]) and len(longer) != len(shorter)
