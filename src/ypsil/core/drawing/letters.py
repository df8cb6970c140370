"""Text as outlines, for letters that are filled in part."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import uharfbuzz

from ypsil.core.drawing.faces import face
from ypsil.core.drawing.measure import runs
from ypsil.core.drawing.scene import Font
from ypsil.core.drawing.svg import number as px

Bounds = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Letters:
    """The outline of one line of text in SVG path syntax, its baseline starting at 0, 0, and what it covers in px."""

    d: str
    bounds: Bounds


class _Pen:
    """Writes the glyphs of a font, whose y grows upwards, into one outline."""

    def __init__(self, scale: float) -> None:
        self.scale, self.x, self.y = scale, 0.0, 0.0
        self.parts, self.points = list[str](), list[tuple[float, float]]()

    def _add(self, letter: str, *points: tuple[float, float]) -> None:
        placed = [(self.x + x * self.scale, self.y - y * self.scale) for x, y in points]
        self.points += placed
        self.parts.append(letter + " ".join(f"{px(x)} {px(y)}" for x, y in placed))

    def moveTo(self, point: tuple[float, float]) -> None:  # noqa: N802 (the pen protocol of fontTools)
        self._add("M", point)

    def lineTo(self, point: tuple[float, float]) -> None:  # noqa: N802
        self._add("L", point)

    def qCurveTo(self, *points: tuple[float, float]) -> None:  # noqa: N802
        self._add("Q", *points)

    def curveTo(self, *points: tuple[float, float]) -> None:  # noqa: N802
        self._add("C", *points)

    def closePath(self) -> None:  # noqa: N802
        self.parts.append("Z")


@dataclass(frozen=True, slots=True)
class Glyph:
    """A glyph of a line of text: its family and number there, and its place in em, y growing upwards."""

    family: str
    number: int
    x: float
    y: float


@lru_cache(maxsize=4096)
def glyphs(text: str, family: str, weight: int, is_italic: bool = False) -> tuple[Glyph, ...]:
    """Return the glyphs of one line of text as HarfBuzz shapes it, a family for each script, from left to right."""
    found = []
    pen = 0.0
    for run, name in runs(text, family, weight, is_italic):
        run_face = face(name, weight, is_italic)
        buffer = uharfbuzz.Buffer()
        buffer.add_str(run)
        buffer.guess_segment_properties()
        uharfbuzz.shape(run_face.font, buffer)
        em = run_face.units_per_em
        for info, position in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
            # Marks (dots of Arabic letters, accents) stand where the font puts them, beside the pen.
            found.append(Glyph(name, info.codepoint, pen + position.x_offset / em, position.y_offset / em))
            pen += position.x_advance / em
    return tuple(found)


@lru_cache(maxsize=256)
def letters(text: str, font: Font) -> Letters:
    """Return text as it is set with the shipped fonts; the bounds are those of the control points.

    >>> left, top, right, bottom = letters("7", Font("Noto Sans", 100)).bounds
    >>> round(bottom), round(-top)
    (0, 71)
    """
    return outline(glyphs(text, font.family, font.weight, font.is_italic), font.weight, font.size, font.is_italic)


def outline(of: Sequence[Glyph], weight: int, size: float, is_italic: bool = False) -> Letters:
    """Return the outline of some glyphs in a size in px."""
    pen: Any = _Pen(0)
    for glyph in of:
        glyph_face = face(glyph.family, weight, is_italic)
        pen.scale = size / glyph_face.units_per_em
        pen.x, pen.y = glyph.x * size, -glyph.y * size
        glyph_face.font.draw_glyph_with_pen(glyph.number, pen)
    xs, ys = ([point[axis] for point in pen.points] or [0.0] for axis in (0, 1))
    return Letters("".join(pen.parts), (min(xs), min(ys), max(xs), max(ys)))
