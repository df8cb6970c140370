"""Parts of rings. Angles are radians, clockwise from the top."""

from __future__ import annotations

import math

from ypsil.core.drawing.svg import number as px


def point(x: float, y: float, radius: float, angle: float) -> tuple[float, float]:
    return x + radius * math.sin(angle), y - radius * math.cos(angle)


def sector(x: float, y: float, inner: float, outer: float, start: float, stop: float) -> str:
    """Return the outline of a part of a ring (of a disc, where ``inner`` is 0) as an SVG path.

    A whole turn is drawn as two halves, since an arc cannot end where it starts.
    """
    if stop - start >= 2 * math.pi - 1e-9:
        return _ring(x, y, inner, outer)
    large = int(stop - start > math.pi)
    from_, to = point(x, y, outer, start), point(x, y, outer, stop)
    path = f"M{_at(from_)}A{px(outer)} {px(outer)} 0 {large} 1 {_at(to)}"
    if inner <= 0:
        return f"{path}L{px(x)} {px(y)}Z"
    back, end = point(x, y, inner, stop), point(x, y, inner, start)
    return f"{path}L{_at(back)}A{px(inner)} {px(inner)} 0 {large} 0 {_at(end)}Z"


def _ring(x: float, y: float, inner: float, outer: float) -> str:
    def circle(radius: float, turn: int) -> str:
        half = f"A{px(radius)} {px(radius)} 0 1 {turn}"
        return f"M{px(x)} {px(y - radius)}{half} {px(x)} {px(y + radius)}{half} {px(x)} {px(y - radius)}Z"

    return circle(outer, 1) + (circle(inner, 0) if inner > 0 else "")


def _at(place: tuple[float, float]) -> str:
    return f"{px(place[0])} {px(place[1])}"
