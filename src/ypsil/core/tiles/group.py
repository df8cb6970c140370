"""Group: tiles that are moved as one, placed by the group's own origin."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal, Self

from pydantic import Field

from ypsil.core.tiles.base import TileKind

if TYPE_CHECKING:
    from ypsil.core.tiles import Tile

MAX_IN_GROUP = 60


class Group(TileKind):
    """Tiles that stand together. Nothing is drawn for the group itself."""

    holds = True
    called = "group"
    type: Literal["group"] = "group"
    tiles: tuple[Tile, ...] = Field((), max_length=MAX_IN_GROUP)

    def below(self) -> tuple[Any, ...]:
        return self.tiles

    def with_below(self, tiles: tuple[Any, ...]) -> Self:
        return self.model_copy(update={"tiles": tiles})

    def usual_size(self) -> tuple[int, int]:
        """A group is as large as what stands in it."""
        places = [tile.place for tile in self.tiles if tile.place is not None]
        width = max((place.column + place.width for place in places), default=24)
        return width, max((place.row + place.height for place in places), default=10)

    def label(self) -> str:
        return "A group of 1 tile" if len(self.tiles) == 1 else f"A group of {len(self.tiles)} tiles"
