"""Stop words: the small words that carry a sentence but not its subject (lists of the stop-words package)."""

from __future__ import annotations

from functools import cache

import stop_words

from ypsil.core.errors import QuestionRefused

# The package names two languages by other codes than ISO 639-1.
_ISO_NAMES = {"cs": "cz", "no": "nb"}


@cache
def languages() -> tuple[str, ...]:
    """Return the language codes (ISO 639-1) that have a list."""
    return tuple(sorted({*stop_words.LANGUAGE_MAPPING, *_ISO_NAMES} - set(_ISO_NAMES.values())))


@cache
def stop_word_set(language: str) -> frozenset[str]:
    """Return the stop words of a language, in lower case and with straight apostrophes.

    >>> "the" in stop_word_set("en"), "library" in stop_word_set("en")
    (True, False)
    """
    if language not in languages():
        raise QuestionRefused(
            f"there is no stop-word list for the language “{language}”",
            remedy="choose one of " + ", ".join(languages()),
        )
    words = {
        str(word).lower().replace("’", "'") for word in stop_words.get_stop_words(_ISO_NAMES.get(language, language))
    }
    # People write contractions without their apostrophe as often as with it.
    return frozenset(words | {word.replace("'", "") for word in words if "'" in word})
