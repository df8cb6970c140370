"""Breaking text into lines and shortening it, by measured width."""

from __future__ import annotations

from functools import lru_cache

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font

ELLIPSIS = "…"
# Before a hyphen and after it.
# Where so many letters are too wide, no more of them are measured.
_LONG = 200
_LEAST_LETTERS = 3


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

    A word wider than a line is broken, with a hyphen between letters; what does not fit in the last line is cut with an
    ellipsis.

    >>> wrap("The Brackenshire readers survey", 100, Font("Noto Sans", 14))
    ['The', 'Brackenshire', 'readers survey']
    >>> wrap("Sandwiches", 60, Font("Noto Sans", 14))
    ['Sandwic-', 'hes']
    """
    return list(_wrapped(text, width, font, most))


@lru_cache(maxsize=8192)
def _wrapped(text: str, width: float, font: Font, most: int | None) -> tuple[str, ...]:
    lines: list[_Line] = []
    for paragraph in text.split("\n"):
        lines += _wrap_paragraph(paragraph, width, font)
    shown = [line + ("-" if end == "-" else "") for line, end in lines]
    if most is not None and len(lines) > most:
        tail = "".join(line + (" " if end == " " else "") for line, end in lines[most - 1 :])
        shown[most - 1 :] = [shorten(tail.rstrip(), width, font)]
    return tuple(shown)


def break_word(word: str, width: float, font: Font) -> list[str]:
    """Return the parts of a word that is wider than a line, with a hyphen between letters of scripts that have it.

    >>> break_word("Sandwiches", 60, Font("Noto Sans", 14))
    ['Sandwic-', 'hes']
    """
    return [part + ("-" if end == "-" else "") for part, end in _break_word(word, width, font)]


# A line and what parts it from the next: a space, a hyphen or nothing.
_Line = tuple[str, str]


def _wrap_paragraph(paragraph: str, width: float, font: Font) -> list[_Line]:
    lines: list[_Line] = []
    line = ""
    for word in paragraph.split():
        longer = f"{line} {word}" if line else word
        if text_width(longer, font) <= width:
            line = longer
            continue
        if line:
            lines.append((line, " "))
        *pieces, (line, _) = _break_word(word, width, font)
        lines += pieces
    return [*lines, (line, " ")]


def _break_word(word: str, width: float, font: Font) -> list[_Line]:
    pieces = []
    while len(word) > 1 and (text_width(word[:_LONG], font) > width or text_width(word, font) > width):
        size = _fitting(word, width, font)
        hyphened = min(size, len(word) - _LEAST_LETTERS)
        while hyphened >= _LEAST_LETTERS and text_width(word[:hyphened] + "-", font) > width:
            hyphened -= 1
        if hyphened >= _LEAST_LETTERS and all(map(_has_case, word[hyphened - 1 : hyphened + 1])):
            size, end = hyphened, "-"
        else:
            end = ""
        pieces.append((word[:size], end))
        word = word[size:]
    return [*pieces, (word, " ")]


def _fitting(word: str, width: float, font: Font) -> int:
    """Return how many letters of a word that is too wide have room, at least one."""
    low, high = 1, min(2, len(word) - 1)
    while high < len(word) - 1 and text_width(word[:high], font) <= width:
        low, high = high, min(2 * high, len(word) - 1)
    while low < high:
        middle = (low + high + 1) // 2
        if text_width(word[:middle], font) <= width:
            low = middle
        else:
            high = middle - 1
    return max(1, low)


def _has_case(letter: str) -> bool:
    """Tell whether a letter is of a script that has capitals: these scripts have hyphens too."""
    return letter.lower() != letter.upper()
