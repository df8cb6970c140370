"""What holds an address and stands for what is there."""

from __future__ import annotations

from typing import ClassVar

from pydantic import Field

from ypsil.core.drawing.scene import Scene
from ypsil.core.tiles.base import TileKind, waiting
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.tiles.leading import address_problem
from ypsil.core.visuals import Box


class AddressedTile(TileKind):
    """What kinds that hold an address have in common; it is none itself. Readers who press one get there."""

    # What its author is told as long as it has no address.
    asks_for: ClassVar[str] = ""
    address: str = Field("", max_length=2_000)

    def hints(self) -> str:
        return "" if self.address.strip() else self.asks_for

    def leads(self) -> str:
        return self.leads_to or ("" if address_problem(self.address) else self.address.strip())

    def draws(self, box: Box, context: Context) -> Drawn:
        address = self.address.strip()
        if not address:
            return Drawn(Scene(box.width, box.height, ()))
        problem = address_problem(address)
        return waiting(problem, box, context) if problem else self._drawn(address, box, context)

    def _drawn(self, address: str, box: Box, context: Context) -> Drawn:
        """Return the drawing that stands for an address."""
        raise NotImplementedError
