"""What days of the week and months are called, from Unicode CLDR (through Babel), kept so that a few hundred words
need no reading of whole locales: ``python -m ypsil.core.tables.calendar_names`` writes them anew.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

LANGUAGES = ("en", "de", "fr", "es", "it", "nl", "pt", "sv", "da", "pl")
_FILE = Path(__file__).with_suffix(".json")
_CONTEXTS, _WIDTHS = ("stand-alone", "format"), ("wide", "abbreviated")


@cache
def names(what: str, width: str, context: str, language: str) -> dict[int, str]:
    """Return the ``days`` (Monday is 0) or ``months`` (from 1) of a language, ``wide`` or ``abbreviated``.

    >>> names("days", "wide", "format", "en")[0], names("months", "abbreviated", "stand-alone", "de")[3]
    ('Monday', 'Mär')
    """
    return {int(rank): name for rank, name in _kept()[language][what][width][context].items()}


@cache
def _kept() -> dict[str, dict[str, dict[str, dict[str, dict[str, str]]]]]:
    kept: dict[str, dict[str, dict[str, dict[str, dict[str, str]]]]] = json.loads(_FILE.read_text(encoding="utf-8"))
    return kept


def from_cldr() -> dict[str, object]:
    """Return the names as CLDR has them."""
    from babel.dates import get_day_names, get_month_names

    sources: dict[str, Callable[..., Any]] = {"days": get_day_names, "months": get_month_names}
    return {
        language: {
            what: {
                width: {
                    context: {str(rank): str(name) for rank, name in source(width, context, language).items()}
                    for context in _CONTEXTS
                }
                for width in _WIDTHS
            }
            for what, source in sources.items()
        }
        for language in LANGUAGES
    }


if __name__ == "__main__":
    _FILE.write_text(json.dumps(from_cldr(), ensure_ascii=False, indent=1) + "\n", encoding="utf-8")
