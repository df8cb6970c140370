"""The two shipped sets, read once from their files."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from pathlib import Path as File
from typing import Any

_FOLDER = File(__file__).parent
# How wide and high the planes are that the sets are drawn on.
LINE_PLANE = 24.0
COLOURED_PLANE = 32.0


@dataclass(frozen=True, slots=True)
class LineIcon:
    """An icon drawn with one line on a plane of 24 by 24: the outline of the line, what of it is closed and can be
    filled lightly, and what is always filled."""

    line: str
    closed: str
    filled: str
    category: str
    words: str


@dataclass(frozen=True, slots=True)
class Coloured:
    """A picture on a plane of 32 by 32: filled outlines with their colours, from back to front."""

    parts: tuple[tuple[str, str], ...]
    category: str
    words: str


@cache
def line_icons() -> dict[str, LineIcon]:
    """Return the icons of one line by name. Source: @tabler/icons (MIT), without the signs of makers."""
    return {
        name: LineIcon(
            one.get("line", ""), one.get("closed", ""), one.get("filled", ""), one["category"], one.get("words", "")
        )
        for name, one in _read("lines").items()
    }


@cache
def coloured() -> dict[str, Coloured]:
    """Return the coloured pictures by name. Source: @iconify-json/fluent-emoji-flat (MIT), with the words of emojilib
    (MIT)."""
    return {
        name: Coloured(tuple((fill, d) for fill, d in one["parts"]), one["category"], one.get("words", ""))
        for name, one in _read("coloured").items()
    }


def _read(name: str) -> dict[str, dict[str, Any]]:
    found: dict[str, dict[str, Any]] = json.loads((_FOLDER / f"{name}.json").read_text(encoding="utf-8"))
    return found
