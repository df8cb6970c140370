"""The ink of a word as a small grid of cells, made from its glyph outlines."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from ypsil.core.drawing.faces import chain, face

CELL_PX = 2
# Air kept around each word, in px; it also covers differences between rasterisers.
AIR_PX = 2
_SAMPLES = 40
_BOXES, _LARGEST_BOX = 1, 65_536


Box = tuple[int, int, int, int]


@dataclass(frozen=True, slots=True)
class WordMask:
    """Cells that a word takes, air included, and where its baseline starts in px from the mask's corner.

    ``solid`` are boxes (top, left, bottom, right) in which every cell is taken: where one of them does not fit, the
    word does not. ``outline`` are some of its cells (row, column), the outermost first: they meet others soonest.
    """

    cells: NDArray[np.bool_]
    solid: tuple[Box, ...]
    outline: tuple[tuple[int, int], ...]
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
    grown = _grown(cells)
    return WordMask(grown, _solid_boxes(grown), _outline(grown), float(origin[0]), float(origin[1]), int(ink.sum()))


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


def _outline(cells: NDArray[np.bool_]) -> tuple[tuple[int, int], ...]:
    """Return some of a mask's cells, spread over it, the outermost first."""
    rows, columns = np.nonzero(cells)
    outward = np.abs(columns - cells.shape[1] / 2) / cells.shape[1] + np.abs(rows - cells.shape[0] / 2) / cells.shape[0]
    spread = np.random.default_rng(len(rows)).uniform(0, 0.5, len(rows))
    order = np.argsort(-(outward + spread), kind="stable")[:_SAMPLES]
    return tuple(zip(rows[order].tolist(), columns[order].tolist(), strict=True))


def _solid_boxes(cells: NDArray[np.bool_]) -> tuple[Box, ...]:
    """Return a large solid box of each end and of the middle of a mask."""
    width = cells.shape[1]
    ends = sorted({0, width // 3, 2 * width // 3, width})
    found = [_solid_box(cells, first, last) for first, last in pairwise(ends)]
    boxes = [box for box in found if box is not None and _area(box) < _LARGEST_BOX]
    return tuple(sorted(boxes, key=_area, reverse=True)[:_BOXES])


def _solid_box(cells: NDArray[np.bool_], first: int, last: int) -> Box | None:
    """Return a large solid box between two columns: the longest upright run that there is, made as wide as can be."""
    best: Box | None = None
    for column in range(first, last):
        edges = np.flatnonzero(np.diff(np.concatenate(([False], cells[:, column], [False]))))
        if not len(edges):
            continue
        lengths = edges[1::2] - edges[::2]
        longest = int(lengths.argmax())
        top, bottom = int(edges[2 * longest]), int(edges[2 * longest + 1])
        full: NDArray[np.bool_] = np.asarray(cells[top:bottom, first:last].all(axis=0))
        left = column
        while left > first and full[left - 1 - first]:
            left -= 1
        right = column + 1
        while right < last and full[right - first]:
            right += 1
        if best is None or _area((top, left, bottom, right)) > _area(best):
            best = (top, left, bottom, right)
    return best


def _area(box: Box) -> int:
    return (box[2] - box[0]) * (box[3] - box[1])
