"""The ink of a word as a grid of px, made from its glyph outlines."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from ypsil.core.drawing.contours import mapped, raster
from ypsil.core.drawing.letters import Glyph, glyphs, outline

CELL_PX = 2
_MARGIN_PX = 2
_EDGE_PX = 160
# Texts are drawn in the first of these sizes that is not smaller, and made smaller from there.
_LARGE_PX = (88, 264, 528)
# What a px of an edge of ink and the air beside it add to a word: in px, and in px for each px of its size; by cells of
# air (measured on words of 10 to 120 px).
_BESIDE_EDGE = ((0.3, 0.0), (1.6, 0.0), (1.9, 0.05), (3.0, 0.065), (4.3, 0.075))
# How far up its ends are closed, in parts of the size: the height of capitals (common practice, no source).
_CAP_HEIGHT = 0.72
# Beside a word there is more air than above it, so that neighbours in a row do not read as one word.
_BESIDE = 0.1
# Of 255; fainter edges of letters are not seen.
_INK = 32
Grid = NDArray[np.bool_]
Places = NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class WordMask:
    """The px that a word takes, and where its baseline starts in px from the mask's corner.

    ``ink`` are the px with ink in them, ``grown`` the same with the air that other words keep away. ``edge`` are the
    rows and columns of px at the edge of that, where it meets others soonest.
    """

    ink: Grid
    grown: Grid
    edge: tuple[Places, Places]
    baseline_x: float
    baseline_y: float
    ink_px: int


@lru_cache(maxsize=4096)
def word_mask(text: str, family: str, weight: int, size: float, angle: float = 0, air: int = 1) -> WordMask:
    """Rasterise a word at ``size`` px, turned clockwise by ``angle`` degrees, with ``air`` cells around it."""
    level, origin = _level(text, family, weight, size, _margin(size, air))
    image, (x, y) = _turned(level, origin, angle) if angle else (level, origin)
    ink = np.greater(np.asarray(image), _INK)
    grown = _grown(ink, air * CELL_PX)
    beside = round((air - 1) * _BESIDE * size)
    if beside:
        grown = _grown_along(grown, beside, is_upright=abs(angle) > 45)
        if angle in (0, -90):
            _cap(grown, x, y, _CAP_HEIGHT * size, is_upright=angle != 0)
    ink, grown, (above, before) = _trimmed(ink, grown)
    return WordMask(ink, grown, _edge(grown), x - before, y - above, int(np.count_nonzero(ink)))


@lru_cache(maxsize=4096)
def word_area(text: str, family: str, weight: int, air: int) -> tuple[float, float, float]:
    """Return about how many px a word takes with its air, in parts of its squared size and of its size, and how many
    it is wide in parts of its size."""
    area, edges, right = 0, 0, 0.0
    for glyph in glyphs(text, family, weight):
        inked, edged, wide = _glyph_area(glyph.family, weight, glyph.number)
        area, edges, right = area + inked, edges + edged, glyph.x * _LARGE_PX[0] + wide
    fixed, growing = _BESIDE_EDGE[min(air, len(_BESIDE_EDGE) - 1)]
    large = _LARGE_PX[0]
    return area / large**2 + growing * edges / large, fixed * edges / large, right / large


@lru_cache(maxsize=4096)
def _glyph_area(family: str, weight: int, number: int) -> tuple[int, int, int]:
    """Return the area of a large glyph in px, the length of its edges, and how far right it reaches."""
    cells, (left, _) = _glyph(family, weight, number, _LARGE_PX[0])
    ink = np.pad(cells > 0, 1)
    edges = np.count_nonzero(ink[:, 1:] != ink[:, :-1]) + np.count_nonzero(ink[1:] != ink[:-1])
    return int(np.count_nonzero(ink)), int(edges), left + cells.shape[1]


def forget_words() -> None:
    """Forget the words that were rasterised, though not the glyphs: for measuring how long new words take."""
    for kept in (word_mask, word_area, _large, glyphs):
        kept.cache_clear()


def _margin(size: float, air: int) -> int:
    return _MARGIN_PX + math.ceil(air * CELL_PX + (air - 1) * _BESIDE * size)


def _trimmed(ink: Grid, grown: Grid) -> tuple[Grid, Grid, tuple[int, int]]:
    """Return both without the empty rows and columns around the air, and how many were above and before it."""
    rows, columns = np.flatnonzero(grown.any(axis=1)), np.flatnonzero(grown.any(axis=0))
    if not len(rows):
        return ink, grown, (0, 0)
    kept = slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1)
    return np.ascontiguousarray(ink[kept]), np.ascontiguousarray(grown[kept]), (int(rows[0]), int(columns[0]))


def _cap(grown: Grid, x: float, y: float, height: float, *, is_upright: bool) -> None:
    """Close both ends of a word from its baseline to the height of capitals, so that no neighbour slips under the arm
    of an r and seems to belong to it; ``x`` and ``y`` are where its baseline starts, in cells."""
    ends = np.flatnonzero(grown.any(axis=1 if is_upright else 0))
    if not len(ends):
        return
    low, high = (int(max(0, edge)) for edge in ((x - height, x) if is_upright else (y - height, y)))
    for end in (ends[0], ends[-1]):
        if is_upright:
            grown[end, low : high + 1] = True
        else:
            grown[low : high + 1, end] = True


def _turned(level: Image.Image, origin: tuple[float, float], angle: float) -> tuple[Image.Image, tuple[float, float]]:
    """Return an image turned about its middle, and where a point of it has come to."""
    image = level.rotate(-angle, Image.Resampling.BICUBIC, expand=True)
    cosine, sine = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    x, y = origin[0] - level.width / 2, origin[1] - level.height / 2
    return image, (image.width / 2 + x * cosine - y * sine, image.height / 2 + x * sine + y * cosine)


def _level(text: str, family: str, weight: int, size: float, margin: int) -> tuple[Image.Image, tuple[float, float]]:
    """Return a level text in grey with a margin around it, and where its baseline starts.

    It is a large one made smaller, as vector drawings are: small letters are not fitted to whole px.
    """
    drawn = _drawn_px(size)
    large, (left, top) = _large(text, family, weight, drawn)
    factor = size / drawn
    shape = max(1, math.ceil(large.width * factor)), max(1, math.ceil(large.height * factor))
    roomy = Image.new("L", (math.ceil(shape[0] / factor), math.ceil(shape[1] / factor)), 0)
    roomy.paste(large)
    level = Image.new("L", (shape[0] + 2 * margin, shape[1] + 2 * margin), 0)
    box = (0, 0, shape[0] / factor, shape[1] / factor)
    level.paste(roomy.resize(shape, Image.Resampling.BOX, box), (margin, margin))
    return level, (margin - left * factor, margin - top * factor)


def _drawn_px(size: float) -> int:
    """Return the size that a text of a size is drawn in before it is made smaller."""
    return next((px for px in _LARGE_PX if px >= size), _LARGE_PX[-1])


@lru_cache(maxsize=1024)
def _large(text: str, family: str, weight: int, size: int) -> tuple[Image.Image, tuple[int, int]]:
    """Return a large text in black and white, and how far right and down of its start its left top corner is."""
    parts = []
    for glyph in glyphs(text, family, weight):
        cells, (left, top) = _glyph(glyph.family, weight, glyph.number, size)
        parts.append((cells, left + round(glyph.x * size), top - round(glyph.y * size)))
    left = min((x for _, x, _ in parts), default=0)
    top = min((y for _, _, y in parts), default=0)
    right = max((x + cells.shape[1] for cells, x, _ in parts), default=1)
    bottom = max((y + cells.shape[0] for cells, _, y in parts), default=1)
    ink = np.zeros((bottom - top, right - left), dtype=np.uint8)
    for cells, x, y in parts:
        ink[y - top : y - top + cells.shape[0], x - left : x - left + cells.shape[1]] |= cells
    return Image.fromarray(ink), (left, top)


@lru_cache(maxsize=4096)
def _glyph(family: str, weight: int, number: int, size: int) -> tuple[NDArray[np.uint8], tuple[int, int]]:
    """Return a glyph in black (255) and white, and how far right and down of its origin its left top corner is."""
    drawn = outline([Glyph(family, number, 0, 0)], weight, size)
    left, top, right, bottom = drawn.bounds
    x0, y0 = math.floor(left), math.floor(top)
    moved = mapped(drawn.d, lambda x, y: (x - x0, y - y0))
    ink = raster(moved, math.ceil(right) - x0 + 1, math.ceil(bottom) - y0 + 1)
    return ink.astype(np.uint8) * 255, (x0, y0)


def _grown(ink: Grid, steps: int) -> Grid:
    """Grow the ink by so many px on every side, within the mask."""
    for _ in range(steps):
        grown = ink.copy()
        grown[1:] |= ink[:-1]
        grown[:-1] |= ink[1:]
        grown[:, 1:] |= ink[:, :-1]
        grown[:, :-1] |= ink[:, 1:]
        ink = grown
    return ink


def _grown_along(ink: Grid, steps: int, *, is_upright: bool) -> Grid:
    """Grow the ink by some px in front of a word and behind it."""
    grown = ink.copy()
    for step in range(1, steps + 1):
        if is_upright:
            grown[step:] |= ink[:-step]
            grown[:-step] |= ink[step:]
        else:
            grown[:, step:] |= ink[:, :-step]
            grown[:, :-step] |= ink[:, step:]
    return grown


def _edge(grown: Grid) -> tuple[Places, Places]:
    """Return the rows and columns of px at the edge of a mask, spread over all of it."""
    edge = grown.copy()
    edge[1:-1, 1:-1] &= ~(grown[2:, 1:-1] & grown[:-2, 1:-1] & grown[1:-1, 2:] & grown[1:-1, :-2])
    rows, columns = np.nonzero(edge)
    some = spread(len(rows), _EDGE_PX)
    return rows[some], columns[some]


def spread(count: int, most: int) -> Places:
    """Return the numbers below ``count``, or ``most`` of them in even steps."""
    some = min(count, most)
    return np.arange(some) * count // max(1, some)
