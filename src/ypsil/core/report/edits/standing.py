"""Tiles that were chosen, where they stand, and a report with them elsewhere."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.errors import EditRefused
from ypsil.core.report.document import ReportBody, walk
from ypsil.core.report.edits.base import band_in, no_tile, with_band, with_tile, with_tiles
from ypsil.core.report.grid import place_of
from ypsil.core.report.items import as_shown
from ypsil.core.tiles import AnyTile


@dataclass(frozen=True, slots=True)
class Chosen:
    """A tile, the band that it stands in, the group if any, and its frame by the band's origin."""

    tile: AnyTile
    band: str
    group: str
    place: Frame


def chosen(report: ReportBody, ids: Sequence[str], *, but_locked: bool = True) -> list[Chosen]:
    """Return tiles in the order they were chosen; what stands in a group that is chosen too goes with it.

    Raises EditRefused where one is gone, or locked.
    """
    wanted = dict.fromkeys(ids)
    found = {one.tile.id: one for one in _standing(report, set(wanted))}
    inner = {below.id for one in found.values() for below in walk(one.tile.below())}
    missing = [one for one in wanted if one not in found and one not in inner]
    if missing:
        raise no_tile()
    locked = next((one.tile for one in found.values() if but_locked and one.tile.is_locked), None)
    if locked is not None:
        raise EditRefused(f"“{locked.label()}” is locked", remedy="unlock it first")
    return [found[one] for one in wanted if one in found]


def moving(report: ReportBody, ids: Sequence[str]) -> list[Chosen]:
    """Return those of some tiles that have a place of their own; raises EditRefused where none has."""
    found = [one for one in chosen(report, ids) if not one.tile.joins()]
    if not found:
        raise EditRefused("a connector follows what it connects", remedy="move that")
    return found


def with_connectors(report: ReportBody, found: Sequence[Chosen]) -> list[Chosen]:
    """Return what was chosen with the connectors that lead from one of it to another."""
    ids = {tile.id for one in found for tile in walk([one.tile])}
    lines = [tile.id for tile in report.tiles() if tile.joins() and tile.id not in ids and ids >= {*tile.joins()}]
    return [*found, *chosen(report, lines, but_locked=False)]


def _standing(report: ReportBody, ids: set[str]) -> Iterator[Chosen]:
    """Yield those of some tiles that stand in none of them."""
    for band in report.bands:
        yield from _in(band.tiles, ids, band.id, "", Frame(column=0, row=0, width=1, height=1), report.page)


def _in(
    tiles: Sequence[Any], ids: set[str], band: str, group: str, origin: Frame, page: PageFormat
) -> Iterator[Chosen]:
    for tile in tiles:
        place = out_of(place_of(tile, page), origin)
        if tile.id in ids:
            yield Chosen(tile, band, group, place)
        else:
            yield from _in(tile.below(), ids, band, tile.id, place, page)


def with_places(report: ReportBody, some: Sequence[Chosen], change: Callable[[list[Frame]], list[Frame]]) -> ReportBody:
    """Return a report with tiles at other places, read in that order; those of one band, or of one group, are changed
    together, by its origin. They are moved from where they are seen, and so are those beside them."""
    holders: dict[tuple[str, str], list[str]] = {}
    for one in some:
        holders.setdefault((one.band, one.group), []).append(one.tile.id)
    for (band_id, group), ids in holders.items():
        placed = partial(_placed, ids=ids, change=change, page=report.page)
        if group:
            report = with_tile(report, group, partial(_with_inner, placed=placed, page=report.page))
        else:
            band = as_shown(report, band_in(report, band_id), report.page)
            report = with_band(report, with_tiles(band, placed(band.tiles)))
    return report


def _with_inner(group: AnyTile, placed: Callable[[Sequence[Any]], tuple[AnyTile, ...]], page: PageFormat) -> AnyTile:
    return fitted(group.with_below(placed(group.below())), page)


def _placed(
    tiles: Sequence[Any], ids: Sequence[str], change: Callable[[list[Frame]], list[Frame]], page: PageFormat
) -> tuple[AnyTile, ...]:
    known = {tile.id: tile for tile in tiles}
    frames = change([place_of(known[one], page) for one in ids])
    moved = [at_place(known[one], frame, page) for one, frame in zip(ids, frames, strict=True)]
    return in_reading_order([tile for tile in tiles if tile.id not in ids], moved, page)


def without(report: ReportBody, ids: set[str]) -> ReportBody:
    """Return a report without some tiles; a group that is left empty goes too, another becomes as small as it can."""

    def kept(tiles: Sequence[Any]) -> tuple[AnyTile, ...]:
        found: list[AnyTile] = []
        for tile in tiles:
            if tile.id in ids:
                continue
            below = kept(tile.below())
            if len(below) == len(tile.below()):
                found.append(tile)
            elif below:
                found.append(fitted(tile.with_below(below), report.page))
        return tuple(found)

    for band in report.bands:
        if ids & {tile.id for tile in walk(band.tiles)}:
            report = with_band(report, with_tiles(band, kept(band.tiles)))
    return report


def in_reading_order(there: Sequence[Any], put: Sequence[AnyTile], page: PageFormat) -> tuple[AnyTile, ...]:
    """Return tiles with others put among them, each after the last that stands before it: above, or as high and to the
    left. The order of those that stood there stays as it was. Connectors, which have no place, come last."""
    tiles: list[AnyTile] = list(there)
    for tile in sorted((one for one in put if not one.joins()), key=lambda one: _corner(one, page)):
        corner = _corner(tile, page)
        before = [at for at, other in enumerate(tiles) if not other.joins() and _corner(other, page) <= corner]
        tiles.insert(before[-1] + 1 if before else 0, tile)
    return (*tiles, *(one for one in put if one.joins()))


def _corner(tile: AnyTile, page: PageFormat) -> tuple[int, int]:
    place = place_of(tile, page)
    return place.row, place.column


def at_place(tile: AnyTile, frame: Frame, page: PageFormat) -> AnyTile:
    """Return a tile at a place; what stands in it grows or shrinks with it."""
    before = place_of(tile, page)
    moved = tile.model_copy(update={"place": frame})
    if not tile.holds or (before.width, before.height) == (frame.width, frame.height):
        return moved
    wider, higher = frame.width / before.width, frame.height / before.height
    return moved.with_below(tuple(_scaled(one, wider, higher, frame, page) for one in tile.below()))


def _scaled(tile: AnyTile, wider: float, higher: float, room: Frame, page: PageFormat) -> AnyTile:
    place = place_of(tile, page)
    column = min(round(place.column * wider), room.width - 1)
    right = max(column + 1, min(room.width, round((place.column + place.width) * wider)))
    row = min(round(place.row * higher), room.height - 1)
    foot = max(row + 1, min(room.height, round((place.row + place.height) * higher)))
    update = {"column": column, "width": right - column, "row": row, "height": foot - row}
    return at_place(tile, place.model_copy(update=update), page)


def fitted(group: AnyTile, page: PageFormat) -> AnyTile:
    """Return a group that is as large as what stands in it."""
    place = place_of(group, page)
    inner = [place_of(one, page) for one in group.below()]
    box = box_of(inner)
    tiles = tuple(
        one.model_copy(update={"place": within(at, box)}) for one, at in zip(group.below(), inner, strict=True)
    )
    width = min(box.width, page.columns)
    column = max(0, min(place.column + box.column, page.columns - width))
    frame = {"column": column, "row": place.row + box.row, "width": width, "height": box.height}
    return group.with_below(tiles).model_copy(update={"place": place.model_copy(update=frame)})


def box_of(frames: Sequence[Frame]) -> Frame:
    """Return the smallest frame that holds some."""
    column, row = min(one.column for one in frames), min(one.row for one in frames)
    right = max(one.column + one.width for one in frames)
    foot = max(one.row + one.height for one in frames)
    return Frame(column=column, row=row, width=right - column, height=foot - row)


def within(frame: Frame, box: Frame) -> Frame:
    """Return a frame by the origin of a box around it."""
    update = {"column": frame.column - box.column, "row": frame.row - box.row, "layer": frame.layer - box.layer}
    return frame.model_copy(update=update)


def out_of(frame: Frame, box: Frame) -> Frame:
    """Return a frame by the origin that a box around it stands by."""
    update = {
        "column": frame.column + box.column,
        "row": frame.row + box.row,
        "layer": max(-50, min(50, frame.layer + box.layer)),
        "dx": frame.dx + box.dx,
        "dy": frame.dy + box.dy,
    }
    return frame.model_copy(update=update)
