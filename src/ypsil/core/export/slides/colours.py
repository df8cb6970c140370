"""Colours in DrawingML (ECMA-376, part 1, 20.1.2.3.32)."""

from __future__ import annotations

# Parts of a whole are given in thousandths of a percent.
WHOLE = 100_000


def colour_xml(colour: str, opacity: float = 1.0) -> str:
    """Return a colour, “#” and six or eight hexadecimal digits, as an element.

    >>> colour_xml("#14697f", 0.5)
    '<a:srgbClr val="14697F"><a:alpha val="50000"/></a:srgbClr>'
    """
    plain = colour.removeprefix("#")
    solid = opacity * (int(plain[6:8], 16) / 255 if len(plain) == 8 else 1.0)
    seen = f'<a:alpha val="{round(solid * WHOLE)}"/>' if solid < 1 else ""
    return f'<a:srgbClr val="{plain[:6].upper()}">{seen}</a:srgbClr>'
