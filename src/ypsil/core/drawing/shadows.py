"""Shadows under what stands on a page: outlines a little lower, one over the other, as every kind of file can hold."""

from __future__ import annotations

from ypsil.core.drawing.scene import Path

# How far down each reaches (px), and how much of it is seen.
_LAYERS = ((6.0, 0.05), (3.0, 0.06), (1.0, 0.08))


def shadow(outline: str, ink: str, zoom: float, x: float = 0.0, y: float = 0.0) -> list[Path]:
    """Return the shadow of an outline that stands at a place (px), in an ink; ``zoom`` is how large it falls."""
    return [Path(outline, ink, x=x, y=y + reach * zoom, opacity=opacity) for reach, opacity in _LAYERS]
