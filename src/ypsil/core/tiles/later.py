"""A kind that came with a newer Ypsil: kept as it is."""

from __future__ import annotations

from typing import Literal

from ypsil.core.tiles.base import TileKind


class LaterTile(TileKind):
    """A tile of a kind that this Ypsil does not know: its node is kept as it is, and its place says so."""

    type: Literal["later"] = "later"
    kind: str = ""

    def waits_for(self) -> str:
        return f"This needs a newer Ypsil: it is of the kind “{self.kind}”."

    def about(self) -> str:
        what = f"This tile is of the kind “{self.kind}”, which came with a newer Ypsil."
        return f"{what} It is kept as it is, and shown there."

    def label(self) -> str:
        return f"A tile of the kind “{self.kind}”"
