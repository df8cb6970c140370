"""The shapes that a cloud fills, as cells that are open to words."""

from __future__ import annotations

import io
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from ypsil.core.drawing.contours import raster
from ypsil.core.drawing.frames import frame_outline
from ypsil.core.drawing.icons import icons
from ypsil.core.drawing.pictures import Picture, is_picture_name, picture
from ypsil.core.drawing.rasters import raster_of
from ypsil.core.errors import DrawingRefused

PLAIN_SHAPES = ("rectangle", "rounded", "ellipse")
Cells = NDArray[np.bool_]
_ROUND = 0.22
_DARK = 128
_LEAST_OPEN = 0.02


def open_cells(shape: str, columns: int, rows: int) -> Cells:
    """Return which cells of a plane (``rows`` x ``columns``) lie in a shape: a plain one, an icon, or the dark part of
    a picture at hand.

    Raises DrawingRefused for an unknown shape, a picture that is gone, or one without anything dark.
    """
    if is_picture_name(shape):
        return _dark_part(picture(shape), columns, rows)
    if shape in icons():
        return _icon(shape, columns, rows)
    y, x = np.mgrid[0:rows, 0:columns]
    across, down = np.abs((x + 0.5) / columns - 0.5), np.abs((y + 0.5) / rows - 0.5)
    if shape == "rectangle":
        return np.ones((rows, columns), dtype=bool)
    if shape == "ellipse":
        return np.asarray(np.hypot(across, down) <= 0.5)
    if shape == "rounded":
        radius = _ROUND * min(rows, columns)
        beyond_x = np.maximum(0, across * columns - (columns / 2 - radius))
        beyond_y = np.maximum(0, down * rows - (rows / 2 - radius))
        return np.asarray(np.hypot(beyond_x, beyond_y) <= radius)
    raise DrawingRefused(
        f"there is no shape “{shape}”", remedy=f"choose {', '.join(PLAIN_SHAPES)}, an icon or a picture"
    )


def outline_of(shape: str, width: float, height: float) -> str:
    """Return a shape's outline in SVG path syntax; nothing where it has none (a picture)."""
    if shape in icons():
        return frame_outline(shape, width, height)
    if shape == "rectangle":
        return f"M0 0H{width:g}V{height:g}H0Z"
    if shape == "ellipse":
        rx, ry = width / 2, height / 2
        return f"M0 {ry:g}A{rx:g} {ry:g} 0 1 1 {width:g} {ry:g}A{rx:g} {ry:g} 0 1 1 0 {ry:g}Z"
    if shape == "rounded":
        r = _ROUND * min(width, height)
        arc = f"A{r:g} {r:g} 0 0 1"
        return (
            f"M{r:g} 0H{width - r:g}{arc} {width:g} {r:g}V{height - r:g}{arc} {width - r:g} {height:g}"
            f"H{r:g}{arc} 0 {height - r:g}V{r:g}{arc} {r:g} 0Z"
        )
    return ""


@lru_cache(maxsize=64)
def _icon(name: str, columns: int, rows: int) -> Cells:
    return raster(frame_outline(name, columns, rows), columns, rows)


def _dark_part(found: Picture, columns: int, rows: int) -> Cells:
    return _dark_cells(found.digest, raster_of(found), columns, rows)


@lru_cache(maxsize=16)
def _dark_cells(digest: str, content: bytes, columns: int, rows: int) -> Cells:
    """Return the cells of a picture, fitted into the plane, that are darker than middle grey; clear parts are white."""
    image = Image.open(io.BytesIO(content)).convert("RGBA")
    on_white = Image.alpha_composite(Image.new("RGBA", image.size, "white"), image).convert("L")
    factor = min(columns / image.width, rows / image.height)
    size = max(1, round(image.width * factor)), max(1, round(image.height * factor))
    dark = np.asarray(on_white.resize(size, Image.Resampling.BOX)) < _DARK
    cells = np.zeros((rows, columns), dtype=bool)
    top, left = (rows - size[1]) // 2, (columns - size[0]) // 2
    cells[top : top + size[1], left : left + size[0]] = dark
    if cells.mean() < _LEAST_OPEN:
        raise DrawingRefused(
            "the picture has next to nothing dark, and words fill its dark part",
            remedy="choose a picture with a dark shape on a light ground",
        )
    return cells
