"""The colours of a picture, such as a logo or a photograph: the ones that are seen first, none of them twice."""

from __future__ import annotations

import io

from PIL import Image

from ypsil.core.drawing.oklch import to_oklch
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.rasters import raster_of
from ypsil.core.style.seen import difference

_SAMPLED_PX = 128
_SORTED_INTO = 48
# Closer ones are the same colour, differently lit (common practice, no source).
_SAME = 12.0
_PAPER_LIGHTNESS, _PAPER_CHROMA = 0.95, 0.03
# A strong colour of little area is seen before a grey one of much.
_GREY_WEIGHT = 0.04
_LEAST_PART = 0.002


def colours_in(picture: Picture, count: int) -> list[str]:
    """Return up to so many colours of a picture, those first that are most of it or strongest; what is as paper comes
    last."""
    image = Image.open(io.BytesIO(raster_of(picture))).convert("RGBA")
    image.thumbnail((_SAMPLED_PX, _SAMPLED_PX))
    # What is clear has no colour.
    opaque = [pixel[:3] for pixel in zip(*[iter(image.tobytes())] * 4, strict=True) if pixel[3] > 127]
    if not opaque:
        return []
    strip = Image.new("RGB", (len(opaque), 1))
    strip.putdata(opaque)
    # Few colours, as of a logo, stay what they are.
    counted = strip.getcolors(_SORTED_INTO)
    if counted is None:
        sorted_into = strip.quantize(_SORTED_INTO, method=Image.Quantize.MEDIANCUT).convert("RGB")
        counted = sorted_into.getcolors(_SORTED_INTO) or []
    parts = [(number / len(opaque), "#" + bytes(pixel).hex()) for number, pixel in counted]  # type: ignore[arg-type]
    found: list[str] = []
    for _, colour in sorted(((-_weight(part, colour), colour) for part, colour in parts if part >= _LEAST_PART)):
        if len(found) < count and all(difference(colour, other) >= _SAME for other in found):
            found.append(colour)
    return found or [parts[0][1]]


def _weight(part: float, colour: str) -> float:
    lightness, chroma, _ = to_oklch(colour)
    is_paper = lightness > _PAPER_LIGHTNESS and chroma < _PAPER_CHROMA
    return 0.0 if is_paper else part * (_GREY_WEIGHT + chroma)
