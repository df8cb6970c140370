"""The ink of a word as a small grid of cells, made from its glyph outlines."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from unicodedata import bidirectional

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont, features

from ypsil.core.drawing.contours import mapped, raster
from ypsil.core.drawing.faces import face
from ypsil.core.drawing.letters import letters
from ypsil.core.drawing.measure import runs
from ypsil.core.drawing.scene import Font

CELL_PX = 2
_MARGIN_PX = 2
_SAMPLES = 120
_LARGE_PX = 120.0
# Letters, and the Arabic ones that are joined (Unicode Standard Annex 9, table 4).
_RIGHT_TO_LEFT = ("R", "AL")
# Beside a word there is more air than above it, so that neighbours in a row do not read as one word.
_BESIDE = 0.05
# Of 255; fainter edges of letters are not seen.
_INK = 32
Cells = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class WordMask:
    """Cells that a word takes, and where its baseline starts in px from the mask's corner.

    ``ink`` are the cells with ink in them, ``grown`` the same with the air that other words keep away. ``samples`` are
    some of the grown cells (row, column), the outermost first: they meet others soonest.
    """

    ink: Cells
    grown: Cells
    samples: tuple[tuple[int, int], ...]
    baseline_x: float
    baseline_y: float
    ink_px: int


@lru_cache(maxsize=4096)
def word_mask(text: str, family: str, weight: int, size: float, angle: float = 0, air: int = 1) -> WordMask:
    """Rasterise a word at ``size`` px, turned clockwise by ``angle`` degrees, with ``air`` cells around it."""
    margin = _MARGIN_PX + math.ceil(air * CELL_PX + (air - 1) * _BESIDE * size)
    path = _plain_face(text, family, weight)
    level, origin = _drawn(text, path, size, margin) if path else _outlined(text, Font(family, size, weight), margin)
    image, (x, y) = _turned(level, origin, angle) if angle else (level, origin)
    cells, (right, down) = _cells(np.greater(np.asarray(image), _INK))
    grown = cells
    for _ in range(air):
        grown = _grown(grown)
    grown = _grown_along(grown, round((air - 1) * _BESIDE * size / CELL_PX), is_upright=abs(angle) > 45)
    ink_px = int(np.greater(np.asarray(image), _INK).sum())
    return WordMask(cells, grown, _samples(grown), float(x + right), float(y + down), ink_px)


def _cells(ink: Cells) -> tuple[Cells, tuple[int, int]]:
    """Return the cells with ink, and how far right and down (px) it was moved so that these are the fewest."""
    height, width = (-(-length // CELL_PX) + 1 for length in ink.shape)
    found = []
    for down in range(CELL_PX):
        for right in range(CELL_PX):
            moved = np.zeros((height * CELL_PX, width * CELL_PX), dtype=bool)
            moved[down : down + ink.shape[0], right : right + ink.shape[1]] = ink
            cells: Cells = np.asarray(moved.reshape(height, CELL_PX, width, CELL_PX).any(axis=(1, 3)))
            found.append((int(cells.sum()), down, right, cells))
    _, down, right, cells = min(found, key=lambda one: one[:3])
    return cells, (right, down)


def _turned(level: Image.Image, origin: tuple[float, float], angle: float) -> tuple[Image.Image, tuple[float, float]]:
    """Return an image turned about its middle, and where a point of it has come to."""
    image = level.rotate(-angle, Image.Resampling.BICUBIC, expand=True)
    cosine, sine = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    x, y = origin[0] - level.width / 2, origin[1] - level.height / 2
    return image, (image.width / 2 + x * cosine - y * sine, image.height / 2 + x * sine + y * cosine)


def _plain_face(text: str, family: str, weight: int) -> str:
    """Return the file of the face that sets a text whole and from left to right; none where it takes more than that.

    Without the library that Pillow shapes text with, it would set letters apart that belong together.
    """
    if not features.check("raqm") or any(bidirectional(letter) in _RIGHT_TO_LEFT for letter in text):
        return ""
    stretches = list(runs(text, family, weight))
    return str(face(stretches[0][1], weight).path) if len(stretches) == 1 else ""


def _drawn(text: str, path: str, size: float, margin: int) -> tuple[Image.Image, tuple[float, float]]:
    """Return a text in grey with a margin around it, and where its baseline starts."""
    font = ImageFont.truetype(path, size)
    left, top, right, bottom = font.getbbox(text, anchor="ls")
    origin = (margin - left, margin - top)
    level = Image.new("L", (int(right - left + 2 * margin) + 1, int(bottom - top + 2 * margin) + 1), 0)
    ImageDraw.Draw(level).text(origin, text, fill=255, font=font, anchor="ls")
    return level, origin


def _outlined(text: str, font: Font, margin: int) -> tuple[Image.Image, tuple[float, float]]:
    """Return the same from the outlines of the glyphs, shaped by HarfBuzz, a family for each script."""
    large, (left, top) = _large(text, font.family, font.weight)
    factor = font.size / _LARGE_PX
    size = max(1, math.ceil(large.width * factor)), max(1, math.ceil(large.height * factor))
    level = Image.new("L", (size[0] + 2 * margin, size[1] + 2 * margin), 0)
    box = (0, 0, size[0] / factor, size[1] / factor)
    roomy = Image.new("L", (math.ceil(box[2]), math.ceil(box[3])), 0)
    roomy.paste(large)
    level.paste(roomy.resize(size, Image.Resampling.BOX, box), (margin, margin))
    return level, (margin - left * factor, margin - top * factor)


@lru_cache(maxsize=1024)
def _large(text: str, family: str, weight: int) -> tuple[Image.Image, tuple[int, int]]:
    """Return a text as large as no cloud sets it, in black and white, and where its left and top are."""
    outline = letters(text, Font(family, _LARGE_PX, weight))
    left, top, right, bottom = outline.bounds
    x0, y0 = math.floor(left), math.floor(top)
    moved = mapped(outline.d, lambda x, y: (x - x0, y - y0))
    ink = raster(moved, int(right - x0) + 1, int(bottom - y0) + 1)
    return Image.fromarray(ink.astype(np.uint8) * 255), (x0, y0)


def _grown(cells: Cells) -> Cells:
    """Grow the ink by one cell on every side, within the mask."""
    grown = cells.copy()
    grown[1:] |= cells[:-1]
    grown[:-1] |= cells[1:]
    grown[:, 1:] |= cells[:, :-1]
    grown[:, :-1] |= cells[:, 1:]
    return grown


def _grown_along(cells: Cells, steps: int, *, is_upright: bool) -> Cells:
    """Grow the ink by some cells in front of a word and behind it."""
    grown = cells.copy()
    for step in range(1, steps + 1):
        if is_upright:
            grown[step:] |= cells[:-step]
            grown[:-step] |= cells[step:]
        else:
            grown[:, step:] |= cells[:, :-step]
            grown[:, :-step] |= cells[:, step:]
    return grown


def _samples(cells: Cells) -> tuple[tuple[int, int], ...]:
    """Return some of a mask's cells, spread over it, the outermost first."""
    rows, columns = np.nonzero(cells)
    outward = np.abs(columns - cells.shape[1] / 2) / cells.shape[1] + np.abs(rows - cells.shape[0] / 2) / cells.shape[0]
    spread = np.random.default_rng(len(rows)).uniform(0, 0.5, len(rows))
    order = np.argsort(-(outward + spread), kind="stable")[:_SAMPLES]
    return tuple(zip(rows[order].tolist(), columns[order].tolist(), strict=True))
