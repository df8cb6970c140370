"""The page formats that can be chosen: sizes, margins and sizes of type, as data.

Sizes of paper are those of ISO 216 (A5 to A3) and ANSI/ASME Y14.1 (Letter; Legal is common practice, no source). A px
is 1/96 inch (W3C, CSS Values and Units Level 4, 6.2). The least type in a drawing is 12 for a size of text of 17: so
nothing is under 8 pt on paper, and nothing under 12 px on screen.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ypsil.core.document.model import Margins, PageFormat

Unit = Literal["px", "mm", "in"]
PX_OF: dict[Unit, float] = {"px": 1.0, "mm": 96 / 25.4, "in": 96.0}
# The part of a page's size of text that no type is smaller than.
LEAST_PART = 12 / 17
_PAPER_TEXT = 15.2
_PAPER_MARGIN_MM = 14


@dataclass(frozen=True, slots=True)
class NamedFormat:
    """A page format under the name that it is chosen by."""

    name: str
    label: str
    group: str
    page: PageFormat


def _screen(width: float, height: float | None, text: float, margin: float = 32, columns: int = 24) -> PageFormat:
    top = 0 if height is None else margin / 2
    margins = Margins(top=top, right=margin, bottom=top, left=margin)
    return PageFormat(width=width, height=height, margins=margins, text_size=text, columns=columns)


def _paper(width_mm: float, height_mm: float) -> PageFormat:
    px = PX_OF["mm"]
    margin = round(_PAPER_MARGIN_MM * px)
    margins = Margins(top=margin, right=margin, bottom=margin, left=margin)
    size = {"width": round(width_mm * px), "height": round(height_mm * px)}
    return PageFormat(**size, margins=margins, gutter=10, text_size=_PAPER_TEXT, band_padding=1)


def _papers() -> list[NamedFormat]:
    sizes = {"A5": (148, 210), "A4": (210, 297), "A3": (297, 420), "Letter": (215.9, 279.4), "Legal": (215.9, 355.6)}
    found = []
    for label, (short, long) in sizes.items():
        found.append(NamedFormat(label.lower(), f"{label}, upright", "Printed page", _paper(short, long)))
        found.append(NamedFormat(f"{label.lower()}-across", f"{label}, across", "Printed page", _paper(long, short)))
    return found


_ALL = [
    NamedFormat("tall", "Tall infographic", "Infographic", PageFormat()),
    NamedFormat("dashboard-16x9", "Dashboard, 16:9", "Dashboard", _screen(1280, 720, 17, 28)),
    NamedFormat("dashboard-4x3", "Dashboard, 4:3", "Dashboard", _screen(1024, 768, 17, 28)),
    *_papers(),
    NamedFormat("slide-16x9", "Slides, 16:9", "Slides", _screen(1280, 720, 22, 56)),
    NamedFormat("slide-4x3", "Slides, 4:3 (10 × 7.5 in)", "Slides", _screen(960, 720, 20, 44)),
    NamedFormat("post-square", "Post, square", "Post", _screen(1080, 1080, 32, 56)),
    NamedFormat("post-upright", "Post, upright", "Post", _screen(1080, 1350, 32, 56)),
    NamedFormat("post-wide", "Post, wide", "Post", _screen(1200, 630, 28, 56)),
]
PAGE_FORMATS: dict[str, NamedFormat] = {one.name: one for one in _ALL}
# What people call a kind of page, and the format of it that is meant where they say no more.
KINDS_OF_PAGE = {
    "tall": "tall",
    "dashboard": "dashboard-16x9",
    "print": "a4",
    "slides": "slide-16x9",
    "post": "post-square",
}


def own_format(width: float, height: float | None, unit: Unit, like: PageFormat) -> PageFormat:
    """Return a page of one's own size with the margins and the type of another; ``height`` None: as long as its bands.

    Raises ValueError where that leaves no room.

    >>> own_format(100, 150, "mm", PageFormat()).width
    378.0
    """
    size = {"width": round(width * PX_OF[unit]), "height": None if height is None else round(height * PX_OF[unit])}
    return PageFormat.model_validate(like.model_dump() | size)


def name_of(page: PageFormat) -> str:
    """Return the name of a page format, nothing for a size of one's own.

    >>> name_of(PageFormat()), name_of(PageFormat(width=777))
    ('tall', '')
    """
    return next((one.name for one in PAGE_FORMATS.values() if one.page == page), "")
