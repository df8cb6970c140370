"""Amounts as shades: the colour of each, and the key that says what pale and strong mean."""

from __future__ import annotations

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Shape, Text
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.shared.axes import LABEL_PX

KEY_PX = 24.0
_SWATCHES = 7
_SWATCH_PX = (16.0, 10.0)


def shade(value: float, low: float, high: float, style: HouseStyle) -> str:
    """Return the colour of a value: from pale to strong, or to two sides of zero where values lie on both."""
    if low < 0 < high:
        return style.diverge(value / max(-low, high))
    return style.ramp((value - low) / (high - low) if high > low else 0.5)


def key_of_shades(
    low: float, high: float, ends: tuple[str, str], name: str, width: float, bottom: float, style: HouseStyle
) -> list[Shape]:
    """Return the shades from the lowest to the highest value with both written beside them, at the right end.

    What the amounts are stands before them where it has room. The key takes ``KEY_PX`` above ``bottom``.
    """
    font = style.body(LABEL_PX - 1)
    wide, tall = _SWATCH_PX
    baseline = bottom - 5
    last = width - text_width(ends[1], font)
    start = last - 6 - _SWATCHES * wide
    first = start - 6 - text_width(ends[0], font)
    shapes: list[Shape] = [
        Text(last, baseline, ends[1], font, style.muted),
        Text(first, baseline, ends[0], font, style.muted),
    ]
    for place in range(_SWATCHES):
        value = low + (high - low) * place / (_SWATCHES - 1)
        shapes.append(Rect(start + place * wide, baseline - tall + 1, wide - 1, tall, shade(value, low, high, style)))
    if text_width(name, font) + 12 <= first:
        shapes.append(Text(first - 12, baseline, name, font, style.muted, "end"))
    return shapes
