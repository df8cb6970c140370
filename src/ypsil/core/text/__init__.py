"""Words people wrote: tokens, stop words, phrases and term counts."""

from ypsil.core.text.count import Term, TermCounts, WordSettings, count_terms
from ypsil.core.text.tokens import tokenise

__all__ = ["Term", "TermCounts", "WordSettings", "count_terms", "tokenise"]
