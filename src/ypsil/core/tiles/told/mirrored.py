"""What is told in a script that runs to the left: laid out from the right, signs as they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ypsil.core.drawing.contours import mapped
from ypsil.core.drawing.scene import Anchor, Line, Rect, Shape, Text

_OTHER: dict[Anchor, Anchor] = {"start": "end", "middle": "middle", "end": "start"}


def mirrored(shapes: Sequence[Shape], width: float) -> tuple[Shape, ...]:
    """Return shapes as they lie seen from the other side of a width; signs are moved and not turned over.

    >>> mirrored([Rect(0, 0, 30, 10, "#000000"), Line(10, 0, 20, 0, "#000000")], 100)[0].x
    70
    """
    return tuple(_mirrored(shape, width) for shape in shapes)


def _mirrored(shape: Shape, width: float) -> Shape:
    if isinstance(shape, Rect):
        return replace(shape, x=width - shape.x - shape.width)
    if isinstance(shape, Line):
        return replace(shape, x1=width - shape.x1, x2=width - shape.x2)
    if isinstance(shape, Text):
        return replace(shape, x=width - shape.x, anchor=_OTHER[shape.anchor])
    if shape.side:
        return replace(shape, x=width - shape.x - shape.side)
    return replace(shape, d=mapped(shape.d, lambda x, y: (-x, y)), x=width - shape.x)
