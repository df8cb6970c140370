"""Stop words: the small words that carry a sentence but not its subject.

The lists are those of the packages stop-words and, for languages that it lacks, stopwordsiso, with what they lack and
without what they should not hold (``function_words``).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from functools import cache

import stop_words
import stopwordsiso

from ypsil.core.errors import QuestionRefused
from ypsil.core.text.function_words import LACKING, MEANT, SISTERS

# The package names two languages by other codes than ISO 639-1.
_ISO_NAMES = {"cs": "cz", "no": "nb"}
# Written without spaces, so that no word stands alone to be compared with a list.
WITHOUT_SPACES = frozenset({"ja", "th", "zh"})
_LEAST_HITS, _LEAST_SHARE, _LEAST_LEAD, _LEAST_LEAD_OF_SISTERS = 3, 0.08, 1.15, 1.01


@cache
def _short_lists() -> frozenset[str]:
    return frozenset({*stop_words.LANGUAGE_MAPPING, *_ISO_NAMES} - set(_ISO_NAMES.values()))


@cache
def languages() -> tuple[str, ...]:
    """Return the language codes (ISO 639-1) that have a list."""
    return tuple(sorted((_short_lists() | stopwordsiso.langs()) - WITHOUT_SPACES))


@cache
def stop_word_set(language: str) -> frozenset[str]:
    """Return the stop words of a language, in lower case and with straight apostrophes.

    Raises QuestionRefused for a language without a list.

    >>> "the" in stop_word_set("en"), "library" in stop_word_set("en")
    (True, False)
    """
    if language not in languages():
        raise QuestionRefused(
            f"there is no stop-word list for the language “{language}”",
            remedy="choose one of " + ", ".join(languages()),
        )
    if language in _short_lists():
        found = stop_words.get_stop_words(_ISO_NAMES.get(language, language))
    else:
        found = stopwordsiso.stopwords(language)
    words = {str(word).lower().replace("’", "'") for word in found} | set(LACKING.get(language, "").split())
    # People write contractions without their apostrophe as often as with it.
    every = words | {word.replace("'", "") for word in words if "'" in word}
    return frozenset(every - set(MEANT.get(language, "").split()))


@cache
def _languages_of_words() -> dict[str, tuple[str, ...]]:
    found: dict[str, list[str]] = {}
    for language in languages():
        for word in stop_word_set(language):
            found.setdefault(word, []).append(language)
    return {word: tuple(of) for word, of in found.items()}


def guess_language(words: Iterable[str] | Mapping[str, int]) -> str | None:
    """Return the language whose stop words stand most often among these words, or None where none leads clearly.

    Words are in lower case, each as often as it was written, or each with its count. A stop word of several languages
    speaks for each of them by its part. Stop words are a tenth to a half of running text in each of the languages
    (common practice, no source).

    >>> guess_language("das ist ein sehr schöner raum und die leute sind nett".split())
    'de'
    """
    counted: Counter[str] = Counter(words)
    known = _languages_of_words()
    hits: Counter[str] = Counter()
    told = dict.fromkeys(languages(), 0.0)
    for word, count in counted.items():
        for language in known.get(word, ()):
            hits[language] += count
            told[language] += count / len(known[word])
    best, second = sorted(told, key=lambda language: (-told[language], language))[:2]
    is_enough = hits[best] >= max(_LEAST_HITS, _LEAST_SHARE * counted.total())
    lead = _LEAST_LEAD_OF_SISTERS if any({best, second} <= sisters for sisters in SISTERS) else _LEAST_LEAD
    return best if is_enough and told[best] >= lead * told[second] else None
