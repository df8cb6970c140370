"""The kinds of tiles, one file each: what it holds, its usual size, what it asks, what it says, how it is checked.

Nothing outside this room asks which kind a tile is.
"""

from typing import Annotated

from pydantic import Field

from ypsil.core.tiles.base import GRID_COLUMNS, Asked, Place, TileKind, Written
from ypsil.core.tiles.later import LaterTile
from ypsil.core.tiles.sources import SourcesTile
from ypsil.core.tiles.text import TextTile
from ypsil.core.tiles.visual import VisualTile

Tile = Annotated[TextTile | VisualTile | SourcesTile, Field(discriminator="type")]
AnyTile = TextTile | VisualTile | SourcesTile | LaterTile


KINDS = frozenset({"text", "visual", "sources"})


def as_visual(tile: AnyTile | None) -> VisualTile | None:
    """Return a tile that shows an answer as what it is, None for any other."""
    return tile if isinstance(tile, VisualTile) else None


__all__ = [
    "GRID_COLUMNS",
    "KINDS",
    "AnyTile",
    "Asked",
    "LaterTile",
    "Place",
    "SourcesTile",
    "TextTile",
    "Tile",
    "TileKind",
    "VisualTile",
    "Written",
    "as_visual",
]
