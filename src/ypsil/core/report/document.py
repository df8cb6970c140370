"""A report as bands with their tiles: what edits are about and what is composed."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from ypsil.core.document.model import PageFormat, new_id
from ypsil.core.figures import LOCALES
from ypsil.core.style.cards import CardManner
from ypsil.core.style.grounds import Ground
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.icons import IconManner
from ypsil.core.tables.conditions import Filter
from ypsil.core.tiles import AnyTile, Tile

MAX_BANDS = 100
MAX_TILES_IN_BAND = 60
MAX_ROWS = 400


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Band(_Model):
    id: str = Field(default_factory=new_id, pattern=r"^[a-z0-9]{1,16}$")
    message: str = Field("", max_length=500, description="the one thing the band says")
    says_it: bool = Field(False, title="Show what it says as its heading")
    ground: Ground | None = Field(None, title="Ground", description="left out: the page's")
    is_inset: bool = Field(False, title="Inset, with round corners", description="left out: as wide as the page")
    padding: int | None = Field(
        None, ge=0, le=40, title="Room above and below, in rows", description="left out: as usual on the page"
    )
    least_rows: int = Field(0, ge=0, le=MAX_ROWS, title="Height at least, in rows")
    is_tray: bool = Field(False, description="holds what found no place on the page; readers never see it")
    tiles: tuple[Tile, ...] = Field((), max_length=MAX_TILES_IN_BAND)

    def waits(self) -> bool:
        """Tell whether all that it has to say has still to be said."""
        telling = [tile for tile in self.shown() if not tile.decorates() and not tile.joins()]
        return bool(telling) and all(tile.is_open() for tile in telling) and not (self.says_it and self.message.strip())

    def shown(self) -> list[AnyTile]:
        """Return all that is shown in it, also what stands in groups, in reading order."""
        return [tile for tile in walk(self.tiles) if not tile.holds]


class ReportBody(_Model):
    """Bands from top to bottom on a page; ``filters`` apply to every tile whose table has their column."""

    title: str = Field(min_length=1, max_length=200)
    language: str = Field("en", pattern=r"^[a-z]{2,3}$")
    locale: str = Field("", max_length=20, description="how numbers are written; empty: as usual in the language")
    style: HouseStyle = HouseStyle()
    page: PageFormat = PageFormat()
    cards: CardManner = CardManner()
    icons: IconManner = IconManner()
    filters: tuple[Filter, ...] = ()
    bands: tuple[Band, ...] = Field((), max_length=MAX_BANDS)

    @field_validator("locale")
    @classmethod
    def _is_known(cls, locale: str) -> str:
        if locale and locale not in LOCALES:
            raise ValueError(f"numbers are not written as in “{locale}” yet; choose one of {', '.join(LOCALES)}")
        return locale

    @model_validator(mode="after")
    def _is_inside(self) -> ReportBody:
        for tile in self.tiles():
            reason = beyond_the_page(tile, self.page)
            if reason:
                raise ValueError(reason)
        return self

    def as_json(self) -> dict[str, Any]:
        """Return the document as JSON data that reads back to the same document."""
        return self.model_dump(mode="json")

    def tiles(self) -> list[AnyTile]:
        """Return all that is shown, also what stands in groups, in reading order."""
        return [tile for band in self.bands for tile in band.shown()]

    def everything(self) -> Iterator[AnyTile]:
        """Yield groups and tiles, each group before what stands in it."""
        for band in self.bands:
            yield from walk(band.tiles)

    def tile(self, tile_id: str) -> AnyTile | None:
        """Return a tile or a group."""
        return next((tile for tile in self.everything() if tile.id == tile_id), None)

    def band(self, band_id: str) -> Band | None:
        return next((band for band in self.bands if band.id == band_id), None)

    def as_read(self) -> ReportBody:
        """Return it without the places that its author has still to fill, and without the bands of which nothing but
        their form would be seen."""
        if self.tray() is None and not any(tile.is_open() for tile in self.everything()):
            return self
        kept = tuple(
            band.model_copy(update={"tiles": _filled(band.tiles)})
            for band in self.bands
            if not band.waits() and not band.is_tray
        )
        return self.model_copy(update={"bands": kept})

    def tray(self) -> Band | None:
        """Return the band that holds what found no place."""
        return next((band for band in self.bands if band.is_tray), None)

    def tables(self) -> list[str]:
        """Return the tables that tiles ask, in order of first use."""
        return list(dict.fromkeys(asked.table for tile in self.tiles() for asked in tile.questions()))

    def credits(self) -> list[str]:
        """Return whom to thank for what stands on the page, each once."""
        return list(dict.fromkeys(credit for tile in self.tiles() for credit in tile.credits()))

    def pictures(self) -> list[str]:
        """Return the names of the pictures that tiles show or bands stand on, each once."""
        grounds = [band.ground.picture for band in self.bands if band.ground is not None and band.ground.picture]
        shown = [name for tile in self.tiles() for name in (*tile.pictures(), *tile.pictures_of(self.style))]
        return list(dict.fromkeys([*shown, *grounds]))


def _filled(tiles: Sequence[Any]) -> tuple[Any, ...]:
    """Return tiles, and groups with what stands in them, without the places that are still open."""
    kept = (tile.with_below(_filled(tile.below())) if tile.below() else tile for tile in tiles if not tile.is_open())
    return tuple(tile for tile in kept if not tile.holds or tile.below())


def walk(tiles: Sequence[Any]) -> Iterator[AnyTile]:
    """Yield tiles with what stands in them."""
    for tile in tiles:
        yield tile
        yield from walk(tile.below())


def beyond_the_page(tile: AnyTile, page: PageFormat) -> str:
    """Return why a tile's place is none on a page, or an empty string."""
    place = tile.place
    if place is None:
        return ""
    if place.column + place.width > page.columns:
        return "the tile reaches beyond the right edge of the page"
    return f"a tile is at most {MAX_ROWS} rows high" if place.height > MAX_ROWS else ""
