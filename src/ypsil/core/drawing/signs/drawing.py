"""Signs drawn: with one line, in two tones, as solid shapes or in their own colours, on a plate where one is wanted."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from ypsil.core.drawing.colour import mix, relative_luminance
from ypsil.core.drawing.contours import mapped
from ypsil.core.drawing.icons import icon_path, icons
from ypsil.core.drawing.scene import Path, Rect, Shape
from ypsil.core.drawing.signs.shipped import COLOURED_PLANE, LINE_PLANE, coloured, line_icons

Look = Literal["line", "two tones"]
Plate = Literal["", "circle", "square"]
_TINT = 0.22
# What a sign leaves free on its plate, as a part of the plate.
_ON_PLATE = 0.22


@dataclass(frozen=True, slots=True)
class SignManner:
    """How signs are drawn: the colour (as #rrggbb) of those that have none of their own, the width of the line on a
    plane of 24, whether closed parts are filled lightly, the plate behind with its colour, how large they are for
    their square, and what the darkest and the lightest part of coloured ones become (None: what they are)."""

    colour: str
    stroke: float = 2.0
    look: Look = "line"
    plate: Plate = ""
    plate_colour: str = ""
    scale: float = 1.0
    shades: tuple[str, str] | None = None


def sign_shapes(name: str, x: float, y: float, size: float, manner: SignManner) -> list[Shape]:
    """Return a sign in a square of ``size`` px whose corner is at ``x`` and ``y``; nothing for one that there is not.

    >>> [type(shape).__name__ for shape in sign_shapes("line:home", 0, 0, 24, SignManner("#102030"))]
    ['Path']
    >>> sign_shapes("line:no such thing", 0, 0, 24, SignManner("#102030"))
    []
    """
    if not manner.plate:
        return _plain(name, x, y, size, manner)
    inner = size * _ON_PLATE
    found = _plain(name, x + inner, y + inner, size - 2 * inner, manner)
    radius = size / 2 if manner.plate == "circle" else size * 0.18
    return [Rect(x, y, size, size, manner.plate_colour, radius), *found] if found else []


def sign_label(name: str) -> str:
    """Return what a sign is called."""
    return name.rpartition(":")[2]


def _plain(name: str, x: float, y: float, size: float, manner: SignManner) -> list[Shape]:
    x, y, size = x + size * (1 - manner.scale) / 2, y + size * (1 - manner.scale) / 2, size * manner.scale
    of, _, label = name.rpartition(":")
    if of == "line":
        return _lined(label, x, y, size, manner)
    if of == "coloured":
        parts = _coloured_at(label, round(size, 2))
        return [Path(d, _shaded(fill, manner.shades), x=x, y=y, side=size) for fill, d in parts]
    icon = icons().get(name)
    if icon is None:
        return []
    height = min(size, size / icon.aspect)
    wide = height * icon.aspect
    path = icon_path(name, x + (size - wide) / 2, y + (size - height) / 2, height, manner.colour)
    return [replace(path, side=wide)]


def _shaded(fill: str, shades: tuple[str, str] | None) -> str:
    """Return a colour as it is, or the shade that is as light for its ends."""
    if shades is None or not fill.startswith("#"):
        return fill
    # The eye tells dark colours apart better than their light says.
    return mix(shades[0], shades[1], relative_luminance(fill) ** 0.5)


def _lined(label: str, x: float, y: float, size: float, manner: SignManner) -> list[Shape]:
    icon = line_icons().get(label)
    if icon is None:
        return []
    line, closed, filled = _line_at(label, round(size, 2))
    shapes: list[Shape] = []
    if closed and manner.look == "two tones":
        shapes.append(Path(closed, manner.colour, x=x, y=y, opacity=_TINT, side=size))
    if filled:
        shapes.append(Path(filled, manner.colour, x=x, y=y, side=size))
    if line:
        wide = manner.stroke * size / LINE_PLANE
        shapes.append(Path(line, "none", manner.colour, wide, x=x, y=y, is_round=True, side=size))
    return shapes


@lru_cache(maxsize=1024)
def _line_at(label: str, size: float) -> tuple[str, str, str]:
    icon = line_icons()[label]
    return (_scaled(icon.line, size / LINE_PLANE), _scaled(icon.closed, size / LINE_PLANE),
            _scaled(icon.filled, size / LINE_PLANE))  # fmt: skip


@lru_cache(maxsize=512)
def _coloured_at(label: str, size: float) -> tuple[tuple[str, str], ...]:
    found = coloured().get(label)
    if found is None:
        return ()
    return tuple((fill, _scaled(d, size / COLOURED_PLANE)) for fill, d in found.parts)


def _scaled(d: str, factor: float) -> str:
    return mapped(d, lambda x, y: (x * factor, y * factor)) if d else ""
