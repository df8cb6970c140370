"""Words people wrote: tokens, stop words, phrases and term counts."""

from ypsil.core.text.association import Phrase, keyness, log_ratio, pair_likelihood, pmi
from ypsil.core.text.corpus import Corpus, corpus_of
from ypsil.core.text.count import Term, TermCounts, WordSettings, count_in, count_terms
from ypsil.core.text.stopwords import guess_language, languages
from ypsil.core.text.tokens import tokenise

__all__ = [
    "Corpus", "Phrase", "Term", "TermCounts", "WordSettings", "corpus_of", "count_in", "count_terms", "guess_language",
    "keyness", "languages", "log_ratio", "pair_likelihood", "pmi", "tokenise",
]  # fmt: skip
