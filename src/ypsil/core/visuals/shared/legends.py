"""Keys: which colour stands for what."""

from __future__ import annotations

from collections.abc import Sequence

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import Series

_LEGEND_ROW_PX = 22.0


def legend(
    series: list[Series], width: float, style: HouseStyle, top: float = 0, colours: Sequence[str] = ()
) -> tuple[list[Shape], float]:
    """Return the legend of a split, in rows from ``top``, and its height; ``colours`` replace the palette's."""
    if not any(one.name for one in series):
        return [], 0
    shown = colours or [style.colour(index) for index in range(len(series))]
    return key_of([(one.name, colour) for one, colour in zip(series, shown, strict=True)], width, style, top)


def key_of(
    entries: Sequence[tuple[str, str]], width: float, style: HouseStyle, top: float = 0
) -> tuple[list[Shape], float]:
    """Return what colours mean, in rows from ``top``, and the height it takes."""
    font = style.body(LABEL_PX)
    shapes: list[Shape] = []
    x, y = 0.0, top + 14
    for name, colour in entries:
        text = shorten(name, width - 24, font)
        needed = 18 + text_width(text, font) + 18
        if x > 0 and x + needed - 18 > width:
            x, y = 0.0, y + _LEGEND_ROW_PX
        shapes.append(Rect(x, y - 10, 12, 12, colour, 2))
        shapes.append(Text(x + 18, y, text, font, style.ink, title=name if text != name else ""))
        x += needed
    return shapes, y - top + 12


def mark_colour(name: str, number: int, count: int, emphasis: str, style: HouseStyle) -> str:
    """Return the colour of a group's mark: by series where there are several, else quiet beside the emphasis."""
    if count > 1:
        return style.colour(number)
    return style.quiet if emphasis and name != emphasis else style.accent
