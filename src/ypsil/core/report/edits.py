"""Edits: what somebody can do to a report, one class each, pure. What they change of the document is found by
``document.differences``."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from ypsil.core.document.model import new_id
from ypsil.core.errors import DrawingRefused, EditRefused
from ypsil.core.registry import one_of
from ypsil.core.report.document import Band, ReportBody, beyond_the_page, walk
from ypsil.core.report.grid import next_free_place, place_of, usual_size
from ypsil.core.tiles import AnyTile, Tile, as_visual


class Edit(BaseModel):
    """Something that can be done to a report. Every class of this file that is one can be sent."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    type: str

    def apply(self, report: ReportBody) -> ReportBody:
        """Return the report after it. Raises EditRefused where it does not fit."""
        raise NotImplementedError


class Rename(Edit):
    """Give the report another title."""

    type: Literal["rename"] = "rename"
    title: str = Field(min_length=1, max_length=200)

    def apply(self, report: ReportBody) -> ReportBody:
        return report.model_copy(update={"title": self.title})


class ChangeReport(Edit):
    """Change what holds for the whole report: its language, how numbers are written, its page, its filters."""

    type: Literal["change_report"] = "change_report"
    changes: dict[Literal["language", "locale", "page", "filters"], Any] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        try:
            checked = ReportBody.model_validate({"title": report.title, **self.changes})
        except ValidationError as problem:
            raise _refusal(problem) from None
        return report.model_copy(update={name: getattr(checked, name) for name in self.changes})


class AddBand(Edit):
    """Put a band, with what stands in it, at ``index`` (counted from 0; left out: at the foot)."""

    type: Literal["add_band"] = "add_band"
    band: Band
    index: int | None = Field(None, ge=0)

    def apply(self, report: ReportBody) -> ReportBody:
        _check_new([self.band.id, *(one.id for one in walk(self.band.tiles))], report)
        index = len(report.bands) if self.index is None else self.index
        return _with_bands(report, (*report.bands[:index], self.band, *report.bands[index:]))


class RemoveBand(Edit):
    """Take a band away, with its tiles."""

    type: Literal["remove_band"] = "remove_band"
    band: str

    def apply(self, report: ReportBody) -> ReportBody:
        _band(report, self.band)
        return _with_bands(report, tuple(band for band in report.bands if band.id != self.band))


class SetMessage(Edit):
    """Say what a band says."""

    type: Literal["set_message"] = "set_message"
    band: str
    message: str = Field(max_length=500)

    def apply(self, report: ReportBody) -> ReportBody:
        return _with_band(report, _band(report, self.band).model_copy(update={"message": self.message}))


class AddTile(Edit):
    """Put a tile into a band, at its place or, where it has none, at the next free one."""

    type: Literal["add_tile"] = "add_tile"
    band: str
    tile: Tile
    index: int | None = Field(None, ge=0, description="place in the reading order; left out: the last")

    def apply(self, report: ReportBody) -> ReportBody:
        _check_new([one.id for one in walk((self.tile,))], report)
        band = _band(report, self.band)
        index = len(band.tiles) if self.index is None else self.index
        tile = self._placed(band, report)
        return _with_band(report, _with_tiles(band, (*band.tiles[:index], tile, *band.tiles[index:])))

    def _placed(self, band: Band, report: ReportBody) -> AnyTile:
        if self.tile.place is not None:
            _check_place(self.tile, report)
            return self.tile
        size = usual_size(self.tile, report.page)
        return self.tile.model_copy(update={"place": next_free_place(band.tiles, *size, report.page)})


class RemoveTile(Edit):
    """Take a tile away."""

    type: Literal["remove_tile"] = "remove_tile"
    tile: str

    def apply(self, report: ReportBody) -> ReportBody:
        return _with_tile(report, self.tile, lambda tile: None)


class ChangeTile(Edit):
    """Change what a tile says, asks or looks like: ``changes`` holds the new values of its fields."""

    type: Literal["change_tile"] = "change_tile"
    tile: str
    changes: dict[str, Any] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        return _with_tile(report, self.tile, lambda tile: self._changed(tile, report))

    def _changed(self, tile: AnyTile, report: ReportBody) -> AnyTile:
        fixed = {"id", "type", "tiles"} & set(self.changes)
        if fixed:
            raise EditRefused(f"a tile's {min(fixed)} cannot be changed", remedy="add another tile instead")
        changed = _changed(tile, self.changes)
        if "place" in self.changes:
            _check_place(changed, report)
        return changed


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
            raise _no_tile()
        return tile.options


class ChangeLooks(Edit):
    """Give several tiles other options at once: ``options`` holds the new ones of each tile."""

    type: Literal["change_looks"] = "change_looks"
    options: dict[str, dict[str, Any]] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        for tile, options in self.options.items():
            report = ChangeTile(tile=tile, changes={"options": options}).apply(report)
        return report


_ADAPTER: TypeAdapter[Edit] = TypeAdapter(one_of(Edit.__subclasses__()))


def parse_edit(data: Any) -> Edit:
    """Turn JSON data into an edit; raises EditRefused naming what does not fit."""
    try:
        return _ADAPTER.validate_python(data)
    except ValidationError as problem:
        raise _refusal(problem) from None


def edit_schema() -> dict[str, Any]:
    """Return the JSON Schema of edits."""
    return _ADAPTER.json_schema()


def _check_new(ids: Sequence[str], report: ReportBody) -> None:
    """Refuse what would stand on the page twice under one id, whatever it is."""
    there = {band.id for band in report.bands} | {tile.id for tile in report.everything()}
    if len(set(ids)) < len(ids) or there & set(ids):
        raise EditRefused("something of this is on the page already", remedy="load the page again")


def duplicate(report: ReportBody, tile_id: str) -> AddTile:
    """Return the edit that puts a copy of a tile, with its look and its size, at the next free place of its band.

    Raises EditRefused where the tile is gone.
    """
    band = _band_of(report, tile_id)
    tile = next(tile for tile in walk(band.tiles) if tile.id == tile_id)
    place = place_of(tile, report.page)
    free = next_free_place(band.tiles, place.width, place.height, report.page)
    return AddTile(band=band.id, tile=_with_new_ids(tile).model_copy(update={"place": free}))


def _with_new_ids(tile: AnyTile) -> AnyTile:
    copy = tile.model_copy(update={"id": new_id()})
    below = tuple(_with_new_ids(one) for one in tile.below())
    return copy.with_below(below) if below else copy


def _changed(tile: AnyTile, changes: dict[str, Any]) -> AnyTile:
    try:
        changed = type(tile).model_validate(tile.model_dump() | changes)
        if {"visual", "options"} & set(changes):
            changed.check()
    except ValidationError as problem:
        raise _refusal(problem) from None
    except DrawingRefused as problem:
        raise EditRefused(problem.what, remedy=problem.remedy) from None
    return changed


def _refusal(problem: ValidationError) -> EditRefused:
    first = problem.errors()[0]
    place = ".".join(str(part) for part in first["loc"])
    return EditRefused(str(first["msg"]).removeprefix("Value error, "), where=place, remedy="change that value")


def _no_tile() -> EditRefused:
    return EditRefused("the tile is no longer there", remedy="load the page again")


def _band(report: ReportBody, band_id: str) -> Band:
    band = report.band(band_id)
    if band is None:
        raise EditRefused("the band is no longer there", remedy="load the page again")
    return band


def _band_of(report: ReportBody, tile_id: str) -> Band:
    for band in report.bands:
        if any(tile.id == tile_id for tile in walk(band.tiles)):
            return band
    raise _no_tile()


def _check_place(tile: AnyTile, report: ReportBody) -> None:
    reason = beyond_the_page(tile, report.page)
    if reason:
        raise EditRefused(reason, where="place", remedy="choose another place")


def _with_tile(report: ReportBody, tile_id: str, change: Callable[[AnyTile], AnyTile | None]) -> ReportBody:
    """Return a report with a tile changed, or taken away where the change is None, in a group or not."""
    band = _band_of(report, tile_id)
    return _with_band(report, _with_tiles(band, _tiles_with(band.tiles, tile_id, change)))


def _tiles_with(
    tiles: tuple[Any, ...], tile_id: str, change: Callable[[AnyTile], AnyTile | None]
) -> tuple[AnyTile, ...]:
    found: list[AnyTile] = []
    for tile in tiles:
        if tile.id == tile_id:
            changed = change(tile)
            found += [] if changed is None else [changed]
        elif tile.holds:
            found.append(tile.with_below(_tiles_with(tile.below(), tile_id, change)))
        else:
            found.append(tile)
    return tuple(found)


def _with_bands(report: ReportBody, bands: tuple[Band, ...]) -> ReportBody:
    return report.model_copy(update={"bands": bands})


def _with_band(report: ReportBody, changed: Band) -> ReportBody:
    return _with_bands(report, tuple(changed if band.id == changed.id else band for band in report.bands))


def _with_tiles(band: Band, tiles: tuple[AnyTile, ...]) -> Band:
    return band.model_copy(update={"tiles": tiles})
