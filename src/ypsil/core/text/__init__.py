"""Words people wrote: tokens, stop words, phrases and term counts."""

from ypsil.core.text.association import Phrase, keyness, log_ratio, pair_likelihood, pmi
from ypsil.core.text.corpus import Corpus, corpus_of, of_answers
from ypsil.core.text.count import Term, TermCounts, WordSettings, count_in, count_terms
from ypsil.core.text.function_words import CAPITALISING
from ypsil.core.text.repeats import Repeat, repeats
from ypsil.core.text.stopwords import guess_language, languages
from ypsil.core.text.themes import Carrying, Decision, Theme, ThemeRules, answer_key, find_themes, marked_themes
from ypsil.core.text.tokens import tokenise

__all__ = [
    "CAPITALISING",
    "Carrying",
    "Corpus",
    "Decision",
    "Phrase",
    "Repeat",
    "Term",
    "TermCounts",
    "Theme",
    "ThemeRules",
    "WordSettings",
    "answer_key",
    "corpus_of",
    "count_in",
    "count_terms",
    "find_themes",
    "guess_language",
    "keyness",
    "languages",
    "log_ratio",
    "marked_themes",
    "of_answers",
    "pair_likelihood",
    "pmi",
    "repeats",
    "tokenise",
]  # fmt: skip
