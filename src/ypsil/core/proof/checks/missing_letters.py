"""Letters that no shipped typeface has: readers would see boxes."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.drawing.faces import lacking
from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page, TileView

_MOST_SHOWN = 8


def missing_letters(view: TileView) -> str:
    """Return the letters of a tile that cannot be drawn, each once."""
    found: dict[str, None] = {}
    for text in view.scene.texts():
        if not text.text.isascii():
            found |= dict.fromkeys(lacking(text.text, text.font.family, text.font.weight, text.font.is_italic))
    return "".join(one for one in found if one.isprintable() and not one.isspace())


def said_of(letters: str) -> str:
    """Say which letters cannot be drawn."""
    shown = " ".join(letters[:_MOST_SHOWN]) + (" …" if len(letters) > _MOST_SHOWN else "")
    return f"No typeface here has {shown}: readers see boxes. Write it in other letters."


def _find(page: Page) -> Iterator[Finding]:
    for view in page.tiles():
        letters = missing_letters(view)
        if letters:
            yield Finding(f"{view.tile.label()}: {said_of(letters)}", view.tile.id)


CHECK = Check("missing-letters", "ISO 14289-1, 7.21.8: no text without a glyph", 16, _find)
