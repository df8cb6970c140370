"""Palettes from one colour, by harmony, in OKLCH: of equal lightness as people see it, at angles of hue."""

from __future__ import annotations

from typing import Literal, get_args

from ypsil.core.drawing.colour import lifted
from ypsil.core.drawing.oklch import from_oklch, to_oklch

Harmony = Literal["one-hue", "neighbours", "opposite", "triad"]
HARMONIES: tuple[Harmony, ...] = get_args(Harmony)
MOST_COLOURS = 12
# Angles of hue, in degrees from the first colour (common practice, no source).
ANGLES: dict[Harmony, tuple[float, ...]] = {
    "one-hue": (0,), "neighbours": (0, 30, -30), "opposite": (0, 180), "triad": (0, 120, 240),
}  # fmt: skip
_DARKEST, _LIGHTEST = 0.3, 0.85
_STEP = 0.14
# So much of its chroma a colour keeps that is made darker or lighter.
_KEPT = 0.85
_INK = (0.25, 0.03)
_PAPER = (0.985, 0.006)
_QUIET = (0.6, 0.015)
_GOOD, _BAD = (0.5, 0.12, 152), (0.52, 0.17, 26)


def harmonious(colour: str, harmony: Harmony, count: int) -> list[str]:
    """Return colours that go with one, which is the first: at the angles of a harmony, then once more darker and
    lighter. Those that would be the same on a screen come once.

    >>> harmonious("#14697f", "opposite", 2)
    ['#14697f', '#864e3a']
    """
    lightness, chroma, hue = to_oklch(colour)
    angles = ANGLES[harmony]
    found = [colour]
    turn = 0
    while len(found) < count and turn < 2 * MOST_COLOURS:
        for angle in angles:
            at = _lightness(lightness, turn)
            made = from_oklch(at, chroma * _KEPT ** (turn > 0), hue + angle)
            if len(found) < count and made not in found:
                found.append(made)
        turn += 1
    return found


def _lightness(lightness: float, turn: int) -> float:
    """Return the lightness of a round: as it is, then by turns darker and lighter, always within what can be told."""
    away = _STEP * ((turn + 1) // 2) * (-1 if turn % 2 else 1)
    span = _LIGHTEST - _DARKEST
    wanted = lightness + away
    return wanted if not turn or _DARKEST <= wanted <= _LIGHTEST else _DARKEST + (wanted - _DARKEST) % span


def roles_of(colour: str) -> dict[str, str]:
    """Return the colours of a style's parts that go with a main colour; whatever carries text has 4.5:1 on its paper
    (WCAG 2.2, 1.4.3)."""
    _, chroma, hue = to_oklch(colour)
    part = min(1.0, chroma / 0.1)
    paper = from_oklch(_PAPER[0], _PAPER[1] * part, hue)
    return {
        "ink": lifted(from_oklch(_INK[0], _INK[1] * part, hue), paper, 7.0),
        "paper": paper,
        "emphasis": lifted(colour, paper),
        "quiet": lifted(from_oklch(_QUIET[0], _QUIET[1] * part, hue), paper),
        "good": lifted(from_oklch(*_GOOD), paper),
        "bad": lifted(from_oklch(*_BAD), paper),
    }
