"""A picture that the sample author brings: a shelf of books, drawn by chance from a fixed start."""

from __future__ import annotations

import io
import random

from PIL import Image, ImageDraw

_WIDTH, _SHELF, _SHELVES = 1200, 300, 2
_WALL, _BOARD, _LABEL = "#f3e9d8", "#6b4a2f", "#f7f1e3"
_CLOTHS = ("#1c6e7d", "#b3541e", "#7a3b69", "#3d6b35", "#c29122", "#8c2f39", "#2f4b7c", "#5d5a88")


def bookshelf_png() -> bytes:
    chance = random.Random(11)
    image = Image.new("RGB", (_WIDTH, _SHELF * _SHELVES), _WALL)
    pen = ImageDraw.Draw(image)
    for shelf in range(_SHELVES):
        floor = (shelf + 1) * _SHELF - 14
        pen.rectangle((0, floor, _WIDTH, floor + 14), fill=_BOARD)
        left = 0
        while left < _WIDTH:
            width, height = chance.randint(22, 58), chance.randint(190, 270)
            cloth = chance.choice(_CLOTHS)
            pen.rectangle((left, floor - height, left + width - 3, floor), fill=cloth)
            label = floor - height + chance.randint(24, 60)
            pen.rectangle((left + 5, label, left + width - 8, label + chance.randint(14, 40)), fill=_LABEL)
            left += width
    file = io.BytesIO()
    image.save(file, "PNG")
    return file.getvalue()
