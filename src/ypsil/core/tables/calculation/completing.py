"""What can stand at a place of a calculation, while it is being typed."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from ypsil.core.tables.calculation.compiling import quoted
from ypsil.core.tables.calculation.functions import FUNCTIONS
from ypsil.core.tables.calculation.parsing import WORDS
from ypsil.core.tables.model import Field

_MOST = 8


@dataclass(frozen=True, slots=True)
class Completion:
    """A proposal: the text to put between ``start`` and ``end``, what it is, and what it means."""

    insert: str
    label: str
    what: str
    start: int
    end: int


def complete(text: str, cursor: int, fields: Mapping[str, Field]) -> list[Completion]:
    """Return what could be meant by the word before the cursor, columns first; nothing inside a text.

    >>> [found.label for found in complete("Visits / to", 11, {"Visits": Field("number")})]
    ['total', 'today', 'running_total']
    >>> complete("Vis", 3, {"Visits by day": Field("number")})[0].insert
    '"Visits by day"'
    """
    before = text[:cursor]
    if before.count("'") % 2:
        return []
    opened = before.rfind('"') if before.count('"') % 2 else -1
    word = re.search(r"[^\W\d]\w*$", before)
    start = opened if opened >= 0 else word.start() if word else cursor
    typed = before[start:].lstrip('"').lower()
    if not typed and opened < 0:
        return []
    columns = [Completion(quoted(name), name, field.kind, start, cursor) for name, field in fields.items()]
    if opened >= 0:
        return _matching(columns, typed)
    functions = [
        Completion(f"{one.name}(", one.name, f"{one.says}, such as {one.example}", start, cursor)
        for one in FUNCTIONS.values()
    ]
    words = [Completion(word, word, "word", start, cursor) for word in WORDS]
    return _matching([*columns, *functions, *words], typed)


def _matching(found: list[Completion], typed: str) -> list[Completion]:
    starting = [one for one in found if one.label.lower().startswith(typed)]
    holding = [one for one in found if typed in one.label.lower() and one not in starting and one.what != "word"]
    return [one for one in starting + holding if one.insert.lower() != typed][:_MOST]
