"""What columns are called where readers see them: names that were written for machines become words, and a unit that
stands in a name stands beside the numbers instead.

How machines' names are parted and which words stay in capitals is common practice, no source.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache

from ypsil.core.tables.model import Column
from ypsil.core.tables.units import known_unit

_LONGEST_ACRONYM = 4
_JOINTS = re.compile(r"(?<=\w)[_.]+(?=\w)|^_+|_+$")
_HUMP = re.compile(r"(?<=[a-z0-9])(?=[A-Z])")
_SMALL_WORDS = frozenset({"of", "in", "per", "and", "to", "by", "at", "on", "no"})
_IN_BRACKETS = re.compile(r"\s*[(\[]\s*([^()\[\]]{1,12}?)\s*[)\]]\s*$")
_SUFFIX = re.compile(r"[_.](cm|mm|km|kg|mg|ml|kwh|kWh|usd|USD|eur|EUR|gbp|GBP)$")
_AS_UNIT = {"kwh": "kWh", "usd": "USD", "eur": "EUR", "gbp": "GBP"}


def unit_in_name(name: str) -> str | None:
    """Return the unit that stands in a name: in brackets at its end, or as the last part of a machine's name. Percent
    is none: it says how the numbers are written, not what they are.

    >>> unit_in_name("Cost (£)"), unit_in_name("Height [cm]"), unit_in_name("weight_kg"), unit_in_name("Staff (paid)")
    ('£', 'cm', 'kg', None)
    """
    found = _IN_BRACKETS.search(name)
    if found:
        unit = known_unit(found[1])
        return None if unit == "%" else unit
    suffix = _SUFFIX.search(name)
    return _AS_UNIT.get(suffix[1], suffix[1]) if suffix else None


@lru_cache(maxsize=4096)
def in_words(name: str) -> str:
    """Return a column's name as readers see it.

    >>> in_words("temp_max"), in_words("US_Gross"), in_words("precipitation"), in_words("IMDB_Rating")
    ('Temp max', 'US gross', 'Precipitation', 'IMDB rating')
    >>> in_words("yearOfBirth"), in_words("TOTAL_SALES"), in_words("Cost (£)"), in_words("height_cm"), in_words("GDP")
    ('Year of birth', 'Total sales', 'Cost', 'Height', 'GDP')
    >>> in_words("Market Square"), in_words("McDonald"), in_words("pH"), in_words("Would you come again?")
    ('Market Square', 'McDonald', 'pH', 'Would you come again?')
    """
    plain = name
    if unit_in_name(name):
        plain = _SUFFIX.sub("", _IN_BRACKETS.sub("", name)) or name
    words = _parted(plain)
    if words is None:
        return plain[:1].upper() + plain[1:] if plain.islower() and " " not in plain else plain
    is_shouted = all(word.isupper() or word.isdigit() for word in words) and any(
        len(word) > _LONGEST_ACRONYM for word in words
    )
    said = [word if _is_acronym(word) and not is_shouted else word.lower() for word in words]
    joined = " ".join(said)
    return joined[:1].upper() + joined[1:]


def _parted(name: str) -> list[str] | None:
    """Return the words of a name that was written for machines; None for one that people wrote."""
    if " " in name.strip():
        return None
    parts = [part for part in _JOINTS.sub(" ", name).split() if part]
    words = [word for part in parts for word in _humps(part)]
    return words if len(words) > 1 or words != [name] else None


def _humps(part: str) -> list[str]:
    words = _HUMP.split(part)
    # A name such as McDonald, or a unit such as pH, is one word.
    is_of_words = all(len(word) > 2 or word.lower() in _SMALL_WORDS or word.isdigit() for word in words)
    return words if is_of_words else [part]


def _is_acronym(word: str) -> bool:
    return word.isupper() and 1 < len(word) <= _LONGEST_ACRONYM


def shown_names(columns: Iterable[Column]) -> dict[str, str]:
    """Return what each column is called for readers, where that is not its name: as its author said, else in words."""
    found = {column.name: column.shown or in_words(column.name) for column in columns}
    return {name: shown for name, shown in found.items() if shown != name}


def said_in_words(text: str, shown: dict[str, str]) -> str:
    """Return a text about columns with the names that readers see, small within a sentence.

    >>> said_in_words("Total US_Gross per release_date", {"US_Gross": "US gross", "release_date": "Release date"})
    'Total US gross per release date'
    >>> said_in_words("precipitation", {"precipitation": "Precipitation"})
    'Precipitation'
    """
    if not shown:
        return text
    pattern = "|".join(re.escape(name) for name in sorted(shown, key=len, reverse=True))
    return re.sub(
        rf"(?<!\w)(?:{pattern})(?!\w)",
        lambda found: shown[found[0]] if found.start() == 0 else _within(shown[found[0]], found[0]),
        text,
    )


def _within(shown: str, name: str) -> str:
    """Return a name within a sentence: with a small letter, unless people wrote it or it begins with an acronym."""
    first = shown.split(" ", 1)[0]
    keeps_capital = name[:1].isupper() and _parted(name) is None
    return shown if keeps_capital or _is_acronym(first) else shown[:1].lower() + shown[1:]
