"""The command ``numbers``: the numbers of a text, what they count, and what could show them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from ypsil.core.errors import YpsilError

_MOST_LETTERS = 2_000_000


def numbers_json(path: str, read: Callable[[str], bytes]) -> dict[str, Any]:
    """Return what is said of a text file; ``read`` gets its bytes."""
    from ypsil.core.numbers import found_in
    from ypsil.core.tables.delimited import decode

    text = decode(read(path), Path(path).name)[0].decode("utf-8", errors="replace")
    if len(text) > _MOST_LETTERS:
        raise YpsilError(
            f"the text is longer than {_MOST_LETTERS:,} letters", where=Path(path).name, remedy="give a part of it"
        )
    found = found_in(text)
    return {
        "numbers": [
            {"text": one.text, "start": one.start, "end": one.end, "value": one.value, "unit": one.unit, "of": one.of}
            for one in found.numbers
        ],
        "groups": [
            {
                "start": one.start,
                "end": one.end,
                "kind": one.kind,
                "rows": [[*row] for row in one.rows],
                "visuals": [*one.visuals],
                "unit": one.unit,
            }
            for one in found.groups
        ],
        "not_numbers": [
            {"text": text[one.start : one.end], "start": one.start, "end": one.end, "kind": one.kind}
            for one in found.asides
        ],
    }
