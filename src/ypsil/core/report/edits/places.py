"""Edits of where tiles stand: moved, resized, lined up, tidied, laid over each other, grouped."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import Any, Literal

from pydantic import Field

from ypsil.core.document.grid import settle
from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.errors import EditRefused
from ypsil.core.layout.arrange import Way, arrange, extent_across, extent_down, put_across, put_down
from ypsil.core.layout.tidy import Thing, tidy
from ypsil.core.report.document import MAX_ROWS, Band, ReportBody, walk
from ypsil.core.report.edits.base import Edit, band_in, check_new, with_band, with_tile, with_tiles
from ypsil.core.report.edits.standing import (
    at_place,
    box_of,
    chosen,
    in_reading_order,
    moving,
    out_of,
    with_places,
    within,
    without,
)
from ypsil.core.report.grid import place_of
from ypsil.core.report.items import as_shown, shown_frames, text_rows
from ypsil.core.tiles import AnyTile, Group

Ids = Field(min_length=1, max_length=500)
_FARTHEST = 10_000


class MoveTiles(Edit):
    """Move tiles by columns, rows and px, together as far as the page goes; with ``band``, into that band: rows are
    then counted from where they stood in their own."""

    type: Literal["move_tiles"] = "move_tiles"
    tiles: tuple[str, ...] = Ids
    columns: int = Field(0, ge=-100, le=100)
    rows: int = Field(0, ge=-_FARTHEST, le=_FARTHEST)
    px: tuple[float, float] = (0, 0)
    band: str | None = None

    def apply(self, report: ReportBody) -> ReportBody:
        moved = moving(report, self.tiles)
        if self.band is not None and any(one.band != self.band or one.group for one in moved):
            return self._into(band_in(report, self.band), report)
        return with_places(report, moved, lambda frames: self._moved(frames, report.page))

    def _moved(self, frames: list[Frame], page: PageFormat) -> list[Frame]:
        columns = max(self.columns, -min(one.column for one in frames))
        columns = min(columns, page.columns - max(one.column + one.width for one in frames))
        rows = max(self.rows, -min(one.row for one in frames))
        found = [
            one.model_copy(update={"column": max(0, one.column + columns), "row": min(_FARTHEST, one.row + rows)})
            for one in frames
        ]
        x, y = self.px
        if x:
            found = [put_across(one, extent_across(one, page).start + x, page) for one in found]
        if y:
            found = [put_down(one, extent_down(one, page).start + y, page) for one in found]
        return found

    def _into(self, band: Band, report: ReportBody) -> ReportBody:
        for name in {one.band for one in moving(report, self.tiles)} | {band.id}:
            report = with_band(report, as_shown(report, band_in(report, name), report.page))
        moved = moving(report, self.tiles)
        frames = self._moved([one.place for one in moved], report.page)
        report = without(report, {one.tile.id for one in moved})
        placed = [one.tile.model_copy(update={"place": at}) for one, at in zip(moved, frames, strict=True)]
        there = band_in(report, band.id)
        return with_band(report, with_tiles(there, in_reading_order(there.tiles, placed, report.page)))


class ResizeTiles(Edit):
    """Move edges of tiles by columns and rows; what stands in a group becomes larger with it."""

    type: Literal["resize_tiles"] = "resize_tiles"
    tiles: tuple[str, ...] = Ids
    left: int = Field(0, ge=-100, le=100)
    top: int = Field(0, ge=-MAX_ROWS, le=MAX_ROWS)
    right: int = Field(0, ge=-100, le=100)
    foot: int = Field(0, ge=-MAX_ROWS, le=MAX_ROWS)

    def apply(self, report: ReportBody) -> ReportBody:
        report = with_seen_heights(report, self.tiles)
        found = moving(report, self.tiles)
        return with_places(report, found, lambda frames: [self._resized(one, report.page) for one in frames])

    def _resized(self, frame: Frame, page: PageFormat) -> Frame:
        left = min(max(0, frame.column + self.left), frame.column + frame.width - 1)
        right = min(max(left + 1, frame.column + frame.width + self.right), page.columns)
        top = min(max(0, frame.row + self.top), frame.row + frame.height - 1)
        foot = min(max(top + 1, frame.row + frame.height + self.foot), top + MAX_ROWS)
        return frame.model_copy(update={"column": left, "width": right - left, "row": top, "height": foot - top})


class ArrangeTiles(Edit):
    """Line tiles of one band up, spread them with equal gaps, or make them as large as the first."""

    type: Literal["arrange_tiles"] = "arrange_tiles"
    tiles: tuple[str, ...] = Field(min_length=2, max_length=500)
    way: Way

    def apply(self, report: ReportBody) -> ReportBody:
        report = with_seen_heights(report, self.tiles)
        found = moving(report, self.tiles)
        holders = {(one.band, one.group) for one in found}
        if len(holders) > 1:
            raise EditRefused("these stand in several bands", remedy="line up what stands in one")
        return with_places(report, found, lambda frames: self._arranged(frames, report.page))

    def _arranged(self, frames: list[Frame], page: PageFormat) -> list[Frame]:
        """Return frames lined up; those that would overlap then stand one below the other, in the order they had."""
        order = sorted(range(len(frames)), key=lambda place: (frames[place].row, frames[place].column))
        return settle(
            arrange(frames, self.way, page), page.row_gap, [order.index(place) for place in range(len(frames))]
        )


class TidyBand(Edit):
    """Lay the tiles of a band out anew: gaps alike, widths halves and thirds of each other, tops level."""

    type: Literal["tidy_band"] = "tidy_band"
    band: str

    def apply(self, report: ReportBody) -> ReportBody:
        band = band_in(report, self.band)
        frames = tidy_frames(report, band)
        tiles = [at_place(tile, frames[tile.id], report.page) for tile in band.tiles]
        return with_band(report, with_tiles(band, in_reading_order((), tiles, report.page)))


class TurnTiles(Edit):
    """Turn tiles about their middles, each from how it stands, as the hands of a clock go; what cannot be turned stays
    as it is."""

    type: Literal["turn_tiles"] = "turn_tiles"
    tiles: tuple[str, ...] = Field(min_length=1, max_length=500)
    by: float = Field(ge=-360, le=360, description="degrees")

    def apply(self, report: ReportBody) -> ReportBody:
        found = chosen(report, self.tiles)
        turning = [one.tile for one in found if one.tile.can_turn]
        if not turning:
            raise EditRefused("this cannot be turned", remedy="turn texts, and what has no axes")
        for tile in turning:
            report = with_tile(report, tile.id, self._turned)
        return report

    def _turned(self, tile: AnyTile) -> AnyTile:
        return tile.model_copy(update={"turn": half_turns(tile.turn + self.by)})


def half_turns(degrees: float) -> float:
    """Return the same turn between -180 (left out) and 180 degrees.

    >>> half_turns(190), half_turns(-180), half_turns(359.96)
    (-170.0, 180.0, 0.0)
    """
    turned = round(float(degrees) % 360, 1) % 360
    return turned - 360 if turned > 180 else turned


class SetLayer(Edit):
    """Lay tiles over others, or behind them, or beside them again."""

    type: Literal["set_layer"] = "set_layer"
    tiles: tuple[str, ...] = Ids
    to: Literal["front", "forward", "backward", "back", "beside"]

    def apply(self, report: ReportBody) -> ReportBody:
        found = chosen(report, self.tiles)
        ids, bands = {one.tile.id for one in found}, {one.band for one in found}
        others = [
            place_of(tile, report.page).layer
            for band in bands
            for tile in band_in(report, band).tiles
            if tile.id not in ids
        ]
        return with_places(report, found, lambda frames: [self._laid(one, others) for one in frames])

    def _laid(self, frame: Frame, others: Sequence[int]) -> Frame:
        layer = {
            "front": max([0, *others]) + 1,
            "forward": frame.layer + 1,
            "backward": frame.layer - 1,
            "back": min([0, *others]) - 1,
            "beside": 0,
        }[self.to]
        return frame.model_copy(update={"layer": max(-50, min(50, layer))})


class GroupTiles(Edit):
    """Make tiles of one band a group, which is moved and copied as one."""

    type: Literal["group_tiles"] = "group_tiles"
    tiles: tuple[str, ...] = Field(min_length=2, max_length=60)
    id: str = Field(pattern=r"^[a-z0-9]{1,16}$")

    def apply(self, report: ReportBody) -> ReportBody:
        check_new([self.id], report)
        found = moving(report, self.tiles)
        bands = {one.band for one in found}
        if len(bands) > 1:
            raise EditRefused("these stand in several bands", remedy="group what stands in one")
        band = band_in(report, found[0].band)
        ids = {one.tile.id for one in found}
        # In the order that they are read in.
        inner = sorted(found, key=lambda one: _place_in(band, one.tile.id))
        box = box_of([one.place for one in inner])
        layers = {one.place.layer for one in inner}
        box = box.model_copy(update={"layer": layers.pop() if len(layers) == 1 else 0})
        tiles = tuple(one.tile.model_copy(update={"place": within(one.place, box)}) for one in inner)
        report = without(report, ids)
        band = band_in(report, band.id)
        group = Group(id=self.id, place=box, tiles=tiles)
        return with_band(report, with_tiles(band, in_reading_order(band.tiles, [group], report.page)))


class UngroupTiles(Edit):
    """Let the tiles of a group stand by themselves, where they are."""

    type: Literal["ungroup_tiles"] = "ungroup_tiles"
    tile: str

    def apply(self, report: ReportBody) -> ReportBody:
        found = chosen(report, (self.tile,))[0]
        if not found.tile.holds:
            raise EditRefused("this is no group", remedy="choose a group")
        band = band_in(report, found.band)
        return with_band(report, with_tiles(band, self._freed(band.tiles, report.page)))

    def _freed(self, tiles: Sequence[Any], page: PageFormat) -> tuple[AnyTile, ...]:
        found: list[AnyTile] = []
        for tile in tiles:
            if tile.id == self.tile:
                origin = place_of(tile, page)
                found += [one.model_copy(update={"place": out_of(place_of(one, page), origin)}) for one in tile.below()]
            else:
                found.append(tile.with_below(self._freed(tile.below(), page)) if tile.holds else tile)
        return tuple(found)


def tidy_frames(report: ReportBody, band: Band) -> dict[str, Frame]:
    """Return where the tiles of a band stand when it is tidy, by their ids. What is locked stays where it is, and the
    others make room for it."""
    seen = shown_frames(report, band)
    free = [tile for tile in band.tiles if not tile.is_locked]
    things = [Thing(seen[tile.id], text_rows(tile, report)) for tile in free]
    tidied = dict(zip((tile.id for tile in free), tidy(things, report.page), strict=True))
    frames = [tidied.get(tile.id, seen[tile.id]) for tile in band.tiles]
    settled = settle(frames, report.page.row_gap, [-int(tile.is_locked) for tile in band.tiles])
    return {tile.id: frame for tile, frame in zip(band.tiles, settled, strict=True)}


def with_seen_heights(report: ReportBody, ids: Sequence[str]) -> ReportBody:
    """Return a report whose tiles are as high as they are seen, where text made some higher."""
    for one in chosen(report, ids):
        if one.group:
            continue
        height = shown_frames(report, band_in(report, one.band))[one.tile.id].height
        placed = one.tile.model_copy(update={"place": one.place.model_copy(update={"height": height})})
        report = with_tile(report, one.tile.id, partial(_instead, placed))
    return report


def _instead(tile: AnyTile, before: AnyTile) -> AnyTile:
    return tile


def _place_in(band: Band, tile_id: str) -> int:
    return next(place for place, tile in enumerate(walk(band.tiles)) if tile.id == tile_id)
