"""From the document and its tables to a page of scenes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.scene import Scene
from ypsil.core.figures import LOCALES, locale_of
from ypsil.core.layout import BandPlace, Item, Layout, Placed, lay_out
from ypsil.core.report.document import Band, ReportBody
from ypsil.core.report.grid import place_of
from ypsil.core.tables.side_by_side import for_each
from ypsil.core.tiles import AnyTile, Context, Drawn, Memory, ReportTable, drawings
from ypsil.core.visuals import Box
from ypsil.core.visuals.shared.rooms import message_scene

UPDATED = "This part is being updated."
# What a phone of 390 px leaves beside the margins.
_NARROW_PX = 358.0


@dataclass(frozen=True, slots=True)
class TileView:
    """A tile on the page: its frame by its band's origin, its corner in px from the page's corner, its drawing."""

    tile: AnyTile
    place: Frame
    x: float
    y: float
    drawn: Drawn

    @property
    def scene(self) -> Scene:
        return self.drawn.scene


@dataclass(frozen=True, slots=True)
class BandView:
    """A band on the page, with what stands in it in reading order."""

    band: Band
    place: BandPlace
    tiles: tuple[TileView, ...]

    @property
    def rows(self) -> int:
        return self.place.rows


@dataclass(frozen=True, slots=True)
class Page:
    """The whole page: where everything stands, drawn, and what it was drawn with."""

    report: ReportBody
    layout: Layout
    bands: tuple[BandView, ...]
    context: Context

    @property
    def width(self) -> float:
        return self.layout.width

    @property
    def height(self) -> float:
        return self.layout.height

    def tiles(self) -> list[TileView]:
        """Return the tiles in reading order."""
        return [tile for band in self.bands for tile in band.tiles]

    def painted(self) -> list[TileView]:
        """Return the tiles in the order they are painted: those that lie over others later."""
        return sorted(self.tiles(), key=lambda view: view.place.layer)

    def problems(self) -> list[tuple[TileView, str]]:
        """Return the tiles that cannot be drawn, each with the reason."""
        return [(tile, tile.drawn.problem) for tile in self.tiles() if tile.drawn.problem]


def compose(
    report: ReportBody,
    tables: Mapping[str, ReportTable],
    memory: Memory | None = None,
    *,
    pictures: Mapping[str, Picture] | None = None,
    for_readers: bool = False,
) -> Page:
    """Lay the bands out and draw every tile; a tile that cannot be drawn says why, and the rest stands.

    ``memory`` keeps drawings by content: what is drawn from the same once is not drawn again. ``pictures`` are those
    that tiles name. A page ``for_readers`` says of what cannot be drawn only that it is being updated.
    """
    context = replace(_context(report, tables, memory, pictures or {}), for_readers=for_readers)
    layout = layout_of(report, context)
    shown = [(tile, layout.placed[tile.id]) for tile in report.tiles()]
    boxes = [Box(at.rectangle.width, at.rectangle.height) for _, at in shown]
    every = _draw_each([(tile, box) for (tile, _), box in zip(shown, boxes, strict=True)], context)
    views = {tile.id: _view(tile, at, drawn) for (tile, at), drawn in zip(shown, every, strict=True)}
    bands = tuple(
        BandView(band, place, tuple(views[tile.id] for tile in band.shown()))
        for band, place in zip(report.bands, layout.bands, strict=True)
    )
    return Page(report, layout, bands, context)


def layout_of(report: ReportBody, context: Context) -> Layout:
    """Return where everything of a report stands on its page."""
    return lay_out([(band.id, _items(band.tiles, context)) for band in report.bands], report.page)


def draw_narrow(page: Page) -> dict[str, Drawn]:
    """Draw the visuals that are wider than a phone once more at a phone's width; by tile id."""
    wide: list[tuple[AnyTile, Box]] = [
        (view.tile, Box(_NARROW_PX, max(_NARROW_PX * 0.75, min(view.scene.height, _NARROW_PX * 1.25))))
        for view in page.tiles()
        if view.tile.asks() is not None and view.scene.width > _NARROW_PX
    ]
    # A phone shows drawings in the size of type they are made for, whatever the page's is.
    plain = page.report.page.model_copy(update={"text_size": PageFormat().text_size})
    every = list(_draw_each(wide, replace(page.context, page=plain)))
    return {tile.id: drawn for (tile, _), drawn in zip(wide, every, strict=True)}


def sources_text(report: ReportBody, tables: Mapping[str, ReportTable]) -> str:
    """Return a line for each table that the report's tiles ask."""
    used = [tables[name].source for name in report.tables() if name in tables]
    heading = "Source: " if len(used) == 1 else "Sources: "
    return heading + "; ".join(used) + "." if used else ""


def _context(
    report: ReportBody, tables: Mapping[str, ReportTable], memory: Memory | None, pictures: Mapping[str, Picture]
) -> Context:
    return Context(
        style=report.style,
        page=report.page,
        locale=report.locale if report.locale in LOCALES else locale_of(report.language),
        tables=tables,
        pictures=pictures,
        filters=report.filters,
        sources=sources_text(report, tables),
        memory=memory if memory is not None else drawings(),
    )


def _items(tiles: Sequence[AnyTile], context: Context) -> tuple[Item, ...]:
    return tuple(_item(tile, context) for tile in tiles)


def _item(tile: AnyTile, context: Context) -> Item:
    place = place_of(tile, context.page)
    width = context.page.width_of(min(place.width, context.page.columns))
    return Item(tile.id, place, tile.least_height(width, context), _items(tile.below(), context))


def _view(tile: AnyTile, at: Placed, drawn: Drawn) -> TileView:
    return TileView(tile, at.frame, at.rectangle.x, at.rectangle.y, drawn)


def _draw_each(tiles: Sequence[tuple[AnyTile, Box]], context: Context) -> Iterator[Drawn]:
    """Draw tiles on several cores where their tables are long. All rows are fetched before, by this thread alone:
    where they come from is not for several at once."""
    longest = max((tile.fetches(box, context) for tile, box in tiles), default=0)
    every = for_each(lambda pair: pair[0].draws(pair[1], context), tiles, longest)
    if not context.for_readers:
        return every
    return (_for_readers(drawn, box, context) for drawn, (_, box) in zip(every, tiles, strict=True))


def _for_readers(drawn: Drawn, box: Box, context: Context) -> Drawn:
    """Return a drawing as readers may see it: reasons that speak of tables, columns and settings are its authors'."""
    answer = drawn.answer
    # That no row fits, or that groups are too small to be shown, readers must know.
    is_told = answer is not None and (not answer.height or bool(answer.hides))
    if not drawn.problem and (is_told or not drawn.scene.refusal):
        return drawn
    return Drawn(message_scene(UPDATED, box, context.style, UPDATED), None, UPDATED)
