"""A report as bands with their tiles: what edits are about and what is composed."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.document.model import new_id
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles import AnyTile, Tile

MAX_BANDS = 100
MAX_TILES_IN_BAND = 60


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Band(_Model):
    id: str = Field(default_factory=new_id, pattern=r"^[a-z0-9]{1,16}$")
    message: str = Field("", max_length=500, description="the one thing the band says")
    tiles: tuple[Tile, ...] = Field((), max_length=MAX_TILES_IN_BAND)


class Report(_Model):
    """A report of the format ``page``: bands from top to bottom on a page 1200 px wide."""

    title: str = Field(min_length=1, max_length=200)
    language: str = Field("en", pattern=r"^[a-z]{2,3}$")
    style: HouseStyle = HouseStyle()
    bands: tuple[Band, ...] = Field((), max_length=MAX_BANDS)

    def as_json(self) -> dict[str, Any]:
        """Return the document as JSON data that reads back to the same document."""
        return self.model_dump(mode="json")

    def tiles(self) -> list[AnyTile]:
        return [tile for band in self.bands for tile in band.tiles]

    def tile(self, tile_id: str) -> AnyTile | None:
        return next((tile for tile in self.tiles() if tile.id == tile_id), None)

    def band(self, band_id: str) -> Band | None:
        return next((band for band in self.bands if band.id == band_id), None)

    def tables(self) -> list[str]:
        """Return the tables that tiles ask, in order of first use."""
        return list(dict.fromkeys(asked.table for tile in self.tiles() if (asked := tile.asks()) is not None))

    def pictures(self) -> list[str]:
        """Return the names of the pictures that tiles show, each once."""
        return list(dict.fromkeys(name for tile in self.tiles() for name in tile.pictures()))
