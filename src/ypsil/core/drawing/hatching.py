"""Hatched fills as SVG patterns: strokes in a square of 8 px that repeats."""

from __future__ import annotations

from ypsil.core.drawing.scene import Hatch, Path, Rect

_SIZE_PX = 8
# Strokes at a slant go on in the next square.
_STROKES = {
    "rising": ("M-2 2L2 -2M0 8L8 0M6 10L10 6", 1.5),
    "falling": ("M-2 6L2 10M0 0L8 8M6 -2L10 2", 1.5),
    "level": ("M0 4H8", 1.5),
    "upright": ("M4 0V8", 1.5),
    "grid": ("M0 4H8M4 0V8", 1.2),
    "dots": ("M2 2h0.01M6 6h0.01", 2.4),
    "broad": ("M-2 2L2 -2M0 8L8 0M6 10L10 6", 3.5),
}


class Patterns:
    """The patterns that the shapes of one drawing are filled with; ``prefix`` makes their ids unique on a page."""

    def __init__(self, prefix: str) -> None:
        self._prefix = prefix or "scene"
        self._found: dict[str, str] = {}

    def fill(self, shape: Rect | Path) -> str:
        """Return what a shape is filled with: its colour, or the pattern in it."""
        if shape.hatch is None:
            return shape.fill
        name = f"{self._prefix}-{shape.hatch.kind}-{shape.fill.removeprefix('#')}"
        self._found[name] = _pattern(name, shape.hatch, shape.fill)
        return f"url(#{name})"

    def definitions(self) -> str:
        """Return the patterns that were asked for, as SVG."""
        return f"<defs>{''.join(self._found.values())}</defs>" if self._found else ""


def _pattern(name: str, hatch: Hatch, fill: str) -> str:
    strokes, width = _STROKES[hatch.kind]
    return (
        f'<pattern id="{name}" width="{_SIZE_PX}" height="{_SIZE_PX}" patternUnits="userSpaceOnUse">'
        f'<rect width="{_SIZE_PX}" height="{_SIZE_PX}" fill="{fill}"/>'
        f'<path d="{strokes}" fill="none" stroke="{hatch.ink}" stroke-width="{width}" stroke-linecap="round"/>'
        "</pattern>"
    )
