"""Hatched fills as SVG patterns: strokes in a square of 8 px that repeats."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ypsil.core.drawing.scene import Hatch, Path, Rect, Shape

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


def with_patterns(shapes: Sequence[Shape], prefix: str) -> tuple[str, Sequence[Shape]]:
    """Return the definitions of the patterns that shapes are filled with, and the shapes that refer to them.

    ``prefix`` makes their ids unique on a page.
    """
    patterns: dict[str, str] = {}
    filled: list[Shape] = []
    for shape in shapes:
        if isinstance(shape, Rect | Path) and shape.hatch is not None:
            name = f"{prefix or 'scene'}-{shape.hatch.kind}-{shape.fill.removeprefix('#')}"
            patterns[name] = _pattern(name, shape.hatch, shape.fill)
            filled.append(replace(shape, fill=f"url(#{name})"))
        else:
            filled.append(shape)
    return (f"<defs>{''.join(patterns.values())}</defs>" if patterns else ""), filled


def _pattern(name: str, hatch: Hatch, fill: str) -> str:
    strokes, width = _STROKES[hatch.kind]
    return (
        f'<pattern id="{name}" width="{_SIZE_PX}" height="{_SIZE_PX}" patternUnits="userSpaceOnUse">'
        f'<rect width="{_SIZE_PX}" height="{_SIZE_PX}" fill="{fill}"/>'
        f'<path d="{strokes}" fill="none" stroke="{hatch.ink}" stroke-width="{width}" stroke-linecap="round"/>'
        "</pattern>"
    )
