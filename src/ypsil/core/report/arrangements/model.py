"""What a ready-made arrangement is: places with what belongs in each, and the band that it makes of tables."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from ypsil.core.document.model import Frame, PageFormat, new_id
from ypsil.core.layout.reflow import reflow
from ypsil.core.prose.model import TextColour
from ypsil.core.prose.setting import Align
from ypsil.core.report.document import Band
from ypsil.core.style.cards import Card
from ypsil.core.style.grounds import Ground
from ypsil.core.tiles import AnyTile, SourcesTile, SpotTile, TextTile, VisualTile
from ypsil.core.tiles.typed import Role
from ypsil.core.visuals.base import Purpose

# Arrangements are laid out for this page, and flow to others.
DRAWN_FOR = PageFormat()
At = tuple[int, int, int, int]


@dataclass(frozen=True, slots=True)
class Words:
    """A place for text: ``hint`` asks its author for it; ``text`` is only what is the same in every report, such as the
    number of a step."""

    at: At
    role: Role
    hint: str = ""
    text: str = ""
    align: Align = "start"
    colour: TextColour = ""
    card: str | None = None

    def tile(self, place: Frame) -> AnyTile:
        return TextTile(
            role=self.role,
            hint=self.hint,
            text=self.text,
            align=self.align,
            colour=self.colour,
            place=place,
            card=_card(self.card),
        )


@dataclass(frozen=True, slots=True)
class Shown:
    """A place for a visual: what it is to show, which visuals suit it there, the best first, and what else it could
    show where no table has that."""

    at: At
    purpose: Purpose
    hint: str
    visuals: tuple[str, ...] = ()
    card: str | None = None
    also: Purpose | None = None

    def spot(self, place: Frame) -> AnyTile:
        return SpotTile(purpose=self.purpose, hint=self.hint, place=place, card=_card(self.card))


@dataclass(frozen=True, slots=True)
class Later:
    """A place for what is no visual, such as a picture."""

    at: At
    hint: str
    card: str | None = None


@dataclass(frozen=True, slots=True)
class Sources:
    at: At


# What a place is kept for that a picture belongs in.
PICTURE = "a picture"
Part = Words | Shown | Later | Sources
# Returns a visual for a place, other than those that were taken already; None where no table has one.
Find = Callable[[Shown, set[str]], VisualTile | None]


@dataclass(frozen=True, slots=True)
class Arrangement:
    """A band by what it says; ``says`` is a sentence on when to use it."""

    name: str
    label: str
    says: str
    parts: tuple[Part, ...]
    ground: Ground | None = None
    band: dict[str, Any] = field(default_factory=dict)

    def made(self, find: Find, page: PageFormat) -> Band:
        """Return the band, with the visuals that are found, and places kept for those that are not."""
        frames = [Frame(column=part.at[0], row=part.at[1], width=part.at[2], height=part.at[3]) for part in self.parts]
        taken: set[str] = set()
        tiles = tuple(
            _tile(part, place, find, taken)
            for part, place in zip(self.parts, reflow(frames, DRAWN_FOR, page), strict=True)
        )
        return Band(id=new_id(), message="", ground=self.ground, tiles=tiles, **self.band)

    def is_filled(self, band: Band) -> bool:
        """Tell whether every visual of it was found."""
        return not any(isinstance(tile, SpotTile) for tile in band.tiles)


def _tile(part: Part, place: Frame, find: Find, taken: set[str]) -> AnyTile:
    if isinstance(part, Words):
        return part.tile(place)
    if isinstance(part, Sources):
        return SourcesTile(place=place)
    if isinstance(part, Later):
        return SpotTile(purpose=PICTURE, hint=part.hint, place=place, card=_card(part.card))
    found = find(part, taken)
    if found is None:
        return part.spot(place)
    taken.add(asked_of(found))
    return found.model_copy(update={"id": new_id(), "place": place, "card": _card(part.card)})


def asked_of(tile: VisualTile) -> str:
    """Return what tells visuals apart that say the same: the table and the question."""
    return f"{tile.table}:{tile.question.digest()}"


def _card(fill: str | None) -> Card | None:
    """Return a card of a fill; an empty one is as usual in the report."""
    return None if fill is None else Card(fill=fill or None)
