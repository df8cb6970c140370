"""Bands on sheets of paper: which stand on which, broken only between bands, or, where one is taller than a sheet,
between what stands in it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from ypsil.core.export.base import PX_PER_INCH, Paper
from ypsil.core.render import BandView, Page, TileView

_MM_PER_INCH = 25.4
_SIZES_MM = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
# What stays free above, for the title that is said again, and below, for the number of the page.
_HEAD_MM, _FOOT_MM = 13.0, 13.0
_LEAST_SCALE = 0.05
_NEARLY_EMPTY = 0.2
_SMALLER = (0.97, 0.94, 0.91, 0.88)


def px_of(mm: float) -> float:
    """Return a length on paper in px.

    >>> px_of(25.4)
    96.0
    """
    return mm / _MM_PER_INCH * PX_PER_INCH


@dataclass(frozen=True, slots=True)
class Piece:
    """A part of a band, from ``top`` to ``foot`` (px of the page), that stands on a sheet ``scale`` times as large with
    its corner at ``x`` and ``y`` (px of the sheet)."""

    band: BandView
    top: float
    foot: float
    x: float
    y: float
    scale: float

    @property
    def height(self) -> float:
        """How high it is on the sheet, in px."""
        return (self.foot - self.top) * self.scale

    def holds(self, view: TileView, page: Page) -> bool:
        """Tell whether a tile of its band begins in it."""
        return self.top <= page.layout.placed[view.tile.id].rectangle.y < self.foot


@dataclass(slots=True)
class Sheet:
    """A sheet of paper with what stands on it, in px."""

    width: float
    height: float
    pieces: list[Piece] = field(default_factory=list)


def whole(page: Page) -> Sheet:
    """Return a page as one sheet, however many it has."""
    return _laid_out(page, 0.0, page.height)


def sheets_of(page: Page, paper: Paper) -> list[Sheet]:
    """Return the sheets that the bands of a page fill: as they are laid out, one for each band, or as many as stand on
    a sheet of paper."""
    if not paper:
        return [_laid_out(page, place.y, place.foot) for place in page.layout.pages]
    bands = [band for band in page.bands if band.tiles or band.ground is not None]
    if paper == "band":
        return [
            Sheet(page.width, band.place.height, [Piece(band, band.place.y, _foot(band), 0.0, 0.0, 1.0)])
            for band in bands
        ]
    return _filled(page, bands, paper)


def _foot(band: BandView) -> float:
    return band.place.y + band.place.height


def _laid_out(page: Page, top: float, foot: float) -> Sheet:
    """Return what lies between two heights of a page as a sheet."""
    pieces = []
    for band in page.bands:
        begins, ends = max(top, band.place.y), min(foot, _foot(band))
        if begins < ends:
            pieces.append(Piece(band, begins, ends, 0.0, begins - top, 1.0))
    return Sheet(page.width, foot - top, pieces)


def _filled(page: Page, bands: Sequence[BandView], paper: str) -> list[Sheet]:
    short, long = (px_of(side) for side in _SIZES_MM[paper])
    is_across = page.report.page.height is not None and page.width > page.report.page.height
    size = (long, short) if is_across else (short, long)
    sheets = _at_scale(page, bands, size, size[0] / page.width)
    if len(sheets) > 1 and sum(piece.height for piece in sheets[-1].pieces) < _NEARLY_EMPTY * size[1]:
        # A sheet for a line or two is spared where all can be a little smaller.
        for smaller in _SMALLER:
            fewer = _at_scale(page, bands, size, smaller * size[0] / page.width)
            if len(fewer) < len(sheets):
                return fewer
    return sheets


def _at_scale(page: Page, bands: Sequence[BandView], size: tuple[float, float], scale: float) -> list[Sheet]:
    width, height = size
    sheets = [Sheet(width, height)]
    # The first sheet begins with the title itself.
    at, last = 0.0, height - px_of(_FOOT_MM)

    def turn() -> float:
        sheets.append(Sheet(width, height))
        return px_of(_HEAD_MM)

    for band in bands:
        if sheets[-1].pieces and at + band.place.height * scale > last:
            at = turn()
        for top, foot in _parts(page, band, (last - at) / scale, (last - px_of(_HEAD_MM)) / scale):
            if sheets[-1].pieces and at + (foot - top) * scale > last + 0.01:
                at = turn()
            # What cannot be parted is made smaller until it has room.
            own = max(_LEAST_SCALE, min(scale, (last - at) / (foot - top)))
            piece = Piece(band, top, foot, (width - own * page.width) / 2, at, own)
            sheets[-1].pieces.append(piece)
            at += piece.height
    return sheets


def _parts(page: Page, band: BandView, first: float, room: float) -> Iterator[tuple[float, float]]:
    """Yield the parts of a band that have room (px of the page), ``first`` for the first, as few as can be."""
    top, end = band.place.y, _foot(band)
    cuts = [*_cuts(page, band), end]
    left = first
    while top < end:
        fitting = [cut for cut in cuts if top < cut <= top + left + 0.01]
        foot = fitting[-1] if fitting else next(cut for cut in cuts if cut > top)
        yield top, foot
        top, left = foot, room


def _cuts(page: Page, band: BandView) -> list[float]:
    """Return the heights at which nothing in a band is cut through, in px of the page."""
    spans = sorted((at.y, at.y + at.height) for at in (page.layout.placed[one.tile.id].rectangle for one in band.tiles))
    cuts: list[float] = []
    reach = band.place.y
    for top, foot in spans:
        if top >= reach and reach > band.place.y:
            cuts.append((reach + top) / 2)
        reach = max(reach, foot)
    return cuts
