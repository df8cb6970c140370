"""What an edit changed on the page: the markup of tiles that somebody does not have yet, and the order of all."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.template.loader import render_to_string

from ypsil.core.render import Page, heading_levels
from ypsil.web.compose.render import band_label, ground_markup, page_starts, tile_digest, tile_markup


def page_patch(page: Page, known: Mapping[str, Any], held: str) -> dict[str, Any]:
    """Return the bands of a page with their tiles in order; ``known`` are the digests of the tiles that are shown
    already, which come without their markup. ``held`` says what waits for the author."""
    levels, starts = heading_levels(page), page_starts(page)
    bands = []
    for number, view in enumerate(page.bands, 1):
        label = band_label(number, view.band)
        tiles = []
        for one in view.tiles:
            level = levels.get(one.tile.id, 0)
            tile = {"id": one.tile.id, "digest": tile_digest(one, level)}
            if known.get(one.tile.id) != tile["digest"]:
                tile["markup"] = render_to_string("compose/_tile.html", {"tile": tile_markup(one, level)})
            tiles.append(tile)
        empty = render_to_string("compose/_band.html", {"band": {"id": view.band.id, "label": label}, "tiles": []})
        ground = ground_markup(view)
        shown = {"id": view.band.id, "label": label, "tiles": tiles, "empty": empty}
        bands.append(shown | {"ground": ground, "head": view.place.head, "page": starts.get(view.band.id, "")})
    return {"held": held, "bands": bands}
