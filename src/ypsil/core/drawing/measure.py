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
    return _em_width(text, font.family, font.weight) * font.size


@lru_cache(maxsize=100_000)
def _em_width(text: str, family: str, weight: int) -> float:
    return sum(_shaped_width(run, run_face) for run, run_face in _runs(text, family, weight))


def _shaped_width(text: str, run_face: Face) -> float:
    buffer = uharfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    uharfbuzz.shape(run_face.font, buffer)
    return float(sum(position.x_advance for position in buffer.glyph_positions)) / run_face.units_per_em


def _runs(text: str, family: str, weight: int) -> Iterator[tuple[str, Face]]:
    """Split text into stretches that one face can set; what none has is set (as boxes) in the first."""
    faces = [face(name, weight) for name in chain(family)]
    start = 0
    current: Face | None = None
    for index, character in enumerate(text):
        code = ord(character)
        stays = current is not None and code in current.characters and current is faces[0]
        found = current if stays else next((one for one in faces if code in one.characters), faces[0])
        if current is not None and found is not current:
            yield text[start:index], current
            start = index
        current = found
    if current is not None:
        yield text[start:], current
