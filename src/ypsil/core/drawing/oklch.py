"""Lightness, chroma and hue of colours as people see them: OKLCH.

Source of the space and its numbers: W3C, CSS Color Module Level 4, "Sample code for Color Conversions" (after Björn
Ottosson, 2020).
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from ypsil.core.drawing.colour import channels

_TO_LMS = (
    (0.4122214708, 0.5363325363, 0.0514459929),
    (0.2119034982, 0.6806995451, 0.1073969566),
    (0.0883024619, 0.2817188376, 0.6299787005),
)
_TO_LAB = (
    (0.2104542553, 0.7936177850, -0.0040720468),
    (1.9779984951, -2.4285922050, 0.4505937099),
    (0.0259040371, 0.7827717662, -0.8086757660),
)
_FROM_LAB = (
    (1.0, 0.3963377774, 0.2158037573),
    (1.0, -0.1055613458, -0.0638541728),
    (1.0, -0.0894841775, -1.2914855480),
)
_FROM_LMS = (
    (4.0767416621, -3.3077115913, 0.2309699292),
    (-1.2684380046, 2.6097574011, -0.3413193965),
    (-0.0041960863, -0.7034186147, 1.7076147010),
)
# How far beyond 0 to 1 a channel may be to be shown as it is, and how often chroma is halved between the two ends.
_GAMUT = 0.00001
_HALVINGS = 16


def to_oklch(colour: str) -> tuple[float, float, float]:
    """Return lightness (0 to 1), chroma (from 0) and hue (degrees) of a colour like ``#2a1a3e``.

    >>> [round(part, 3) for part in to_oklch("#ff0000")]
    [0.628, 0.258, 29.234]
    """
    linear = [_linear(channel / 255) for channel in channels(colour)]
    lightness, a, b = _times(_TO_LAB, [math.cbrt(part) for part in _times(_TO_LMS, linear)])
    return lightness, math.hypot(a, b), math.degrees(math.atan2(b, a)) % 360


def from_oklch(lightness: float, chroma: float, hue: float) -> str:
    """Return the colour of a lightness and a hue, with as much of the chroma as a screen (sRGB) can show.

    >>> from_oklch(*to_oklch("#14697f")), from_oklch(1, 0.4, 30)
    ('#14697f', '#ffffff')
    """
    lightness = min(1.0, max(0.0, lightness))
    parts = _parts(lightness, chroma, hue)
    if not _is_shown(parts):
        low, high = 0.0, chroma
        for _ in range(_HALVINGS):
            middle = (low + high) / 2
            low, high = (middle, high) if _is_shown(_parts(lightness, middle, hue)) else (low, middle)
        parts = _parts(lightness, low, hue)
    return "#" + "".join(f"{int(min(1.0, max(0.0, _encoded(part))) * 255 + 0.5):02x}" for part in parts)


def _parts(lightness: float, chroma: float, hue: float) -> list[float]:
    turned = math.radians(hue)
    lab = [lightness, chroma * math.cos(turned), chroma * math.sin(turned)]
    return _times(_FROM_LMS, [part**3 for part in _times(_FROM_LAB, lab)])


def _is_shown(parts: Sequence[float]) -> bool:
    return all(-_GAMUT <= part <= 1 + _GAMUT for part in parts)


def _times(matrix: Sequence[Sequence[float]], vector: Sequence[float]) -> list[float]:
    return [sum(one * other for one, other in zip(row, vector, strict=True)) for row in matrix]


def _linear(value: float) -> float:
    return value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4


def _encoded(value: float) -> float:
    return 12.92 * value if value <= 0.0031308 else 1.055 * value ** (1 / 2.4) - 0.055
