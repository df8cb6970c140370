"""What the scripts of pages send: JSON, read at one place."""

from __future__ import annotations

import json
import math
from typing import Any

from django.core.exceptions import BadRequest

# Whole numbers of more digits are none that every program reads alike (RFC 7493, 2.2).
_MOST_DIGITS = 15


def json_value(text: bytes | str) -> Any:
    """Return what JSON says. Raises BadRequest for what is none, and for what it can say but no text and no number here
    can hold: half of a pair of surrogates (RFC 8259, 8.2), infinity and numbers beyond all measure.

    >>> json_value('{"base": 3}')
    {'base': 3}
    """
    try:
        found = json.loads(text, parse_constant=_refused, parse_float=_float, parse_int=_int)
        if "\\u" in (text if isinstance(text, str) else text.decode("latin-1")):
            json.dumps(found, ensure_ascii=False).encode()
    except (ValueError, RecursionError):
        raise BadRequest("the body is not JSON") from None
    return found


def json_object(text: bytes | str) -> dict[str, Any]:
    """Return the object that JSON says; raises BadRequest as ``json_value`` does, and for anything else than one."""
    found = json_value(text)
    if not isinstance(found, dict):
        raise BadRequest("the body is not an object")
    return found


def _refused(said: str) -> Any:
    raise ValueError(said)


def _float(said: str) -> float:
    number = float(said)
    return number if math.isfinite(number) else _refused(said)


def _int(said: str) -> int:
    return int(said) if len(said.lstrip("-")) <= _MOST_DIGITS else _refused(said)
