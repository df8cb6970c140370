"""The direction that a language is written in."""

from __future__ import annotations

from functools import lru_cache

from babel import Locale, UnknownLocaleError


@lru_cache(maxsize=64)
def direction_of(language: str) -> str:
    """Return ``rtl`` for a language that is written from right to left (Unicode CLDR, characterOrder), else ``ltr``.

    >>> direction_of("he"), direction_of("ar-EG"), direction_of("en"), direction_of("no such")
    ('rtl', 'rtl', 'ltr', 'ltr')
    """
    try:
        found = Locale.parse(language.replace("-", "_"))
    except (UnknownLocaleError, ValueError):
        return "ltr"
    return "rtl" if found.character_order == "right-to-left" else "ltr"
