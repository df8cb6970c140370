"""What refers to tiles and bands by their names, after those were given others."""

from __future__ import annotations

from collections.abc import Mapping, Sequence, Set

from ypsil.core.document.model import new_id
from ypsil.core.report.document import Band
from ypsil.core.tiles import AnyTile, as_text
from ypsil.core.tiles.leading import band_of


def leading_anew(bands: Sequence[Band], names: Mapping[str, str], but: Set[str] = frozenset()) -> list[Band]:
    """Return bands in which lines join the tiles, presses lead to the bands, and texts tell of the visuals that have
    other names now; all but some tiles, which know their names. What led to a band that is not there leads nowhere."""
    known = {band.id for band in bands}
    return [
        band.model_copy(
            update={
                "tiles": tuple(tile if tile.id in but else _leading_anew(tile, names, known) for tile in band.tiles)
            }
        )
        for band in bands
    ]


def fresh(band: Band) -> Band:
    """Return a band to be put into any report: under ids that nothing has yet, with what refers to them."""
    names = {tile.id: new_id() for tile in band.tiles}
    tiles = tuple(tile.model_copy(update={"id": names[tile.id]}) for tile in band.tiles)
    return leading_anew([band.model_copy(update={"id": new_id(), "tiles": tiles})], names)[0]


def _leading_anew(tile: AnyTile, names: Mapping[str, str], known: Set[str]) -> AnyTile:
    if tile.below():
        return tile.with_below(tuple(_leading_anew(one, names, known) for one in tile.below()))
    tile = tile.joining(names)
    text = as_text(tile)
    if text is not None and text.says_of:
        tile = text.model_copy(update={"says_of": names.get(text.says_of, "")})
    band = band_of(tile.leads_to)
    if not band:
        return tile
    leads_to = names.get(band, band)
    return tile.model_copy(update={"leads_to": f"#{leads_to}" if leads_to in known else ""})
