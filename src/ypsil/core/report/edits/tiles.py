"""Edits of tiles: what they say, ask and look like."""

from __future__ import annotations

from itertools import pairwise
from typing import Any, Literal

from pydantic import Field

from ypsil.core.drawing.icons import icons
from ypsil.core.errors import EditRefused
from ypsil.core.prose.model import Text
from ypsil.core.report.document import Band, ReportBody, walk
from ypsil.core.report.edits.base import (
    Edit,
    band_in,
    band_of,
    changed_tile,
    check_new,
    check_place,
    copied,
    no_tile,
    with_band,
    with_tile,
    with_tiles,
    without_loose,
)
from ypsil.core.report.edits.standing import at_place, box_of, chosen, in_reading_order, with_connectors, without
from ypsil.core.report.grid import next_free_place, place_of, usual_size
from ypsil.core.tiles import AnyTile, Tile, VisualTile, as_text, as_visual
from ypsil.core.tiles.connector import ConnectorTile

_MOST_SAID = 60


class AddTile(Edit):
    """Put a tile into a band, at its place or, where it has none, at the next free one."""

    type: Literal["add_tile"] = "add_tile"
    band: str
    tile: Tile
    index: int | None = Field(None, ge=0, description="place in the reading order; left out: the last")

    def apply(self, report: ReportBody) -> ReportBody:
        check_new([one.id for one in walk((self.tile,))], report)
        band = band_in(report, self.band)
        index = len(band.tiles) if self.index is None else self.index
        tile = self._placed(band, report)
        return with_band(report, with_tiles(band, (*band.tiles[:index], tile, *band.tiles[index:])))

    def _placed(self, band: Band, report: ReportBody) -> AnyTile:
        if self.tile.place is not None:
            check_place(self.tile, report)
            return self.tile
        size = usual_size(self.tile, report.page)
        return self.tile.model_copy(update={"place": next_free_place(band.tiles, *size, report.page)})


class PutInstead(Edit):
    """Put a tile in the place of another, on its card and where that was read."""

    type: Literal["put_instead"] = "put_instead"
    instead: str
    tile: Tile

    def apply(self, report: ReportBody) -> ReportBody:
        check_new([one.id for one in walk((self.tile,))], report)
        before = report.tile(self.instead)
        if before is None:
            raise no_tile()
        put = self.tile.model_copy(update={"place": before.place, "card": before.card})
        return with_tile(report, self.instead, lambda tile: put)


class SwapVisual(Edit):
    """Show another visual in the place of one. Where a text says its finding, it says the new one; where there is none
    to say, the new title."""

    type: Literal["swap_visual"] = "swap_visual"
    tile: str
    by: VisualTile
    says: Text = ""

    def apply(self, report: ReportBody) -> ReportBody:
        before = as_visual(report.tile(self.tile))
        if before is None:
            raise no_tile()
        put = self.by.model_copy(update={**before.kept(), "id": before.id, "why": self.by.why})
        report = with_tile(report, self.tile, lambda tile: put)
        for tile in report.tiles():
            said = as_text(tile)
            if said is not None and said.says_of == self.tile:
                report = ChangeTile(tile=said.id, changes={"text": self.says or put.label()}).apply(report)
        return report


class FillTile(Edit):
    """Put a picture into a tile: in place of the picture that it shows, into its digits, or into the letters of a short
    text, which then is a picture."""

    type: Literal["fill_tile"] = "fill_tile"
    tile: str
    picture: str = Field(max_length=100, pattern=r"^picture:[0-9a-f]{64}$")
    aspect: float = Field(1.5, gt=0.01, lt=100)

    def apply(self, report: ReportBody) -> ReportBody:
        before = report.tile(self.tile)
        if before is None:
            raise no_tile()
        if not before.takes_picture():
            raise EditRefused("a picture does not go into this", remedy="put it beside")
        return _replaced(report, before, before.filled(self.picture, self.aspect))


class EmptyTile(Edit):
    """Take a picture out of letters again: they are a text."""

    type: Literal["empty_tile"] = "empty_tile"
    tile: str

    def apply(self, report: ReportBody) -> ReportBody:
        before = report.tile(self.tile)
        if before is None:
            raise no_tile()
        put = before.emptied()
        if put is None:
            raise EditRefused("no letters of this are filled with a picture", remedy="choose letters that are")
        return _replaced(report, before, put)


def _replaced(report: ReportBody, before: AnyTile, put: AnyTile) -> ReportBody:
    """Return a report with a tile in the place of another; what led to that leads to it."""
    report = with_tile(report, before.id, lambda tile: put)
    if put.id == before.id:
        return report
    for line in [tile for tile in report.tiles() if before.id in tile.joins()]:
        report = with_tile(report, line.id, lambda tile: tile.joining({before.id: put.id}))
    return report


class RemoveTile(Edit):
    """Take a tile away."""

    type: Literal["remove_tile"] = "remove_tile"
    tile: str

    def apply(self, report: ReportBody) -> ReportBody:
        return RemoveTiles(tiles=(self.tile,)).apply(report)


class ChangeTile(Edit):
    """Change what a tile says, asks or looks like: ``changes`` holds the new values of its fields."""

    type: Literal["change_tile"] = "change_tile"
    tile: str
    changes: dict[str, Any] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        return with_tile(report, self.tile, lambda tile: self._changed(tile, report))

    def _changed(self, tile: AnyTile, report: ReportBody) -> AnyTile:
        fixed = {"id", "type", "tiles"} & set(self.changes)
        if fixed:
            raise EditRefused(f"a tile's {min(fixed)} cannot be changed", remedy="add another tile instead")
        changed = changed_tile(tile, self.changes)
        if "place" in self.changes:
            check_place(changed, report)
        return changed


class ChangeTiles(Edit):
    """Change the same of several tiles at once: their card, whether they are locked."""

    type: Literal["change_tiles"] = "change_tiles"
    tiles: tuple[str, ...] = Field(min_length=1, max_length=500)
    changes: dict[str, Any] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        for tile in self.tiles:
            report = ChangeTile(tile=tile, changes=self.changes).apply(report)
        return report


class ChangeCards(Edit):
    """Change something of the cards behind tiles; one that has none gets one. What is null is as in the whole
    report."""

    type: Literal["change_cards"] = "change_cards"
    tiles: tuple[str, ...] = Field(min_length=1, max_length=500)
    changes: dict[str, Any] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        icon = self.changes.get("icon")
        if isinstance(icon, str) and icon and icon not in icons():
            raise EditRefused(f"there is no icon “{icon[:_MOST_SAID]}”", where="icon", remedy="choose another")
        for tile in self.tiles:
            report = with_tile(report, tile, self._changed)
        return report

    def _changed(self, tile: AnyTile) -> AnyTile:
        card = {} if tile.card is None else tile.card.model_dump()
        return changed_tile(tile, {"card": card | self.changes})


class RemoveTiles(Edit):
    """Take tiles away."""

    type: Literal["remove_tiles"] = "remove_tiles"
    tiles: tuple[str, ...] = Field(min_length=1, max_length=500)

    def apply(self, report: ReportBody) -> ReportBody:
        return without_loose(without(report, {one.tile.id for one in chosen(report, self.tiles)}), report)


class ConnectTiles(Edit):
    """Lead a line from each of some tiles to the next, in the order they are named."""

    type: Literal["connect_tiles"] = "connect_tiles"
    tiles: tuple[str, ...] = Field(min_length=2, max_length=30)

    def apply(self, report: ReportBody) -> ReportBody:
        for tile in self.tiles:
            found = report.tile(tile)
            if found is None:
                raise no_tile()
            if found.joins():
                raise EditRefused("a connector connects no connectors", remedy="choose what stands on the page")
        there = {tile.joins() for tile in report.tiles() if tile.joins()}
        new = [(one, other) for one, other in pairwise(self.tiles) if one != other and (one, other) not in there]
        if not new:
            raise EditRefused("these are connected already", remedy="choose others")
        for one, other in new:
            band = band_of(report, one)
            made = ConnectorTile(from_tile=one, to_tile=other)
            report = with_band(report, with_tiles(band, (*band.tiles, made)))
        return report


class PasteTiles(Edit):
    """Put copies of tiles into a band as they stand to each other, at the next place that is free for all of them."""

    type: Literal["paste_tiles"] = "paste_tiles"
    band: str
    tiles: tuple[Tile, ...] = Field(min_length=1, max_length=200)

    def apply(self, report: ReportBody) -> ReportBody:
        band, columns = band_in(report, self.band), report.page.columns
        tiles = copied(self.tiles, {tile.id for tile in report.everything()})
        lines = [tile for tile in tiles if tile.joins()]
        tiles = tuple(tile for tile in tiles if not tile.joins())
        if not tiles:
            raise EditRefused("a line is copied together with what it connects", remedy="choose that too")
        frames = [place_of(tile, report.page) for tile in tiles]
        box = box_of(frames)
        free = next_free_place(band.tiles, min(box.width, columns), box.height, report.page)
        put = []
        for tile, frame in zip(tiles, frames, strict=True):
            width = min(frame.width, columns)
            column = min(free.column + frame.column - box.column, columns - width)
            row = free.row + frame.row - box.row
            place = frame.model_copy(update={"column": column, "row": row, "width": width})
            put.append(at_place(tile, place, report.page))
        placed = in_reading_order(band.tiles, put, report.page)
        return with_band(report, with_tiles(band, (*placed, *lines)))


class DuplicateTiles(Edit):
    """Put copies of tiles at the next free place of the band that they stand in."""

    type: Literal["duplicate_tiles"] = "duplicate_tiles"
    tiles: tuple[str, ...] = Field(min_length=1, max_length=200)

    def apply(self, report: ReportBody) -> ReportBody:
        found = with_connectors(report, chosen(report, self.tiles, but_locked=False))
        home = {one.tile.id: one.band for one in found}
        for band in dict.fromkeys(one.band for one in found):
            tiles = tuple(
                one.tile.model_copy(update={"place": one.place, "is_locked": False})
                for one in found
                if home.get(next(iter(one.tile.joins()), ""), one.band) == band
            )
            report = PasteTiles(band=band, tiles=tiles).apply(report)
        return report


class SetOptions(Edit):
    """Set some options of a tile's visual and leave the others as they are; ``unset`` gives up those that were set."""

    type: Literal["set_options"] = "set_options"
    tile: str
    options: dict[str, Any] = Field(default_factory=dict)
    unset: tuple[str, ...] = ()

    def apply(self, report: ReportBody) -> ReportBody:
        kept = {name: value for name, value in self._present(report).items() if name not in self.unset}
        return ChangeTile(tile=self.tile, changes={"options": kept | self.options}).apply(report)

    def _present(self, report: ReportBody) -> dict[str, Any]:
        tile = as_visual(report.tile(self.tile))
        if tile is None:
            raise no_tile()
        return tile.options


class ChangeLooks(Edit):
    """Give several tiles other options at once: ``options`` holds the new ones of each tile."""

    type: Literal["change_looks"] = "change_looks"
    options: dict[str, dict[str, Any]] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        for tile, options in self.options.items():
            report = ChangeTile(tile=tile, changes={"options": options}).apply(report)
        return report
