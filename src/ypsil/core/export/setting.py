"""A page set on sheets: grounds, tiles in reading order, and where these lead."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ypsil.core.errors import YpsilError
from ypsil.core.export.sheets import Piece, Sheet
from ypsil.core.export.typesetting import TypstPage
from ypsil.core.render import Page, TileView, heading_levels
from ypsil.core.tiles.leading import band_of

# Nearer to an edge than this, a ground reaches it.
_AT_EDGE_PX = 0.5


def refuse_empty(page: Page) -> None:
    """Raise YpsilError for a page without anything in it."""
    if not page.tiles():
        raise YpsilError("the report is empty", where=page.report.title, remedy="add something to it first")


def set_sheets(page: Page, sheets: Sequence[Sheet], *, around: float = 0.0, bleed: float = 0.0) -> TypstPage:
    """Return the sheets with what stands on them, each with so many px ``around`` it; grounds that reach an edge go
    ``bleed`` px beyond. Tiles that are laid over others come last. Raises YpsilError for an empty page."""
    refuse_empty(page)
    first, style = sheets[0], page.report.style
    made = TypstPage(
        first.width + 2 * around, first.height + 2 * around, page.report.title, page.report.language, style.paper
    )
    setting = _Setting(page, sheets, made, bleed)
    for number, sheet in enumerate(sheets):
        if number:
            made.turn(sheet.height + 2 * around)
        with made.scaled(around, around, 1.0):
            setting.fill(sheet)
    return made


@dataclass(slots=True)
class _Setting:
    """A page that is being set on sheets."""

    page: Page
    sheets: Sequence[Sheet]
    made: TypstPage
    bleed: float

    def fill(self, sheet: Sheet) -> None:
        for piece in sheet.pieces:
            self._ground(piece, sheet)
        within = {
            view.tile.id: piece for piece in sheet.pieces for view in piece.band.tiles if piece.holds(view, self.page)
        }
        levels = heading_levels(self.page)
        for view in self.page.painted():
            if view.tile.id in within:
                self._tile(view, within[view.tile.id], levels.get(view.tile.id, 0))

    def _ground(self, piece: Piece, sheet: Sheet) -> None:
        """Set what a part of a band stands on, over the sheet's edges where it reaches them."""
        ground = piece.band.ground
        if ground is None:
            return
        shapes = tuple(shape.moved(ground.x, ground.y - piece.top) for shape in ground.scene.shapes)
        scene = replace(ground.scene, height=piece.foot - piece.top, shapes=shapes)
        out = 0.0 if piece.band.band.is_inset else self.bleed
        left, right = piece.x, piece.x + scene.width * piece.scale
        top, foot = piece.y, piece.y + piece.height
        left -= out if left <= _AT_EDGE_PX else 0.0
        right += out if right >= sheet.width - _AT_EDGE_PX else 0.0
        top -= out if top <= _AT_EDGE_PX else 0.0
        foot += out if foot >= sheet.height - _AT_EDGE_PX else 0.0
        self.made.add_stretched(scene, left, top, right - left, foot - top)

    def _tile(self, view: TileView, piece: Piece, level: int) -> None:
        x, y = view.middle
        with self.made.scaled(piece.x, piece.y, piece.scale):
            with self.made.turned(x, y - piece.top, view.turn):
                _set_tile(self.made, view, piece.top, level)
            self._lead(view, piece.top)

    def _lead(self, view: TileView, top: float) -> None:
        """Let a tile lead to an address, or to where a band or the sources stand in the file."""
        at = (view.x, view.y - top, view.scene.width, view.scene.height)
        goal = band_of(view.tile.leads())
        if view.tile.leads() and not goal:
            self.made.add_link(view.tile.leads(), *at)
        band = next((band.place.y for band in self.page.bands if goal and band.band.id == goal), None)
        if band is not None:
            self.made.add_leap(*self._on_sheet(band), *at)
        sources = self.page.sources()
        if view.tile.points(view.context) and sources is not None and not view.tile.leads():
            high = view.context.font("note").line_height
            below = (view.x, view.y - top + view.scene.height - high, view.scene.width, high)
            self.made.add_leap(*self._on_sheet(sources.y), *below)

    def _on_sheet(self, down: float) -> tuple[int, float]:
        """Return the number of the sheet, from 1, that a height of the page (px) lies on, and how far down there."""
        for number, sheet in enumerate(self.sheets, 1):
            for piece in sheet.pieces:
                if piece.top <= down < piece.foot:
                    return number, piece.y + (down - piece.top) * piece.scale
        return 1, 0.0


def _set_tile(made: TypstPage, view: TileView, top: float, level: int) -> None:
    """Set a tile on a page that begins so many px down."""
    if view.card is not None:
        made.add_ornament(view.card.scene, view.card.x, view.card.y - top, view.opacity)
    if view.header is not None:
        made.add_ornament(view.header.strip(), view.header.x, view.header.y - top, view.opacity)
        made.add_text(view.header.scene, view.header.x, view.header.y - top, 0, view.opacity)
    if view.scene.name:
        made.add_drawing(view.scene, view.x, view.y - top, view.opacity)
    else:
        made.add_text(view.scene, view.x, view.y - top, level, view.opacity)
