"""The kinds of tiles, one file each: what it holds, its usual size, what it asks, what it says, how it is checked.

Nothing outside this room asks which kind a tile is.
"""

from typing import Annotated

from pydantic import Field

from ypsil.core.tiles.asked_table import ReportTable
from ypsil.core.tiles.base import Asked, TileKind, Written
from ypsil.core.tiles.context import Context, Drawn, Memory, drawings
from ypsil.core.tiles.group import Group
from ypsil.core.tiles.later import LaterTile
from ypsil.core.tiles.sources import SourcesTile
from ypsil.core.tiles.text import TextTile
from ypsil.core.tiles.visual import VisualTile

Tile = Annotated[TextTile | VisualTile | SourcesTile | Group, Field(discriminator="type")]
AnyTile = TextTile | VisualTile | SourcesTile | Group | LaterTile
Group.model_rebuild(_types_namespace={"Tile": Tile})

KINDS = frozenset({"text", "visual", "sources", "group"})
# Those that other tiles stand in.
HOLDERS = frozenset({"group"})


def as_visual(tile: AnyTile | None) -> VisualTile | None:
    """Return a tile that shows an answer as what it is, None for any other."""
    return tile if isinstance(tile, VisualTile) else None


__all__ = [
    "HOLDERS",
    "KINDS",
    "AnyTile",
    "Asked",
    "Context",
    "Drawn",
    "Group",
    "LaterTile",
    "Memory",
    "ReportTable",
    "SourcesTile",
    "TextTile",
    "Tile",
    "TileKind",
    "VisualTile",
    "Written",
    "as_visual",
    "drawings",
]
