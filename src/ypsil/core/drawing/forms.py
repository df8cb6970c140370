"""Forms: the outlines of shapes that stand on a page, and where there is room for words in them."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from ypsil.core.drawing.frames import corners, frame_outline
from ypsil.core.drawing.rectangles import ROUND, rounded
from ypsil.core.drawing.svg import number as px

Insets = tuple[float, float, float, float]
_STAR_POINTS = 5
# How far the inner corners of a five-pointed star lie from its middle, for its outer ones: straight sides meet so.
_STAR_INNER = 0.381966
_WAVES = 3
_ROUND = 0.12
# What of a speech bubble's height lies above its tip.
_BODY = 0.78
# A polygon whose corners its author sets, and where they are at first.
OWN = "own"
OWN_CORNERS = ((0.12, 0.0), (1.0, 0.16), (0.86, 1.0), (0.0, 0.8))


@dataclass(frozen=True, slots=True)
class Form:
    """A form: what it is called, its outline in a room of a width and a height (px), the room for words in it (parts of
    its width and height left free at the left, top, right and foot), and whether it is only a line."""

    label: str
    outline: Callable[[float, float], str]
    insets: Insets = (0.05, 0.05, 0.05, 0.05)
    is_line: bool = False


def _star(width: float, height: float) -> str:
    reach = [1.0 if place % 2 == 0 else _STAR_INNER for place in range(2 * _STAR_POINTS)]
    turns = [math.pi * (place / _STAR_POINTS - 0.5) for place in range(2 * _STAR_POINTS)]
    points = [(part * math.cos(turn), part * math.sin(turn)) for part, turn in zip(reach, turns, strict=True)]
    return _stretched(points)(width, height)


def _stretched(points: Sequence[tuple[float, float]]) -> Callable[[float, float], str]:
    """Return what draws points so that they reach to all four sides of a room."""
    left, right = min(x for x, _ in points), max(x for x, _ in points)
    top, foot = min(y for _, y in points), max(y for _, y in points)
    return corners(*(((x - left) / (right - left), (y - top) / (foot - top)) for x, y in points))


def _bubble(width: float, height: float) -> str:
    """A rounded rectangle with a tip at its foot."""
    foot = height * _BODY
    corner = min(width * 0.18, foot / 2, min(width, foot) * _ROUND * 1.5)
    near = corner * (1 - ROUND)
    w, f, r, k = (px(one) for one in (width, foot, corner, near))
    right, low, side, down = (px(one) for one in (width - corner, foot - corner, width - near, foot - near))
    tip = f"L{px(width * 0.36)} {f}L{px(width * 0.22)} {px(height)}L{px(width * 0.18)} {f}"
    return (
        f"M{r} 0L{right} 0C{side} 0 {w} {k} {w} {r}L{w} {low}C{w} {down} {side} {f} {right} {f}{tip}"
        f"L{r} {f}C{k} {f} 0 {down} 0 {low}L0 {r}C0 {k} {k} 0 {r} 0Z"
    )


def _bracket(width: float, height: float) -> str:
    bend = min(width / 2, height / 6)
    middle = height / 2
    return (
        f"M{px(width)} 0Q{px(width / 2)} 0 {px(width / 2)} {px(bend)}L{px(width / 2)} {px(middle - bend)}"
        f"Q{px(width / 2)} {px(middle)} 0 {px(middle)}Q{px(width / 2)} {px(middle)} {px(width / 2)} {px(middle + bend)}"
        f"L{px(width / 2)} {px(height - bend)}Q{px(width / 2)} {px(height)} {px(width)} {px(height)}"
    )


def _wave(width: float, height: float) -> str:
    step, middle = width / (2 * _WAVES), height / 2
    parts = [f"M0 {px(middle)}"]
    for place in range(2 * _WAVES):
        peak = 0.0 if place % 2 == 0 else height
        parts.append(f"Q{px((place + 0.5) * step)} {px(peak)} {px((place + 1) * step)} {px(middle)}")
    return "".join(parts)


def _rule(width: float, height: float) -> str:
    return f"M0 {px(height / 2)}L{px(width)} {px(height / 2)}"


def polygon(points: Sequence[tuple[float, float]]) -> Form:
    """Return a form with straight sides between corners, given as parts of a room's width and height."""
    return replace(FORMS[OWN], outline=corners(*points))


FORMS: dict[str, Form] = {
    "rectangle": Form("A rectangle", lambda width, height: rounded(width, height, 0)),
    "rounded": Form("A rounded rectangle", lambda width, height: rounded(width, height, min(width, height) * _ROUND)),
    "pill": Form(
        "A pill", lambda width, height: rounded(width, height, min(width, height) / 2), (0.1, 0.05, 0.1, 0.05)
    ),
    "ellipse": Form("An ellipse", lambda width, height: frame_outline("ellipse", width, height), (0.16,) * 4),
    "triangle": Form("A triangle", corners((0.5, 0), (1, 1), (0, 1)), (0.26, 0.46, 0.26, 0.05)),
    "diamond": Form("A diamond", corners((0.5, 0), (1, 0.5), (0.5, 1), (0, 0.5)), (0.26,) * 4),
    "hexagon": Form(
        "A hexagon", lambda width, height: frame_outline("hexagon", width, height), (0.17, 0.08, 0.17, 0.08)
    ),
    "arrow": Form(
        "An arrow",
        corners((0, 0.24), (0.66, 0.24), (0.66, 0), (1, 0.5), (0.66, 1), (0.66, 0.76), (0, 0.76)),
        (0.05, 0.28, 0.24, 0.28),
    ),
    "chevron": Form(
        "A chevron", corners((0, 0), (0.82, 0), (1, 0.5), (0.82, 1), (0, 1), (0.18, 0.5)), (0.22, 0.06, 0.2, 0.06)
    ),
    "star": Form("A star", _star, (0.33, 0.4, 0.33, 0.3)),
    "bubble": Form("A speech bubble", _bubble, (0.06, 0.06, 0.06, 0.28)),
    "soft": Form("A soft shape", lambda width, height: frame_outline("blob", width, height), (0.18, 0.16, 0.18, 0.16)),
    OWN: Form("A polygon of your own", corners(*OWN_CORNERS), (0.2,) * 4),
    "line": Form("A line", _rule, is_line=True),
    "wave": Form("A wave", _wave, is_line=True),
    "bracket": Form("A bracket", _bracket, is_line=True),
}
