"""What the layout needs to know of tiles: where each stands, and how much room its text takes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.layout import Item, grown
from ypsil.core.report.document import Band, ReportBody
from ypsil.core.report.grid import place_of
from ypsil.core.style.cards import CardManner
from ypsil.core.tiles import AnyTile, Context

_MOST_OF_WIDTH = 1 / 3


def items_of(tiles: Sequence[AnyTile], context: Context) -> tuple[Item, ...]:
    """Return tiles as the layout knows them."""
    return tuple(_item(tile, context) for tile in tiles)


def padding_of(tile: AnyTile, width: float, context: Context) -> float:
    """Return the room round a tile's drawing in its card, in px: at most a third of its width at each side."""
    if tile.card is None:
        return 0.0
    manner: CardManner = tile.card.by(context.cards)
    return min(manner.padding * context.page.zoom, width * _MOST_OF_WIDTH)


def header_of(tile: AnyTile, context: Context) -> float:
    """Return the height of the strip at the head of a tile's card, in px."""
    return 0.0 if tile.card is None else tile.card.header_height(context.page.text_size)


def strip_of(tile: AnyTile, context: Context) -> float:
    """Return the height (px) of what stands at a tile's foot for the numbers of its sources; texts have them behind
    their last word."""
    if not tile.cites or tile.writes(context) is not None or not tile.points(context):
        return 0.0
    return context.font("note").line_height


def shown_frames(report: ReportBody, band: Band) -> dict[str, Frame]:
    """Return where the tiles of a band are seen, by their ids: moved down by texts that grew, as wide as the page."""
    context = _context_of(report)
    items = grown(items_of(band.tiles, context), report.page, report.page.columns)
    return {item.id: item.frame for item in items}


def text_rows(tile: AnyTile, report: ReportBody) -> Callable[[int], int] | None:
    """Return how many rows the text of a tile takes in so many columns; None for what is no text."""
    context = _context_of(report)
    if tile.writes(context) is None:
        return None
    page = report.page
    return lambda columns: max(1, page.rows_for(_least_height(tile, page.width_of(columns), context)))


def as_shown(report: ReportBody, band: Band, page: PageFormat) -> Band:
    """Return a band whose tiles are in the rows that they are seen in."""
    frames = shown_frames(report, band)
    tiles = tuple(
        tile.model_copy(update={"place": place_of(tile, page).model_copy(update={"row": frames[tile.id].row})})
        for tile in band.tiles
    )
    return band.model_copy(update={"tiles": tiles})


def _item(tile: AnyTile, context: Context) -> Item:
    if context.choices.made:
        context = replace(context, chosen=context.choices.heard_by(tile.id))
    place = place_of(tile, context.page)
    width = context.page.width_of(min(place.width, context.page.columns))
    return Item(tile.id, place, _least_height(tile, width, context), items_of(tile.below(), context))


def _least_height(tile: AnyTile, width: float, context: Context) -> float:
    """Return the height in px that a tile cannot do without at a width, with the room in its card and its header."""
    padding = padding_of(tile, width, context)
    least = tile.least_height(width - 2 * padding, context)
    return least and least + 2 * padding + header_of(tile, context) + strip_of(tile, context)


def _context_of(report: ReportBody) -> Context:
    return Context(style=report.style, house=report.style, page=report.page, cards=report.cards, icons=report.icons)
