"""From the document and its tables to a page of scenes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

from ypsil.core.choosing import Choices
from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.routes import Span
from ypsil.core.drawing.scene import Scene, Text
from ypsil.core.drawing.svg import number
from ypsil.core.figures import LOCALES, locale_of
from ypsil.core.layout import BandItems, BandPlace, Item, Layout, Placed, Rectangle, lay_out
from ypsil.core.render.backing import Backing, card, ground
from ypsil.core.render.band_heading import BandHeading
from ypsil.core.render.header import Header, header_on
from ypsil.core.report.choosing import choices_of
from ypsil.core.report.document import Band, ReportBody, walk
from ypsil.core.report.items import items_of, padding_of, strip_of
from ypsil.core.report.sources import named_sources
from ypsil.core.style.grounds import on, on_ground, tone
from ypsil.core.tables.side_by_side import for_each
from ypsil.core.tiles import AnyTile, Context, Drawn, Memory, ReportTable, drawings
from ypsil.core.tiles.connector import APART, LOST
from ypsil.core.tiles.context import Ends
from ypsil.core.visuals import Box
from ypsil.core.visuals.shared.rooms import message_scene

UPDATED = "This part is being updated."
# What a phone of 360 px, the narrowest in common use, leaves beside margins of 16 px; wider ones show it a bit larger.
_NARROW_PX = 328.0
# Of what stands between two tiles, a line goes round so many at most.
_MOST_AROUND = 8


@dataclass(frozen=True, slots=True)
class TileView:
    """A tile on the page: its frame by its band's origin, the corner of its drawing in px from the page's corner, its
    drawing, the card behind it with the room (px) round the drawing, the outermost group that it stands in, and what
    it was drawn with; ``opacity`` is that of the tile within the groups that it stands in, ``turn`` how many degrees
    it is turned about its middle, with its card, as the hands of a clock go."""

    tile: AnyTile
    place: Frame
    x: float
    y: float
    drawn: Drawn
    card: Backing | None = None
    padding: float = 0.0
    group: str = ""
    opacity: float = 1.0
    header: Header | None = None
    turn: float = 0.0
    context: Context = field(default_factory=Context, repr=False)

    @property
    def scene(self) -> Scene:
        return self.drawn.scene

    @property
    def middle(self) -> tuple[float, float]:
        """The middle of its place, in px from the page's corner: what it is turned about."""
        above = 0.0 if self.header is None else self.header.height
        return self.x + self.scene.width / 2, self.y + (self.scene.height - above) / 2

    def turning(self) -> str:
        """Return how it is turned on the page, as an SVG transform (SVG 2, 8.5)."""
        x, y = self.middle
        return f"rotate({number(self.turn)} {number(x)} {number(y)})"


@dataclass(frozen=True, slots=True)
class BandView:
    """A band on the page, with what stands in it in reading order."""

    band: Band
    place: BandPlace
    tiles: tuple[TileView, ...]
    ground: Backing | None = None

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

    def sources(self) -> TileView | None:
        """Return the first tile that names the sources."""
        return next((view for view in self.tiles() if view.tile.names_sources), None)

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
    is_opened: bool = False,
    choices: Choices | None = None,
) -> Page:
    """Lay the bands out and draw every tile; a tile that cannot be drawn says why, and the rest stands.

    ``memory`` keeps drawings by content: what is drawn from the same once is not drawn again. ``pictures`` are those
    that tiles name. A page ``for_readers`` says of what cannot be drawn only that it is being updated. One that
    ``is_opened`` shows what readers would open by pressing. ``choices`` are what readers chose at the controls of the
    report, of which this may be a part; left out: nothing.
    """
    report = report.as_read() if for_readers else report
    context = context_of(report, tables, memory, pictures)
    choices = choices_of(report, tables) if choices is None else choices
    context = replace(context, for_readers=for_readers, is_opened=is_opened, choices=choices)
    layout = layout_of(report, context)
    ends = {tile.id: _ends(tile, report, layout) for tile in report.tiles() if tile.joins()}
    # What connects nothing any more says so to its author; readers miss nothing.
    unseen = {name for name, found in ends.items() if for_readers and isinstance(found, str)}
    shown = {band.id: [tile for tile in _shown(band) if tile.id not in unseen] for band in report.bands}
    rooms = []
    for band in report.bands:
        for tile in shown[band.id]:
            at = layout.placed[tile.id]
            rooms.append(_room(tile, band, at, _connecting(ends.get(tile.id, ""), at, context)))
    every = _draw_each([(room.tile, room.box, room.context) for room in rooms])
    views = {room.tile.id: room.view(drawn) for room, drawn in zip(rooms, every, strict=True)}
    bands = tuple(
        BandView(band, place, tuple(views[tile.id] for tile in shown[band.id]), _ground(band, place, context))
        for band, place in zip(report.bands, layout.bands, strict=True)
    )
    return Page(report, layout, bands, context)


def layout_of(report: ReportBody, context: Context) -> Layout:
    """Return where everything of a report stands on its page."""
    layout = lay_out([_band_items(band, context) for band in report.bands], report.page)
    joined = {tile.id: _between(tile, report, layout, context) for tile in report.tiles() if tile.joins()}
    return replace(layout, placed=layout.placed | {name: placed for name, placed in joined.items() if placed})


def _between(tile: AnyTile, report: ReportBody, layout: Layout, context: Context) -> Placed | None:
    """Return where a connector stands: round the line between what it connects."""
    ends = _ends(tile, report, layout)
    if isinstance(ends, str):
        return None
    span = tile.spans(ends, context)
    return replace(layout.placed[tile.id], rectangle=Rectangle(span.x, span.y, span.width, span.height))


def _ends(tile: AnyTile, report: ReportBody, layout: Layout) -> Ends | str:
    """Return what a connector connects, in px from the page's corner, or why that cannot be."""
    found = [(report.tile(name), layout.placed.get(name)) for name in tile.joins()]
    spans: list[Span] = []
    labels: list[str] = []
    pages: set[int] = set()
    bands: set[int] = set()
    within: set[str] = set()
    for one, at in found:
        if one is None or at is None or one.joins():
            return LOST
        spans.append(_span(at).turned(one.turned()))
        labels.append(one.label())
        pages.add(sum(page.y <= at.rectangle.y for page in layout.pages))
        bands.add(sum(band.y <= at.rectangle.y for band in layout.bands))
        within |= {below.id for below in walk([one])}
    if len(pages) > 1:
        return APART
    others = [layout.placed[tile.id] for tile in report.tiles() if tile.id not in within and not tile.joins()]
    # What is laid over others, or behind them, is in nobody's way.
    between = tuple(span for at in others if not at.frame.layer and (span := _span(at)).meets(spans[0].with_(spans[1])))
    return Ends(spans[0], spans[1], labels[0], labels[1], len(bands) > 1, between[:_MOST_AROUND])


def _span(at: Placed) -> Span:
    place = at.rectangle
    return Span(place.x, place.y, place.width, place.height)


def _connecting(ends: Ends | str, at: Placed, context: Context) -> Context:
    """Return what a connector is drawn with: its ends by its own corner, or why it has none."""
    if isinstance(ends, str):
        return replace(context, apart=ends) if ends else context
    return replace(context, ends=ends.moved(-at.rectangle.x, -at.rectangle.y))


@dataclass(frozen=True, slots=True)
class _Room:
    """Where a tile is drawn, on what, and with what."""

    tile: AnyTile
    at: Placed
    box: Box
    context: Context
    card: Backing | None
    padding: float
    group: str
    opacity: float
    header: Header | None = None
    strip: float = 0.0

    def view(self, drawn: Drawn) -> TileView:
        if self.strip:
            drawn = self._pointing(drawn)
        x, y = self.at.rectangle.x + self.padding, self.at.rectangle.y + self.padding
        y += 0.0 if self.header is None else self.header.height
        return TileView(
            self.tile,
            self.at.frame,
            x,
            y,
            drawn,
            card=self.card,
            padding=self.padding,
            group=self.group,
            opacity=self.opacity,
            header=self.header,
            turn=self.tile.turned(),
            context=self.context,
        )

    def _pointing(self, drawn: Drawn) -> Drawn:
        """Return a drawing with the numbers of its sources at its foot."""
        said, font = self.tile.points(self.context), self.context.font("note")
        scene = drawn.scene
        number = Text(scene.width, scene.height + font.size, said, font, self.context.style.muted, "end")
        scene = replace(scene, height=scene.height + self.strip, shapes=(*scene.shapes, number))
        return replace(drawn, scene=scene, key=drawn.key and f"{drawn.key} {said}")


def _room(tile: AnyTile, band: Band, at: Placed, context: Context) -> _Room:
    base, rectangle = context.style, at.rectangle
    style = on_ground(base, band.ground, _picture_of(band, context))
    group = next((top.id for top in band.tiles if top.holds and any(one.id == tile.id for one in walk([top]))), "")
    opacity = next((solid for one, solid in _solid(band.tiles) if one.id == tile.id), tile.opacity)
    manner = None if tile.card is None else tile.card.by(context.cards)
    chosen = context.choices.heard_by(tile.id)
    standing = tile.grounds() or ((manner.fill,) if manner is not None and manner.fill else ())
    if standing:
        style = on(base, *(tone(base, one) for one in standing))
    padding = padding_of(tile, rectangle.width, context)
    header = None if manner is None else header_on(tile.card, manner, rectangle, context.page, base)
    strip = strip_of(tile, replace(context, style=style))
    above = 2 * padding + strip + (0.0 if header is None else header.height)
    return _Room(
        tile,
        at,
        Box(max(1.0, rectangle.width - 2 * padding), max(1.0, rectangle.height - above)),
        replace(context, style=style, chosen=chosen),
        card=None if manner is None else card(manner, rectangle, context.page, base),
        padding=padding,
        group=group,
        opacity=opacity,
        header=header,
        strip=strip,
    )


def _solid(tiles: Sequence[AnyTile], within: float = 1.0) -> Iterator[tuple[AnyTile, float]]:
    """Yield tiles with their opacity within the groups that they stand in."""
    for tile in tiles:
        yield tile, tile.opacity * within
        yield from _solid(tile.below(), tile.opacity * within)


def _shown(band: Band) -> list[AnyTile]:
    """Return what a band shows in reading order: its heading, where it has one of its own, and its tiles."""
    heading = BandHeading.of(band)
    return [*([heading] if heading else []), *band.shown()]


def _ground(band: Band, place: BandPlace, context: Context) -> Backing | None:
    return ground(band, place, context.page, context.style, _picture_of(band, context))


def _picture_of(band: Band, context: Context) -> Picture | None:
    return context.pictures.get(band.ground.picture) if band.ground is not None else None


def _band_items(band: Band, context: Context) -> BandItems:
    items = items_of(band.tiles, context)
    heading = BandHeading.of(band)
    if heading is None:
        return BandItems(band.id, items, band.padding, band.least_rows)
    page = context.page
    rows = page.rows_for(heading.least_height(page.width_of(page.columns), context))
    own = Item(heading.id, Frame(column=0, row=0, width=page.columns, height=rows))
    return BandItems(band.id, items, band.padding, band.least_rows, own, rows + page.row_gap)


def draw_narrow(page: Page) -> dict[str, Drawn]:
    """Draw what would be too small on a phone once more at a phone's width; by tile id."""
    # A phone shows drawings in the size of type they are made for, whatever the page's is.
    plain = page.report.page.model_copy(update={"text_size": PageFormat().text_size})
    wide: list[tuple[AnyTile, Box, Context]] = []
    for view in page.tiles():
        context = replace(view.context, page=plain)
        high = view.tile.narrow_height(_NARROW_PX, Box(view.scene.width, view.scene.height), context)
        if high:
            wide.append((view.tile, Box(_NARROW_PX, high), context))
    return {tile.id: one for (tile, _, _), one in zip(wide, _draw_each(wide), strict=True)}


def context_of(
    report: ReportBody,
    tables: Mapping[str, ReportTable],
    memory: Memory | None = None,
    pictures: Mapping[str, Picture] | None = None,
) -> Context:
    """Return what the tiles of a report are drawn with."""
    return Context(
        style=report.style,
        house=report.style,
        page=report.page,
        locale=report.locale if report.locale in LOCALES else locale_of(report.language),
        tables=tables,
        pictures=pictures or {},
        filters=report.filters,
        cards=report.cards,
        icons=report.icons,
        sources=named_sources(report, tables),
        is_pointed_to=any(tile.cites for tile in report.tiles()),
        memory=memory if memory is not None else drawings(),
    )


def _draw_each(tiles: Sequence[tuple[AnyTile, Box, Context]]) -> Iterator[Drawn]:
    """Draw tiles on several cores where their tables are long. All rows are fetched before, by this thread alone:
    where they come from is not for several at once."""
    longest = max((tile.fetches(box, context) for tile, box, context in tiles), default=0)
    for drawn, (_, box, context) in zip(for_each(_draw, tiles, longest), tiles, strict=True):
        yield _for_readers(drawn, box, context) if context.for_readers else drawn


def _draw(one: tuple[AnyTile, Box, Context]) -> Drawn:
    tile, box, context = one
    return tile.draws(box, context)


def _for_readers(drawn: Drawn, box: Box, context: Context) -> Drawn:
    """Return a drawing as readers may see it: reasons that speak of tables, columns and settings are its authors'."""
    answer = drawn.answer
    # That no row fits, or that groups are too small to be shown, readers must know.
    is_told = answer is not None and (not answer.height or bool(answer.hides))
    if drawn.is_told or (not drawn.problem and (is_told or not drawn.scene.refusal)):
        return drawn
    return Drawn(message_scene(UPDATED, box, context.style, UPDATED), None, UPDATED)
