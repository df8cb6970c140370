"""The ink of a word as a small grid of cells, made from its glyph outlines."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from ypsil.core.drawing.faces import chain, face

CELL_PX = 2
# Air kept around each word, in px; it also covers differences between rasterisers.
AIR_PX = 2


@dataclass(frozen=True, slots=True)
class WordMask:
    """Cells that a word takes, air included, and where its baseline starts in px from the mask's corner."""

    cells: NDArray[np.bool_]
    baseline_x: float
    baseline_y: float
    ink_px: int


@lru_cache(maxsize=4096)
def word_mask(text: str, family: str, weight: int, size: float) -> WordMask:
    """Rasterise a word at ``size`` px and return its mask, each cell CELL_PX wide."""
    font = ImageFont.truetype(str(_face_for(text, family, weight)), size)
    left, top, right, bottom = font.getbbox(text, anchor="ls")
    margin = AIR_PX
    width, height = (int(length + 2 * margin + CELL_PX) // CELL_PX for length in (right - left, bottom - top))
    image = Image.new("L", (max(1, width) * CELL_PX, max(1, height) * CELL_PX), 0)
    origin = (margin - left, margin - top)
    ImageDraw.Draw(image).text(origin, text, fill=255, font=font, anchor="ls")
    ink: NDArray[np.bool_] = np.greater(np.asarray(image), 32)
    cells: NDArray[np.bool_] = np.asarray(ink.reshape(height, CELL_PX, width, CELL_PX).any(axis=(1, 3)))
    return WordMask(_grown(cells), float(origin[0]), float(origin[1]), int(ink.sum()))


def _face_for(text: str, family: str, weight: int) -> str:
    """Return the file of the first face that has all the characters, else of the family itself."""
    faces = [face(name, weight) for name in chain(family)]
    whole = (one for one in faces if all(ord(character) in one.characters for character in text))
    return str(next(whole, faces[0]).path)


def _grown(cells: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Grow the ink by one cell on every side, within the mask."""
    grown = cells.copy()
    grown[1:] |= cells[:-1]
    grown[:-1] |= cells[1:]
    grown[:, 1:] |= cells[:, :-1]
    grown[:, :-1] |= cells[:, 1:]
    return grown
