"""What every edit is, and how a report is made anew with something changed."""

from __future__ import annotations

from collections.abc import Callable, Container, Sequence
from typing import Any

from pydantic import BaseModel, ConfigDict, ValidationError

from ypsil.core.document.model import new_id
from ypsil.core.errors import DrawingRefused, EditRefused
from ypsil.core.report.document import MAX_BANDS, MAX_TILES_IN_BAND, Band, ReportBody, beyond_the_page, walk
from ypsil.core.tiles import AnyTile


class Edit(BaseModel):
    """Something that can be done to a report. Every class of this room that is one can be sent."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    type: str

    def apply(self, report: ReportBody) -> ReportBody:
        """Return the report after it. Raises EditRefused where it does not fit."""
        raise NotImplementedError


def check_new(ids: Sequence[str], report: ReportBody) -> None:
    """Refuse what would stand on the page twice under one id, whatever it is."""
    there = {band.id for band in report.bands} | {tile.id for tile in report.everything()}
    if len(set(ids)) < len(ids) or there & set(ids):
        raise EditRefused("something of this is on the page already", remedy="load the page again")


def with_new_ids(tile: AnyTile) -> AnyTile:
    copy = tile.model_copy(update={"id": new_id()})
    below = tuple(with_new_ids(one) for one in tile.below())
    return copy.with_below(below) if below else copy


def copied(tiles: Sequence[AnyTile], there: Container[str]) -> tuple[AnyTile, ...]:
    """Return tiles under new ids. A connector is copied with at least one of what it connects: it then leads from copy
    to copy, or to what stands ``there``."""
    made = [with_new_ids(tile) for tile in tiles]
    pairs = zip(walk(tiles), walk(made), strict=True)
    names = {one.id: other.id for one, other in pairs if not one.joins()}
    found: list[AnyTile] = []
    for tile in made:
        ends = tile.joins()
        if not ends or (any(end in names for end in ends) and all(end in names or end in there for end in ends)):
            found.append(tile.joining(names))
    return tuple(found)


def without_loose(report: ReportBody, before: ReportBody) -> ReportBody:
    """Return a report without the connectors whose ends were taken away."""
    gone = {tile.id for tile in before.everything()} - {tile.id for tile in report.everything()}
    if not gone:
        return report
    bands = tuple(
        band.model_copy(update={"tiles": kept})
        if len(kept := tuple(tile for tile in band.tiles if not gone & {*tile.joins()})) < len(band.tiles)
        else band
        for band in report.bands
    )
    return report.model_copy(update={"bands": bands})


def changed_tile(tile: AnyTile, changes: dict[str, Any]) -> AnyTile:
    try:
        changed = type(tile).model_validate(tile.model_dump() | tile.changing(changes))
        if {"visual", "options"} & set(changes):
            changed.check()
    except ValidationError as problem:
        raise refusal(problem) from None
    except DrawingRefused as problem:
        raise EditRefused(problem.what, remedy=problem.remedy) from None
    return changed


def refusal(problem: ValidationError) -> EditRefused:
    first = problem.errors()[0]
    place = ".".join(str(part) for part in first["loc"])
    return EditRefused(str(first["msg"]).removeprefix("Value error, "), where=place, remedy="change that value")


def no_tile() -> EditRefused:
    return EditRefused("the tile is no longer there", remedy="load the page again")


def band_in(report: ReportBody, band_id: str) -> Band:
    band = report.band(band_id)
    if band is None:
        raise EditRefused("the band is no longer there", remedy="load the page again")
    return band


def band_of(report: ReportBody, tile_id: str) -> Band:
    for band in report.bands:
        if any(tile.id == tile_id for tile in walk(band.tiles)):
            return band
    raise no_tile()


def check_place(tile: AnyTile, report: ReportBody) -> None:
    reason = beyond_the_page(tile, report.page)
    if reason:
        raise EditRefused(reason, where="place", remedy="choose another place")


def with_tile(report: ReportBody, tile_id: str, change: Callable[[AnyTile], AnyTile | None]) -> ReportBody:
    """Return a report with a tile changed, or taken away where the change is None, in a group or not."""
    band = band_of(report, tile_id)
    return with_band(report, with_tiles(band, _tiles_with(band.tiles, tile_id, change)))


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


def with_bands(report: ReportBody, bands: tuple[Band, ...]) -> ReportBody:
    if len(bands) > max(MAX_BANDS, len(report.bands)):
        raise EditRefused(f"a report has at most {MAX_BANDS} bands", remedy="begin another report")
    return report.model_copy(update={"bands": bands})


def with_band(report: ReportBody, changed: Band) -> ReportBody:
    return with_bands(report, tuple(changed if band.id == changed.id else band for band in report.bands))


def with_tiles(band: Band, tiles: tuple[AnyTile, ...]) -> Band:
    if len(tiles) > max(MAX_TILES_IN_BAND, len(band.tiles)):
        raise EditRefused(f"a band holds at most {MAX_TILES_IN_BAND} tiles", remedy="put some into another band")
    return band.model_copy(update={"tiles": tiles})
