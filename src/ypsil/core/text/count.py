"""Counting terms: the same text and settings give the same list."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
import polars as pl

from ypsil.core.text.association import Phrase, with_phrases
from ypsil.core.text.corpus import BREAK, Corpus, Ids, as_written, corpus_of, kept_together, merged
from ypsil.core.text.settings import Case, WordSettings
from ypsil.core.text.stems import LANGUAGES as STEMMED
from ypsil.core.text.stems import stems_of
from ypsil.core.text.stopwords import guess_language, stop_word_set
from ypsil.core.text.tokens import is_emoji, normalise

_LARGEST_KEY = 2**62
# Words around a term that its answers are sorted by.
_COMPARED = 4


@dataclass(frozen=True, slots=True)
class Term:
    """A word or phrase with its count and the number of responses that hold it."""

    term: str
    count: int
    responses: int


@dataclass(frozen=True, slots=True)
class Uses:
    """Where a term was used: the places of its first and its last word in a corpus, in the order of the text."""

    corpus: Corpus
    starts: Ids
    ends: Ids

    def first_of_each_answer(self) -> Uses:
        answers = self.corpus.answers[self.starts]
        firsts = np.unique(answers, return_index=True)[1]
        return Uses(self.corpus, self.starts[firsts], self.ends[firsts])

    def sorted_by(self, side: Literal["after", "before"]) -> Uses:
        """Return the uses in the alphabetical order of the words that stand after the term, or before it going
        backwards; where a clause or the text ends, no word stands."""
        places, answers = self.corpus.places, self.corpus.answers
        edges, step = (self.ends, 1) if side == "after" else (self.starts, -1)
        columns = []
        for distance in range(1, _COMPARED + 1):
            beside = edges + step * distance
            inside = (beside >= 0) & (beside < len(places))
            beside = np.where(inside, beside, 0)
            is_same = inside & (answers[beside] == answers[self.starts])
            columns.append(np.where(is_same, places[beside], BREAK))
        order = np.lexsort((self.starts, *columns[::-1]))
        return Uses(self.corpus, self.starts[order], self.ends[order])


@dataclass(frozen=True, slots=True)
class Labelled:
    """Counts of terms (rows, in the order of the terms) for each label, and how many words and answers it has."""

    counts: Ids
    words: Ids
    answers: Ids


@dataclass(frozen=True)
class TermCounts:
    """The counted terms in descending order, ties in alphabetical order.

    ``responses`` counts the texts with anything in them, ``tokens`` all their words, before any is left out.
    ``phrases`` are those that were found and kept together. ``language`` is that of the settings, or the one guessed.
    ``size`` is how many terms there are; they are written out when they are asked for.
    """

    responses: int
    tokens: int
    language: str
    phrases: tuple[Phrase, ...]
    _names: Callable[[Ids], list[str]]
    _order: Ids
    _counts: Ids
    _holding: Ids
    _corpus: Corpus
    _uses: tuple[Ids, Ids]
    _span: int

    @property
    def size(self) -> int:
        return len(self._order)

    def names(self) -> list[str]:
        """Return all terms, without their counts."""
        return self._names(self._order)

    @cached_property
    def terms(self) -> tuple[Term, ...]:
        return self.first(self.size)

    def first(self, most: int) -> tuple[Term, ...]:
        """Return the first ``most`` terms."""
        chosen = self._order[:most]
        columns = (self._names(chosen), self._counts[chosen].tolist(), self._holding[chosen].tolist())
        return tuple(map(Term, *columns))

    def by_labels(self, labels: Ids, size: int, *, by_answers: bool) -> Labelled:
        """Return how often each term was used in the answers of each label, or in how many of them.

        ``labels`` has a number below ``size`` for each text, or -1 for texts that stand aside.
        """
        groups, starts = self._uses
        answers = self._corpus.answers[starts]
        aside = labels[answers] < 0
        groups, answers = groups[~aside], answers[~aside]
        if by_answers:
            most = len(labels)
            pairs = np.unique(groups * most + answers)
            groups, answers = pairs // most, pairs % most
        width = int(self._order.max(initial=-1)) + 1
        chosen = groups < width
        cells = np.bincount(groups[chosen] * size + labels[answers[chosen]], minlength=width * size)
        words = self._corpus.answers[self._corpus.places != BREAK]
        with_words = np.unique(words)
        of_words, of_answers = (labels[where] for where in (words, with_words))
        return Labelled(
            cells.reshape(width, size)[self._order],
            np.bincount(of_words[of_words >= 0], minlength=size),
            np.bincount(of_answers[of_answers >= 0], minlength=size),
        )

    def uses(self, term: str) -> Uses:
        """Return where a term was used, in the order of the text; nowhere if it is not among the terms."""
        names = self.names()
        group = self._order[names.index(term)] if term in names else -1
        groups, starts = self._uses
        chosen = starts[groups == group]
        return Uses(self._corpus, chosen, chosen + self._span - 1)


def count_terms(texts: Iterable[str | None], settings: WordSettings | None = None) -> TermCounts:
    """Count the terms of the texts, each text being one response.

    Raises QuestionRefused for a language that has no stop words or no stems, where these are asked for.

    >>> found = count_terms(["Warm rooms, kind staff", "kind, kind people"])
    >>> [(term.term, term.count, term.responses) for term in found.terms[:2]]
    [('kind', 3, 2), ('people', 1, 1)]
    """
    return count_in(corpus_of(list(texts)), settings or WordSettings())


def count_in(corpus: Corpus, settings: WordSettings) -> TermCounts:
    """Count the terms of answers that are read already; see ``count_terms``."""
    tokens = corpus.tokens
    language = settings.language or language_of(corpus)
    # Where the language is only guessed, nobody asked for stems that it does not have.
    can_merge = settings.language is not None or language in STEMMED
    settings = settings.model_copy(update={"language": language} | ({} if can_merge else {"merge": "none"}))
    corpus = _prepared(corpus, settings)
    phrases: tuple[Phrase, ...] = ()
    if settings.find_phrases != "no" and settings.phrase_length == 1:
        corpus, phrases = with_phrases(corpus, np.array(_wanted(corpus.words, settings), bool), settings.find_phrases)
    if settings.case == "written":
        corpus = as_written(corpus)
    starts = _starts(corpus, settings)
    forms, of_form = _forms(corpus, starts, settings.phrase_length)
    counts = np.bincount(of_form, minlength=len(forms))
    groups, names = _groups(corpus, settings, forms, counts)
    size = len(names)
    totals = np.bincount(groups, weights=counts, minlength=size).astype(np.int64)
    holding = _holding(groups[of_form], corpus.answers[starts], size)
    ranking = totals if settings.count == "occurrences" else holding
    # Names are numbered in alphabetical order, and the sort is a stable one.
    order = np.argsort(-ranking, kind="stable")
    order = order[ranking[order] >= settings.min_count]
    left_out = {" ".join(_words(term)) for term in settings.leave_out}
    if any(" " in term for term in left_out):
        order = order[[name.lower() not in left_out for name in names.of(order)]]
    return TermCounts(
        corpus.responses,
        tokens,
        language,
        phrases,
        names.of,
        order[: settings.max_terms],
        totals,
        holding,
        corpus,
        (groups[of_form], starts),
        settings.phrase_length,
    )


def language_of(corpus: Corpus) -> str:
    """Return the language that answers seem to be written in; English where none leads clearly."""
    return guess_language(dict(zip(corpus.words, corpus.counts().tolist(), strict=True))) or "en"


def _words(phrase: str) -> list[str]:
    return normalise(phrase).lower().split()


def _prepared(corpus: Corpus, settings: WordSettings) -> Corpus:
    """Keep phrases together and take variants for what they stand for, before anything is counted."""
    single = settings.phrase_length == 1
    variants = {" ".join(_words(variant)): name for variant, name in _last_names(settings.merges).items()}
    variants = {variant: name for variant, name in variants.items() if single or " " not in variant}
    phrases = [*settings.together, *(variant for variant in variants if " " in variant)]
    corpus = kept_together(corpus, map(_words, phrases))
    return merged(corpus, _with_forms(corpus, variants, settings))


def _last_names(merges: Mapping[str, str]) -> dict[str, str]:
    """Return what each variant is called in the end, where names were changed once more.

    >>> _last_names({"color": "colour", "colour": "hue"})
    {'color': 'hue', 'colour': 'hue'}
    """
    names = {variant.lower(): normalise(name) for variant, name in merges.items()}
    found = {}
    for variant, name in names.items():
        seen = {variant}
        last = name
        while last.lower() in names and last.lower() not in seen:
            seen.add(last.lower())
            last = names[last.lower()]
        found[variant] = last
    return found


def _with_forms(corpus: Corpus, variants: dict[str, str], settings: WordSettings) -> dict[str, str]:
    """Return the variants, where forms of a word are one with all their forms."""
    if settings.merge != "stem" or not variants:
        return variants
    stems = dict(zip(corpus.words, stems_of(corpus.words, settings.language or "en"), strict=True))
    names = {stems[variant]: name for variant, name in variants.items() if variant in stems}
    return {word: names[stem] for word, stem in stems.items() if stem in names} | variants


def _starts(corpus: Corpus, settings: WordSettings) -> Ids:
    """Return the places at which a term starts; a phrase spans neither a left-out word nor the end of a clause."""
    wanted = np.array([*_wanted(corpus.words, settings), False])
    counted = wanted[corpus.places]
    span = settings.phrase_length
    starts = counted[: max(0, len(counted) - span + 1)].copy()
    for offset in range(1, span):
        starts &= counted[offset : len(starts) + offset]
    if span > 1:
        starts &= corpus.answers[: len(starts)] == corpus.answers[span - 1 :]
    return np.flatnonzero(starts)


def _wanted(words: Sequence[str], settings: WordSettings) -> list[bool]:
    language = settings.language or "en"
    words = [word.lower() for word in words]
    own = {" ".join(_words(word)) for word in settings.leave_out}
    if own and settings.merge == "stem":
        gone = set(stems_of(sorted(own), language))
        own = {word for word, stem in zip(words, stems_of(words, language), strict=True) if stem in gone}
    if settings.keep_stop_words:
        return [word not in own for word in words]
    stops = stop_word_set(language) | own
    kept = {" ".join(_words(word)) for word in settings.keep}

    def is_long(word: str) -> bool:
        return len(word) >= settings.shortest or is_emoji(word)

    def is_numeric(word: str) -> bool:
        return not any(map(str.isalpha, word)) and not is_emoji(word)

    return [
        word in kept or (word not in stops and is_long(word) and (settings.numbers or not is_numeric(word)))
        for word in words
    ]


def _forms(corpus: Corpus, starts: Ids, span: int) -> tuple[Ids, Ids]:
    """Return the different terms as rows of word numbers, in alphabetical order, and for each start its row."""
    size = max(1, len(corpus.words))
    keys = corpus.places[starts]
    highest = size
    for offset in range(1, span):
        if highest > _LARGEST_KEY // size:
            # Numbers for the beginnings that there are, in the same order, leave room for what follows.
            keys = np.unique(keys, return_inverse=True)[1]
            highest = len(keys)
        keys = keys * size + corpus.places[starts + offset]
        highest *= size
    _, firsts, of_form = np.unique(keys, return_index=True, return_inverse=True)
    return corpus.places[starts[firsts][:, None] + np.arange(span)], of_form


@dataclass(frozen=True)
class _Names:
    """How groups of terms are written: as a row of words each, or otherwise for a few."""

    corpus: Corpus
    case: Case
    forms: Ids
    own: dict[int, str]

    def __len__(self) -> int:
        return len(self.forms)

    def of(self, groups: Ids) -> list[str]:
        if not len(groups):
            return []
        words = self.corpus.spelt if self.case == "common" else self.corpus.words
        dress = _DRESSES[self.case]
        dressed = pl.Series([dress(word) for word in words])
        columns = [dressed.gather(numbers) for numbers in self.forms[groups].T]
        written = pl.select(pl.concat_str(columns, separator=" ")).to_series().to_list()
        if self.own:
            own = {group: dress(name) for group, name in self.own.items()}
            written = [own.get(group, text) for group, text in zip(groups.tolist(), written, strict=True)]
        return written


def _titled(text: str) -> str:
    return " ".join(word[:1].upper() + word[1:] for word in text.split(" "))


_DRESSES: dict[Case, Callable[[str], str]] = {
    "common": str,
    "written": str,
    "lower": str.lower,
    "upper": str.upper,
    "title": _titled,
}


def _groups(corpus: Corpus, settings: WordSettings, forms: Ids, counts: Ids) -> tuple[Ids, _Names]:
    """Return for each form the group that it is counted in, and the groups' names in alphabetical order."""
    groups = np.arange(len(forms))
    if settings.merge == "stem" and len(forms):
        used = np.unique(forms)
        written = stems_of([corpus.words[number] for number in used.tolist()], settings.language or "en")
        stems = np.zeros(len(corpus.words), dtype=np.int64)
        stems[used] = np.unique(written, return_inverse=True)[1]
        groups = np.unique(stems[forms], axis=0, return_inverse=True)[1].reshape(-1)
    own = _merge_forms(corpus, settings, forms, groups) if settings.phrase_length > 1 else {}
    if not own and settings.merge == "none":
        return groups, _Names(corpus, settings.case, forms, {})
    groups = np.unique(groups, return_inverse=True)[1].reshape(-1)
    # The commonest form stands for its group, of several the first in the alphabet.
    by_count = np.lexsort((np.arange(len(forms)), -counts, groups))
    shown = by_count[np.unique(groups[by_count], return_index=True)[1]]
    named = {int(groups[row]): name for row, name in own.items()}
    names = _Names(corpus, settings.case, forms[shown], named)
    order = np.argsort(shown) if not named else np.argsort(np.array(names.of(np.arange(len(shown))), dtype=object))
    places = np.empty_like(order)
    places[order] = np.arange(len(order))
    own_places = {int(places[group]): name for group, name in named.items()}
    return places[groups], _Names(corpus, settings.case, forms[shown][order], own_places)


def _merge_forms(corpus: Corpus, settings: WordSettings, forms: Ids, groups: Ids) -> dict[int, str]:
    """Move phrases that stand for others into their groups; return the names of groups by one of their forms."""
    rows = {tuple(row): place for place, row in enumerate(forms.tolist())} if settings.merges else {}
    names = {}
    for variant, name in settings.merges.items():
        row, target = (_row_of(corpus, rows, phrase) for phrase in (variant, name))
        if row is None or len(_words(variant)) < 2:
            continue
        if target is not None:
            groups[groups == groups[row]] = groups[target]
        names[row if target is None else target] = normalise(name)
    return names


def _row_of(corpus: Corpus, rows: dict[tuple[int, ...], int], phrase: str) -> int | None:
    numbers = [corpus.number_of(word) for word in _words(phrase)]
    return rows.get(tuple(number for number in numbers if number is not None)) if None not in numbers else None


def _holding(groups: Ids, answers: Ids, size: int) -> Ids:
    """Return how many answers hold each group."""
    if not len(groups):
        return np.zeros(size, dtype=np.int64)
    most = int(answers.max()) + 1
    pairs = np.sort(groups * most + answers)
    once = np.concatenate(([True], pairs[1:] != pairs[:-1]))
    return np.bincount(pairs[once] // most, minlength=size)
