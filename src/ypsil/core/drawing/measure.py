"""How wide text is: shaped by HarfBuzz with the shipped fonts, so that lines break alike everywhere."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

import uharfbuzz

from ypsil.core.drawing.faces import Face, chain, face
from ypsil.core.drawing.scene import Font


def text_width(text: str, font: Font) -> float:
    """Return the advance width of one line of text in px.

    >>> round(text_width("Visits", Font("Noto Sans", 100)))
    244
    """
    return _em_width(text, font.family, font.weight, font.is_italic) * font.size


@lru_cache(maxsize=100_000)
def _em_width(text: str, family: str, weight: int, is_italic: bool) -> float:
    shaped = runs(text, family, weight, is_italic)
    return sum(_shaped_width(run, face(name, weight, is_italic)) for run, name in shaped)


def _shaped_width(text: str, run_face: Face) -> float:
    buffer = uharfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    uharfbuzz.shape(run_face.font, buffer)
    return float(sum(position.x_advance for position in buffer.glyph_positions)) / run_face.units_per_em


def runs(text: str, family: str, weight: int, is_italic: bool = False) -> Iterator[tuple[str, str]]:
    """Split text into stretches that one family can set, each with that family's name.

    The stretches follow the order of the families in ``chain``; a character that none has is set in the
    first. A space stays with the stretch before it, so that words of one script are shaped together.

    >>> list(runs("Visits ספר", "Source Sans 3", 400))
    [('Visits ', 'Source Sans 3'), ('ספר', 'Noto Sans Hebrew')]
    """
    names = chain(family)
    start = 0
    current = ""
    for index, character in enumerate(text):
        code = ord(character)
        if current and character == " " and code in face(current, weight, is_italic).characters:
            continue
        found = next((name for name in names if code in face(name, weight, is_italic).characters), family)
        if current and found != current:
            yield text[start:index], current
            start = index
        current = found
    if current:
        yield text[start:], current
