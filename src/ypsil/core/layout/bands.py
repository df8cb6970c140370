"""Bands one below the other, and what stands in each."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ypsil.core.document.grid import settle
from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.layout.pages import PagePlace, Pages

# What a band without tiles has room for, in rows.
_EMPTY_ROWS = 10


@dataclass(frozen=True, slots=True)
class Item:
    """A tile, or a group with what stands in it by the group's own origin; ``least_height`` is what its text needs at
    the frame's width, in px."""

    id: str
    frame: Frame
    least_height: float = 0.0
    below: tuple[Item, ...] = ()


@dataclass(frozen=True, slots=True)
class BandItems:
    """A band with what stands in it; ``padding`` is the rows above and below (None: as usual on the page), and
    ``head`` is its own heading, which stands above all others with so many rows."""

    id: str
    items: tuple[Item, ...]
    padding: int | None = None
    least_rows: int = 0
    heading: Item | None = None
    head: int = 0


@dataclass(frozen=True, slots=True)
class Rectangle:
    """A place on the page, in px from its upper left corner."""

    x: float
    y: float
    width: float
    height: float


@dataclass(frozen=True, slots=True)
class Placed:
    """Where something stands: its frame in its band, whatever groups it is in, and its rectangle."""

    frame: Frame
    rectangle: Rectangle


@dataclass(frozen=True, slots=True)
class BandPlace:
    """A band: where it starts (px), its rows with the padding, the number of its page from 0, the px above it
    that no band takes (a margin, or the rest of a page), its padding and the rows of its heading."""

    id: str
    y: float
    rows: int
    height: float
    page: int
    above: float
    padding: int
    head: int = 0


@dataclass(frozen=True, slots=True)
class Layout:
    """Where everything stands. ``height`` is that of all pages together."""

    bands: tuple[BandPlace, ...]
    placed: dict[str, Placed]
    pages: tuple[PagePlace, ...]
    width: float
    height: float


def lay_out(bands: Sequence[BandItems], page: PageFormat) -> Layout:
    """Return where bands stand, with what is in them.

    Text makes its tile as high as it needs and pushes down what is below it. What is wider than the page becomes as
    wide as that. Where pages have an end, a band that does not fit starts the next one; one that is higher than a page
    goes on there between its tiles; a tile that is higher makes its page longer.
    """
    pages = Pages(page)
    found: list[BandPlace] = []
    placed: dict[str, Placed] = {}
    foot = 0.0
    for band in bands:
        padding = page.band_padding if band.padding is None else band.padding
        standing = [_below_head(item, band.head) for item in grown(band.items, page, page.columns)]
        standing[:0] = [band.heading] if band.heading else []
        rows = _rows(band, standing) + 2 * padding
        if not pages.has_room_for(pages.filled + rows * page.row) and not pages.is_fresh:
            pages.turn()
        y, number = pages.filled, pages.number
        start = y + padding * page.row
        standing = _broken(standing, start, page, pages)
        rows = _rows(band, standing) + 2 * padding
        for item in _flat(standing, 0, 0):
            placed[item.id] = Placed(item.frame, _rectangle(item.frame, start, page))
        found.append(BandPlace(band.id, y, rows, rows * page.row, number, y - foot, padding, band.head))
        foot = pages.filled = max(pages.filled, y + rows * page.row)
    places = pages.places()
    return Layout(tuple(found), placed, places, page.width, places[-1].y + places[-1].height)


def _rows(band: BandItems, items: Sequence[Item]) -> int:
    """Return the rows that a band takes without its padding; one that holds nothing keeps room for something."""
    foot = max((item.frame.row + item.frame.height for item in items), default=band.head or _EMPTY_ROWS)
    return max(foot, band.least_rows)


def _below_head(item: Item, rows: int) -> Item:
    if not rows:
        return item
    frame = item.frame.model_copy(update={"row": item.frame.row + rows})
    return Item(item.id, frame, item.least_height, item.below)


def grown(items: Sequence[Item], page: PageFormat, columns: int) -> list[Item]:
    """Return the items of a band, or of a group, as wide as there is room and as high as they need; none overlap."""
    high = [_as_high_as_needed(item, page, columns) for item in items]
    frames = settle([item.frame for item in high], page.row_gap)
    return [
        item if frame is item.frame else Item(item.id, frame, below=item.below)
        for item, frame in zip(high, frames, strict=True)
    ]


def _as_high_as_needed(item: Item, page: PageFormat, columns: int) -> Item:
    frame = item.frame
    width = min(frame.width, columns)
    below = tuple(grown(item.below, page, width)) if item.below else ()
    height = max(
        frame.height,
        page.rows_for(item.least_height),
        max((one.frame.row + one.frame.height for one in below), default=0),
    )
    column = min(frame.column, columns - width)
    if (width, column, height) == (frame.width, frame.column, frame.height) and below == item.below:
        return item
    return Item(item.id, frame.model_copy(update={"width": width, "column": column, "height": height}), below=below)


def _broken(items: list[Item], start: float, page: PageFormat, pages: Pages) -> list[Item]:
    """Return a band's items moved down where a page ends in the midst of one, and turn the pages for them."""
    if page.height is None:
        return items
    shift = 0
    moved: dict[int, Frame] = {}
    for index in sorted(range(len(items)), key=lambda index: (items[index].frame.row, items[index].frame.column)):
        frame = items[index].frame
        top = start + (frame.row + shift) * page.row
        if not pages.has_room_for(top + frame.height * page.row) and top > pages.top + page.band_padding * page.row:
            shift += page.rows_for(pages.turn() - top)
            top = start + (frame.row + shift) * page.row
        moved[index] = frame.model_copy(update={"row": frame.row + shift})
        pages.filled = max(pages.filled, top + frame.height * page.row)
    return [Item(item.id, moved[index], below=item.below) for index, item in enumerate(items)]


def _flat(items: Sequence[Item], column: int, row: int) -> Iterator[Item]:
    """Yield items and what stands in them, all by the band's origin; what is in a group lies where the group lies."""
    for item in items:
        there = {"column": item.frame.column + column, "row": item.frame.row + row}
        yield Item(item.id, item.frame.model_copy(update=there)) if column or row else item
        for one in _flat(item.below, there["column"], there["row"]):
            frame = one.frame
            layer = max(-50, min(50, frame.layer + item.frame.layer))
            beside = {"dx": frame.dx + item.frame.dx, "dy": frame.dy + item.frame.dy}
            yield Item(one.id, frame.model_copy(update={"layer": layer, **beside}))


def _rectangle(frame: Frame, start: float, page: PageFormat) -> Rectangle:
    return Rectangle(
        page.left_of(frame.column) + frame.dx,
        start + frame.row * page.row + frame.dy,
        page.width_of(frame.width),
        frame.height * page.row,
    )
