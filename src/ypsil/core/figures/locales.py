"""The locale that figures are written in, and where it puts signs. Source: Unicode CLDR, through Babel."""

from __future__ import annotations

from functools import lru_cache

from babel import Locale

DEFAULT_LOCALE = "en_GB"
# Locales with Western digits, by their languages' English names.
LOCALES = (
    "en_GB", "en_US", "cs_CZ", "da_DK", "nl_NL", "fi_FI", "fr_FR", "fr_CH", "de_DE", "de_CH", "el_GR", "hu_HU",
    "it_IT", "nb_NO", "pl_PL", "pt_BR", "pt_PT", "ro_RO", "es_ES", "es_MX", "sv_SE", "tr_TR", "uk_UA",
)  # fmt: skip
_SPACES = "\u00a0\u202f "


@lru_cache(maxsize=64)
def sign_place(locale: str, sign: str) -> tuple[bool, bool]:
    """Return whether a percent (``%``) or currency sign (``¤``) stands before the number, and whether apart from it.

    >>> sign_place("en_GB", "¤"), sign_place("de_DE", "¤"), sign_place("de_DE", "%"), sign_place("tr_TR", "%")
    ((True, False), (False, True), (False, True), (True, False))
    """
    known = Locale.parse(locale)
    patterns = known.percent_formats if sign == "%" else known.currency_formats
    pattern = patterns[None if sign == "%" else "standard"].pattern.split(";")[0]
    place = pattern.index(sign)
    first = place < pattern.index("#")
    beside = pattern[place + 1] if first else pattern[place - 1]
    return first, beside in _SPACES


def locale_of(language: str) -> str:
    """Return the locale that figures are written in where only a language is known; the usual one for any other.

    >>> locale_of("en"), locale_of("de"), locale_of("ja")
    ('en_GB', 'de_DE', 'en_GB')
    """
    return next((locale for locale in LOCALES if locale.split("_")[0] == language), DEFAULT_LOCALE)


def languages() -> dict[str, str]:
    """Return the languages of the locales by their codes, each by its own name.

    >>> languages()["de"], list(languages())[0]
    ('Deutsch', 'en')
    """
    codes = dict.fromkeys(locale.split("_")[0] for locale in LOCALES)
    return {code: str(Locale.parse(code).display_name) for code in codes}


def locale_name(locale: str) -> str:
    """Return the locale's own name for itself, for choosing one.

    >>> locale_name("en_GB")
    'English (United Kingdom)'
    """
    return str(Locale.parse(locale).display_name)
