"""Frames: the outlines that pictures are seen in."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import lru_cache

from ypsil.core.drawing.contours import mapped
from ypsil.core.drawing.icons import icons
from ypsil.core.drawing.letters import letters
from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.scene import Font
from ypsil.core.drawing.svg import number as px

FRAMES = {
    "rectangle": "Its whole place",
    "circle": "A circle",
    "ellipse": "An ellipse",
    "arch": "An arch",
    "hexagon": "A hexagon",
    "blob": "A soft shape",
}
# How far from its middle a soft shape reaches, a seventh of a turn after the other.
_SOFT = (1.0, 0.88, 1.0, 0.84, 0.98, 0.9, 0.94)
# A curve through points: its handles are a sixth of the way between the neighbours (Catmull-Rom).
_SIXTH = 1 / 6
_FONT_PX = 100.0
_UNIT = 1000.0


def frame_outline(name: str, width: float, height: float, corner: float = 0.0) -> str:
    """Return a frame's outline in a room, in SVG path syntax; ``corner`` is that of a rectangle, in px. An icon is as
    large as fits, in the middle. A name that is not known is the whole room.

    >>> frame_outline("hexagon", 8, 4)
    'M2 0L6 0L8 2L6 4L2 4L0 2Z'
    """
    if name in _OUTLINES:
        return _OUTLINES[name](width, height)
    if name in icons():
        icon = icons()[name]
        return _fitted(icon.d, icon.bounds, width, height)
    return rounded(width, height, min(corner, width / 2, height / 2))


def letters_outline(text: str, font: Font, width: float, height: float) -> str:
    """Return a line of text as an outline, as large as fits in a room, in its middle."""
    found = letters(text, Font(font.family, _FONT_PX, font.weight))
    return _fitted(found.d, found.bounds, width, height)


def _ellipse(x: float, y: float, across: float, down: float) -> str:
    left, right, radii = px(x - across), px(x + across), f"{px(across)} {px(down)}"
    return f"M{left} {px(y)}A{radii} 0 1 1 {right} {px(y)}A{radii} 0 1 1 {left} {px(y)}Z"


def _fitted(d: str, bounds: tuple[float, float, float, float], width: float, height: float) -> str:
    left, top, right, bottom = bounds
    wide, high = max(right - left, 1e-6), max(bottom - top, 1e-6)
    factor = min(width / wide, height / high)
    x0, y0 = (width - wide * factor) / 2, (height - high * factor) / 2
    return mapped(d, lambda x, y: (x0 + (x - left) * factor, y0 + (y - top) * factor))


@lru_cache(maxsize=64)
def _soft(width: float, height: float) -> str:
    """Return a closed curve through points round the middle, as large as the room."""
    turns = [(math.tau * place / len(_SOFT), reach * _UNIT) for place, reach in enumerate(_SOFT)]
    points = [(reach * math.cos(turn), reach * math.sin(turn)) for turn, reach in turns]
    parts = [f"M{px(points[0][0])} {px(points[0][1])}"]
    for place in range(len(points)):
        before, here, there, after = (points[(place + step) % len(points)] for step in (-1, 0, 1, 2))
        first = [here[axis] + (there[axis] - before[axis]) * _SIXTH for axis in (0, 1)]
        second = [there[axis] - (after[axis] - here[axis]) * _SIXTH for axis in (0, 1)]
        parts.append("C" + " ".join(px(one) for one in (*first, *second, *there)))
    return mapped("".join(parts) + "Z", lambda x, y: ((x / _UNIT + 1) / 2 * width, (y / _UNIT + 1) / 2 * height))


def corners(*points: tuple[float, float]) -> Callable[[float, float], str]:
    """Return what draws straight sides between points, given as parts of a room's width and height."""

    def outline(width: float, height: float) -> str:
        return "M" + "L".join(f"{px(x * width)} {px(y * height)}" for x, y in points) + "Z"

    return outline


def _circle(width: float, height: float) -> str:
    radius = min(width, height) / 2
    return _ellipse(width / 2, height / 2, radius, radius)


def _arch(width: float, height: float) -> str:
    rise = min(width / 2, height)
    over = f"A{px(width / 2)} {px(rise)} 0 0 1 {px(width)} {px(rise)}"
    return f"M0 {px(height)}L0 {px(rise)}{over}L{px(width)} {px(height)}Z"


_OUTLINES: dict[str, Callable[[float, float], str]] = {
    "circle": _circle,
    "ellipse": lambda width, height: _ellipse(width / 2, height / 2, width / 2, height / 2),
    "arch": _arch,
    "hexagon": corners((0.25, 0), (0.75, 0), (1, 0.5), (0.75, 1), (0.25, 1), (0, 0.5)),
    "blob": _soft,
}
