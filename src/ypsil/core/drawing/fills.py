"""Fills of more than one colour: hatches (strokes in a square of 8 px that repeats), and shapes filled in part."""

from __future__ import annotations

import re
from collections.abc import Callable

from ypsil.core.drawing.colour import channels
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.scene import Cover, Fade, Hatch, Motif, Part, Path, Rect

# Where the file of a picture is found of which the longer side is shown so many px long.
AddressOf = Callable[[Picture, float], str]
_SIZE_PX = 8
_VEIL = 0.82
_ID_LETTERS = re.compile(r"[^a-z0-9]+")
# Strokes at a slant go on in the next square.
_STROKES = {
    "rising": ("M-2 2L2 -2M0 8L8 0M6 10L10 6", 1.5),
    "falling": ("M-2 6L2 10M0 0L8 8M6 -2L10 2", 1.5),
    "horizontal": ("M0 4H8", 1.5),
    "vertical": ("M4 0V8", 1.5),
    "grid": ("M0 4H8M4 0V8", 1.2),
    "dots": ("M2 2h0.01M6 6h0.01", 2.4),
    "broad": ("M-2 2L2 -2M0 8L8 0M6 10L10 6", 3.5),
}


class Fills:
    """The fills of more than one colour in one drawing; ``prefix`` makes their ids unique on a page, ``address_of``
    tells where pictures are found."""

    def __init__(self, prefix: str, address_of: AddressOf) -> None:
        self._prefix = prefix or "scene"
        self._address_of = address_of
        self._found: dict[str, str] = {}

    def fill(self, shape: Rect | Path) -> str:
        """Return what a shape is filled with: its colour, or the definition of more than one."""
        if isinstance(shape, Path) and shape.part is not None:
            part = shape.part
            rest = part.rest.removeprefix("#")
            name = f"{self._prefix}-{part.axis}-{_number(part.extent)}-{shape.fill.removeprefix('#')}-{rest}"
            name += "-veil" if part.is_veil else ""
            self._found[name] = _step(name, part, shape.fill)
            return f"url(#{name})"
        if isinstance(shape, Path) and shape.motif is not None:
            return self._motif(shape.motif, shape.fill)
        if shape.hatch is None:
            return shape.fill
        name = f"{self._prefix}-{shape.hatch.kind}-{shape.fill.removeprefix('#')}"
        self._found[name] = _pattern(name, shape.hatch, shape.fill)
        return f"url(#{name})"

    def _motif(self, motif: Motif | Cover | Fade, fill: str) -> str:
        if isinstance(motif, Fade):
            name = f"{self._prefix}-{motif.way}-{fill.removeprefix('#')}-{motif.to.removeprefix('#')}"
            self._found[name] = _fading(name, motif, fill)
        elif isinstance(motif, Cover):
            lies = motif.lies or ()
            place = " ".join(f"{one:.4g}" for one in (motif.x, motif.y, motif.width, motif.height, *lies))
            name = f"{self._prefix}-{motif.picture.digest[:12]}-{_ID_LETTERS.sub('-', place)}"
            name += "" if motif.tint is None else "".join(f"-{colour.removeprefix('#')}" for colour in motif.tint)
            self._found[name] = _covering(name, motif, self._address_of(motif.picture, _longest(motif)))
        else:
            name = f"{self._prefix}-{_ID_LETTERS.sub('-', motif.name)}-{motif.size:.4g}"
            self._found[name] = _repeated(name, motif)
        return f"url(#{name})"

    def definitions(self) -> str:
        """Return the fills that were asked for, as SVG."""
        return f"<defs>{''.join(self._found.values())}</defs>" if self._found else ""


def _pattern(name: str, hatch: Hatch, fill: str) -> str:
    strokes, width = _STROKES[hatch.kind]
    return (
        f'<pattern id="{name}" width="{_SIZE_PX}" height="{_SIZE_PX}" patternUnits="userSpaceOnUse">'
        f'<rect width="{_SIZE_PX}" height="{_SIZE_PX}" fill="{fill}"/>'
        f'<path d="{strokes}" fill="none" stroke="{hatch.ink}" stroke-width="{width}" stroke-linecap="round"/>'
        "</pattern>"
    )


def _repeated(name: str, motif: Motif) -> str:
    size = f"{motif.size:.4g}"
    return (
        f'<pattern id="{name}" width="{size}" height="{size}" patternUnits="userSpaceOnUse">'
        f'<path d="{motif.d}" fill="{motif.ink}"/></pattern>'
    )


def _longest(cover: Cover) -> float:
    """Return how long (px) the longer side of a picture is that covers a rectangle, what is cut off included."""
    _, _, wide, high = cover.lies or (0.0, 0.0, cover.width, cover.height)
    picture = cover.picture
    by = max(wide / max(1, picture.width), high / max(1, picture.height))
    return by * max(picture.width, picture.height)


def _covering(name: str, cover: Cover, address: str) -> str:
    width, height = f"{cover.width:.6g}", f"{cover.height:.6g}"
    x, y, wide, high = cover.lies or (0.0, 0.0, cover.width, cover.height)
    lies = f'x="{x:.6g}" y="{y:.6g}" width="{wide:.6g}" height="{high:.6g}"'
    tint, tinted = "", ""
    if cover.tint is not None:
        tint, tinted = _tint(f"{name}-tint", *cover.tint), f' filter="url(#{name}-tint)"'
    return (
        f'{tint}<pattern id="{name}" x="{cover.x:.6g}" y="{cover.y:.6g}" width="{width}" height="{height}" '
        f'patternUnits="userSpaceOnUse"><image href="{address}" {lies} '
        f'preserveAspectRatio="xMidYMid slice"{tinted}/></pattern>'
    )


def _tint(name: str, dark: str, light: str) -> str:
    """A filter that puts two colours, and what lies between them, in place of black and white. Lightness is that of
    sRGB's primaries (Filter Effects 1, "luminanceToAlpha")."""
    ends = zip(channels(dark), channels(light), strict=True)
    tables = "".join(
        f'<feFunc{channel} type="table" tableValues="{low / 255:.4g} {high / 255:.4g}"/>'
        for channel, (low, high) in zip("RGB", ends, strict=True)
    )
    grey = "0.2126 0.7152 0.0722 0 0 " * 3 + "0 0 0 1 0"
    return (
        f'<filter id="{name}" x="0" y="0" width="1" height="1" color-interpolation-filters="sRGB">'
        f'<feColorMatrix type="matrix" values="{grey}"/><feComponentTransfer>{tables}</feComponentTransfer></filter>'
    )


def _step(name: str, part: Part, fill: str) -> str:
    """A gradient over the shape's bounds that changes its colour at once."""
    ends = 'x1="0" y1="1" x2="0" y2="0"' if part.axis == "up" else 'x1="0" y1="0" x2="1" y2="0"'
    at = _number(part.extent)
    clear, veil = (' stop-opacity="0"', f' stop-opacity="{_VEIL}"') if part.is_veil else ("", "")
    return (
        f'<linearGradient id="{name}" {ends}><stop offset="{at}" stop-color="{fill}"{clear}/>'
        f'<stop offset="{at}" stop-color="{part.rest}"{veil}/></linearGradient>'
    )


def _fading(name: str, fade: Fade, fill: str) -> str:
    end = {"down": 'x2="0" y2="1"', "across": 'x2="1" y2="0"', "slope": 'x2="1" y2="1"'}[fade.way]
    return (
        f'<linearGradient id="{name}" x1="0" y1="0" {end}><stop offset="0" stop-color="{fill}"/>'
        f'<stop offset="1" stop-color="{fade.to}"/></linearGradient>'
    )


def _number(extent: float) -> str:
    return f"{min(1.0, max(0.0, extent)):.4g}"
