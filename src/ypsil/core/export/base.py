"""What a file format is, and how somebody wants a file."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Literal

from ypsil.core.drawing.scene import Scene
from ypsil.core.errors import YpsilError

if TYPE_CHECKING:
    from ypsil.core.render import Page

Paper = Literal["", "A4", "Letter", "band"]
PX_PER_INCH = 96.0
_LARGEST_SCALE, _MOST_PX = 8.0, 20_000
_SIZE = re.compile(r"(\d{1,6}(?:\.\d{1,4})?) ?(x|px|dpi)")


@dataclass(frozen=True, slots=True)
class Delivery:
    """How a file is wanted, as far as its kind can be had in several ways.

    Of pictures: ``scale`` pixels to a px, unless ``width`` says how many pixels wide they are, or ``dpi`` how many dots
    to an inch of print. Of PDF: the ``paper`` that bands are put on, none for the page as it is, with ``has_bleed``
    for what is cut off after print, and ``has_numbers`` for tables of all numbers at the end. Of SVG: ``is_outlined``
    for letters as outlines instead of fonts.
    """

    scale: float = 2.0
    width: float | None = None
    dpi: float | None = None
    paper: Paper = ""
    has_bleed: bool = False
    has_numbers: bool = False
    is_outlined: bool = False

    def sized(self, size: str) -> Delivery:
        """Return the same in another size: ``2x``, ``1200px`` or ``300dpi``; raises YpsilError for what is none.

        >>> Delivery().sized("300 dpi").dpi, Delivery().sized("3x").scale, Delivery(dpi=72).sized("640px").dpi
        (300.0, 3.0, None)
        """
        found = _SIZE.fullmatch(size.strip().lower())
        if found is None:
            raise YpsilError(f"“{size[:40]}” is no size", remedy="give it as 2x, 1200px or 300dpi")
        number = float(found[1])
        if found[2] == "x":
            return replace(self, scale=number, width=None, dpi=None)
        in_pixels = found[2] == "px"
        return replace(self, width=number if in_pixels else None, dpi=None if in_pixels else number)

    def pixels(self, width: float) -> float:
        """Return how many pixels a px of a picture gets that is so many px wide; raises YpsilError where that would be
        too many, or none.

        >>> Delivery(dpi=300).pixels(794), Delivery(width=1600).pixels(800)
        (3.125, 2.0)
        """
        scale = self.scale
        if self.width is not None:
            scale = self.width / width
        elif self.dpi is not None:
            scale = self.dpi / PX_PER_INCH
        if not 0 < scale <= _LARGEST_SCALE or width * scale > _MOST_PX:
            raise YpsilError(
                "the picture would be too large, or nothing",
                remedy=f"choose a scale from 0.1 to {_LARGEST_SCALE:g}, at most {_MOST_PX:,} pixels wide",
            )
        return scale


AS_USUAL = Delivery()


@dataclass(frozen=True, slots=True)
class FileFormat:
    """A kind of file: its ending, what people read of it, and how a page and one drawing become one.

    ``place`` is where it stands among those that are offered. ``scene`` takes the language of the drawing's texts; None
    where a drawing alone is no such file. ``is_picture`` tells that it can be had in several sizes.
    """

    ending: str
    label: str
    media_type: str
    place: int
    make: Callable[[Page, Delivery], bytes]
    scene: Callable[[Scene, str], bytes] | None = None
    is_picture: bool = False

    def page(self, page: Page, delivery: Delivery = AS_USUAL) -> bytes:
        """Return a page as the bytes of such a file."""
        return self.make(page, delivery)
