"""Rectangles with round corners, as outlines in SVG path syntax."""

from __future__ import annotations

# How far a curve's handles reach to be a quarter of a circle: 4/3 (sqrt 2 - 1).
ROUND = 0.5522847


def rounded(width: float, height: float, corner: float) -> str:
    """Return the outline of a rectangle with round corners.

    >>> rounded(10, 4, 0)
    'M0 0H10V4H0Z'
    """
    if corner <= 0:
        return f"M0 0H{width:.6g}V{height:.6g}H0Z"
    w, h, r = (round(one, 3) for one in (width, height, corner))
    k = round(corner * (1 - ROUND), 3)
    return (
        f"M{r:g} 0L{w - r:g} 0C{w - k:g} 0 {w:g} {k:g} {w:g} {r:g}L{w:g} {h - r:g}C{w:g} {h - k:g} {w - k:g} {h:g} "
        f"{w - r:g} {h:g}L{r:g} {h:g}C{k:g} {h:g} 0 {h - k:g} 0 {h - r:g}L0 {r:g}C0 {k:g} {k:g} 0 {r:g} 0Z"
    )


def rounded_head(width: float, height: float, corner: float) -> str:
    """Return the outline of a strip whose upper corners are round.

    >>> rounded_head(10, 4, 0)
    'M0 0H10V4H0Z'
    """
    if corner <= 0:
        return rounded(width, height, 0)
    w, h, r = (round(one, 3) for one in (width, height, min(corner, height)))
    k = round(min(corner, height) * (1 - ROUND), 3)
    return (
        f"M{r:g} 0L{w - r:g} 0C{w - k:g} 0 {w:g} {k:g} {w:g} {r:g}L{w:g} {h:g}L0 {h:g}L0 {r:g}C0 {k:g} {k:g} 0 {r:g} 0Z"
    )
