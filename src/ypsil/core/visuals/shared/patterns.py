"""Telling marks apart without colour: hatching and dashes over any drawing."""

from __future__ import annotations

from dataclasses import replace
from typing import get_args

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Hatch, HatchKind, Line, Path, Rect, Scene, Shape, Text
from ypsil.core.style.house import HouseStyle

_KINDS: tuple[HatchKind, ...] = get_args(HatchKind)
_SMALLEST_PX = 10.0
_DASHES = ("", "7 4", "2 3", "10 3 2 3", "12 5", "4 4", "1 4", "8 3 2 3 2 3")


def patterned(scene: Scene, style: HouseStyle) -> Scene:
    """Hatch what is filled with a colour of the palette and dash lines in one; the first colour stays plain.

    Values that stand on hatched marks get a plain sheet behind them.
    """
    ranks = {colour: rank for rank, colour in reversed(list(enumerate(style.palette)))}
    shapes: list[Shape] = []
    hatched: list[Rect] = []
    for shape in scene.shapes:
        if isinstance(shape, Rect | Path) and ranks.get(shape.fill, 0) and not _is_point(shape):
            shape = replace(shape, hatch=Hatch(_KINDS[(ranks[shape.fill] - 1) % len(_KINDS)], style.paper))
            if isinstance(shape, Rect):
                hatched.append(shape)
        elif isinstance(shape, Line | Path) and ranks.get(shape.stroke, 0) and not shape.dash:
            shape = replace(shape, dash=_DASHES[ranks[shape.stroke] % len(_DASHES)])
        elif isinstance(shape, Text):
            shapes += _sheet(shape, hatched)
        shapes.append(shape)
    return replace(scene, shapes=tuple(shapes))


def _is_point(shape: Rect | Path) -> bool:
    return isinstance(shape, Rect) and max(shape.width, shape.height) < _SMALLEST_PX


def _sheet(text: Text, hatched: list[Rect]) -> list[Shape]:
    """Return a plain sheet in the colour of the mark that a text stands on."""
    width, height = text_width(text.text, text.font), text.font.size * 1.15
    left = text.x - {"start": 0.0, "middle": width / 2, "end": width}[text.anchor]
    top = text.y - text.font.size * 0.9
    for mark in reversed(hatched):
        if mark.x <= left and left + width <= mark.x + mark.width and mark.y <= top <= mark.y + mark.height - height:
            return [Rect(left - 3, top - 1, width + 6, height + 2, mark.fill, 3)]
    return []
