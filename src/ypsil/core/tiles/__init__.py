"""The kinds of tiles, one file each: what it holds, its usual size, what it asks, what it says, how it is checked.

Nothing outside this room asks which kind a tile is.
"""

from typing import TYPE_CHECKING

from ypsil.core.registry import classes_in, one_of
from ypsil.core.tiles.addressed import AddressedTile
from ypsil.core.tiles.asked_table import ReportTable
from ypsil.core.tiles.base import AS_SIGN, IN_ORDER, IN_WORDS, TO_PRESS, Asked, Offer, TileKind
from ypsil.core.tiles.context import Context, Drawn, Memory, drawings
from ypsil.core.tiles.filter import FilterTile
from ypsil.core.tiles.group import Group
from ypsil.core.tiles.later import LaterTile
from ypsil.core.tiles.picture import PictureTile
from ypsil.core.tiles.shape import ShapeTile
from ypsil.core.tiles.sources import SourcesTile
from ypsil.core.tiles.spot import SpotTile
from ypsil.core.tiles.text import TextTile
from ypsil.core.tiles.told.base import ToldTile
from ypsil.core.tiles.typed import TypedTile
from ypsil.core.tiles.visual import VisualTile
from ypsil.core.tiles.written import Written

KINDS: dict[str, type[TileKind]] = {
    one.model_fields["type"].default: one
    for one in classes_in(__name__, __file__, TileKind)
    if one not in (LaterTile, TypedTile, ToldTile, AddressedTile)
}
# Those that other tiles stand in.
HOLDERS = frozenset(name for name, one in KINDS.items() if one.holds)
AnyTile = TileKind
if TYPE_CHECKING:
    Tile = TileKind
else:
    Tile = one_of([*KINDS.values()])
Group.model_rebuild(_types_namespace={"Tile": Tile})


def offered(under: str = IN_WORDS) -> list[tuple[str, Offer]]:
    """Return what an author can add as it is for a purpose, with the name of its kind; what is typed into first."""
    every = [(name, offer) for name, kind in KINDS.items() if kind.offered_under == under for offer in kind.offers()]
    return sorted(every, key=lambda one: (not one[1].is_typed, KINDS[one[0]].offered_rank))


def as_text(tile: AnyTile | None) -> TypedTile | None:
    """Return a tile that somebody types into as what it is, None for any other."""
    return tile if isinstance(tile, TypedTile) else None


def as_told(tile: AnyTile | None) -> ToldTile | None:
    """Return a tile of entries as what it is, None for any other."""
    return tile if isinstance(tile, ToldTile) else None


def as_picture(tile: AnyTile | None) -> PictureTile | None:
    """Return a tile that shows a picture as what it is, None for any other."""
    return tile if isinstance(tile, PictureTile) else None


def as_shape(tile: AnyTile | None) -> ShapeTile | None:
    """Return a tile that shows a form as what it is, None for any other."""
    return tile if isinstance(tile, ShapeTile) else None


def as_filter(tile: AnyTile | None) -> FilterTile | None:
    """Return a tile by which readers choose as what it is, None for any other."""
    return tile if isinstance(tile, FilterTile) else None


def as_visual(tile: AnyTile | None) -> VisualTile | None:
    """Return a tile that shows an answer as what it is, None for any other."""
    return tile if isinstance(tile, VisualTile) else None


__all__ = [
    "AS_SIGN",
    "HOLDERS",
    "IN_ORDER",
    "IN_WORDS",
    "KINDS",
    "TO_PRESS",
    "AnyTile",
    "Asked",
    "Context",
    "Drawn",
    "Group",
    "LaterTile",
    "Memory",
    "Offer",
    "PictureTile",
    "ReportTable",
    "ShapeTile",
    "SourcesTile",
    "SpotTile",
    "TextTile",
    "Tile",
    "TileKind",
    "ToldTile",
    "TypedTile",
    "VisualTile",
    "Written",
    "as_filter",
    "as_picture",
    "as_shape",
    "as_text",
    "as_told",
    "as_visual",
    "drawings",
    "offered",
]
