"""Breaking text into lines and shortening it, by measured width."""

from __future__ import annotations

from functools import lru_cache

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font

ELLIPSIS = "…"


def shorten(text: str, width: float, font: Font) -> str:
    """Return the text, cut with an ellipsis if it is wider than ``width`` px.

    >>> shorten("Market Square", 60, Font("Noto Sans", 12))
    'Market S…'
    """
    if text_width(text, font) <= width:
        return text
    low, high = 0, len(text)
    while low < high:
        middle = (low + high + 1) // 2
        if text_width(text[:middle].rstrip() + ELLIPSIS, font) <= width:
            low = middle
        else:
            high = middle - 1
    return text[:low].rstrip() + ELLIPSIS if low else ELLIPSIS


def wrap(text: str, width: float, font: Font, *, most: int | None = None) -> list[str]:
    """Break text into lines of at most ``width`` px, at spaces and line ends; with at most ``most`` lines.

    A word wider than a line is broken; what does not fit in the last line is cut with an ellipsis.

    >>> wrap("The Brackenshire readers survey", 100, Font("Noto Sans", 14))
    ['The', 'Brackenshire', 'readers survey']
    """
    return list(_wrapped(text, width, font, most))


@lru_cache(maxsize=8192)
def _wrapped(text: str, width: float, font: Font, most: int | None) -> tuple[str, ...]:
    lines: list[str] = []
    for paragraph in text.split("\n"):
        lines += _wrap_paragraph(paragraph, width, font)
    if most is not None and len(lines) > most:
        tail = " ".join(lines[most - 1 :])
        lines = [*lines[: most - 1], shorten(tail, width, font)]
    return tuple(lines)


def _wrap_paragraph(paragraph: str, width: float, font: Font) -> list[str]:
    lines: list[str] = []
    line = ""
    for word in paragraph.split():
        longer = f"{line} {word}" if line else word
        if text_width(longer, font) <= width:
            line = longer
            continue
        if line:
            lines.append(line)
        pieces = _break_word(word, width, font)
        lines += pieces[:-1]
        line = pieces[-1]
    return [*lines, line]


def _break_word(word: str, width: float, font: Font) -> list[str]:
    pieces = []
    while len(word) > 1 and text_width(word, font) > width:
        size = max(1, next((n for n in range(len(word) - 1, 0, -1) if text_width(word[:n], font) <= width), 1))
        pieces.append(word[:size])
        word = word[size:]
    return [*pieces, word]
