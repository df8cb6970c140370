"""The report document: what is saved, and nothing that can be calculated from it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ypsil.core.document.model import Frame, new_id
from ypsil.core.drawing.pictures import is_picture_name
from ypsil.core.questions.model import Question
from ypsil.core.style.house import HouseStyle

GRID_COLUMNS = 24
MAX_BANDS = 100
MAX_TILES_IN_BAND = 60


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Place(Frame):
    """Where a tile stands in its band: columns of the 24-column grid, rows of 8 px."""

    column: int = Field(ge=0, lt=GRID_COLUMNS)
    row: int = Field(ge=0, le=1000)
    width: int = Field(ge=1, le=GRID_COLUMNS)
    height: int = Field(ge=1, le=400)

    @model_validator(mode="after")
    def _inside(self) -> Place:
        if self.column + self.width > GRID_COLUMNS:
            raise ValueError("the tile reaches beyond the right edge of the page")
        return self


class _Tile(_Model):
    id: str = Field(default_factory=new_id, pattern=r"^[a-z0-9]{1,16}$")
    place: Place | None = Field(None, description="left out: the next free place")


class TextTile(_Tile):
    type: Literal["text"] = "text"
    role: Literal["title", "heading", "body", "note"] = "body"
    text: str = Field("", max_length=20_000)


class VisualTile(_Tile):
    type: Literal["visual"] = "visual"
    table: str
    question: Question
    visual: str
    options: dict[str, Any] = Field(default_factory=dict)
    title: str = Field("", max_length=500)
    alt: str = Field("", max_length=2_000, description="stands for the drawing; left out: written from the data")

    def pictures(self) -> list[str]:
        """Return the names of the pictures that somebody brought and the tile shows."""
        return [value for value in self.options.values() if isinstance(value, str) and is_picture_name(value)]


class SourcesTile(_Tile):
    """A line for each table that the report uses."""

    type: Literal["sources"] = "sources"


class LaterTile(_Tile):
    """A tile of a kind that this Ypsil does not know: its node is kept as it is, and its place says so."""

    type: Literal["later"] = "later"
    kind: str = ""


Tile = Annotated[TextTile | VisualTile | SourcesTile, Field(discriminator="type")]
AnyTile = TextTile | VisualTile | SourcesTile | LaterTile


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
        return list(dict.fromkeys(tile.table for tile in self.tiles() if isinstance(tile, VisualTile)))

    def pictures(self) -> list[str]:
        """Return the names of the pictures that tiles show, each once."""
        named = [name for tile in self.tiles() if isinstance(tile, VisualTile) for name in tile.pictures()]
        return list(dict.fromkeys(named))
