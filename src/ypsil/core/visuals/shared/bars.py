"""Bars as the house style has them."""

from __future__ import annotations

from ypsil.core.drawing.scene import Rect
from ypsil.core.style.house import HouseStyle


def bar_of(x: float, y: float, width: float, height: float, colour: str, style: HouseStyle, title: str) -> Rect:
    """Return a bar (px) with the corners of the style; ``title`` is what is said of it."""
    return Rect(x, y, width, height, colour, style.charts.corner_of(width, height), title)
