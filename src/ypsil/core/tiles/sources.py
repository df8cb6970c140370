"""Sources: where a report's numbers, pictures and signs come from, and who made it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.document.model import new_id
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.scene import Cover, Path, Scene
from ypsil.core.prose.model import Block, Prose, Run
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles.base import Offer, TileKind
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.tiles.sourced import Source, with_addresses
from ypsil.core.tiles.written import Written
from ypsil.core.visuals import Box

MOST_TYPED = 40
_CALLED = {
    "table": ("Source", "Sources"),
    "typed": ("Source", "Sources"),
    "picture": ("Picture", "Pictures"),
    "icons": ("Icons", "Icons"),
    "type": ("Type", "Type"),
}
_LOGO_PX, _LOGO_WIDEST, _AIR_PX = 44.0, 3.5, 14.0


class TypedSource(BaseModel):
    """A source that somebody typed."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    id: str = Field(default_factory=new_id, pattern=r"^[a-z0-9]{1,16}$")
    words: str = Field(min_length=1, max_length=500)


class SourcesTile(TileKind):
    """A line for each table that the report uses, with what else is to be named."""

    called = "line"
    names_sources = True
    settings = ("look", "more", "made_by", "logo", "names_icons", "names_type")
    folded = dict.fromkeys(("names_icons", "names_type"), "Also named")
    type: Literal["sources"] = "sources"
    look: Literal["line", "list"] = Field(
        "line", title="They stand", json_schema_extra={"labels": ["in one line", "below each other"]}
    )
    more: tuple[TypedSource, ...] = Field(
        (),
        max_length=MOST_TYPED,
        title="Other sources",
        description="one a line; addresses lead there",
        json_schema_extra={"shows": "lines"},
    )
    made_by: str = Field("", max_length=300, title="Who made the report")
    logo: str = Field(
        "",
        max_length=100,
        pattern=r"^(picture:[0-9a-f]{64})?$",
        title="Logo",
        json_schema_extra={"shows": "own picture"},
    )
    names_icons: bool = Field(False, title="The icons' sets and licences")
    names_type: bool = Field(False, title="The faces of the type and their licences")

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("Sources", {}, "collected from the tables used"),)

    def changing(self, changes: dict[str, Any]) -> dict[str, Any]:
        """Take lines as they are typed: a line that stays, or stands where one stood, is the same source."""
        said = changes.get("more")
        if not isinstance(said, str):
            return changes
        lines = [line for line in (" ".join(one.split()) for one in said.split("\n")) if line]
        same = {one.words: one.id for one in self.more}
        kept = {same[line] for line in lines if line in same}
        found = []
        for place, line in enumerate(lines):
            own = same.get(line, "")
            if not own and place < len(self.more) and self.more[place].id not in kept:
                own = self.more[place].id
            found.append({"id": own or new_id(), "words": line})
        return changes | {"more": found}

    def typed_sources(self) -> list[tuple[str, str]]:
        return [(one.id, one.words) for one in self.more]

    def names(self) -> tuple[bool, bool]:
        return self.names_icons, self.names_type

    def pictures(self) -> list[str]:
        return [self.logo] if self.logo else []

    def pictures_of(self, style: HouseStyle) -> list[str]:
        return [] if self.logo or not style.logo else [style.logo]

    def writes(self, context: Context) -> Written:
        return Written(Prose(blocks=(*self._said(context),)), "note", is_quiet=True)

    def _said(self, context: Context) -> Iterator[Block]:
        if self.made_by.strip():
            yield Block(runs=tuple(with_addresses(" ".join(self.made_by.split()))))
        numbered = [*enumerate(context.sources, 1)]
        if self.look == "list":
            for number, source in numbered:
                yield Block(runs=(*_number(number, context), *with_addresses(_called(source) + source.words)))
        elif numbered:
            yield Block(runs=tuple(self._in_line(numbered, context)))

    def _in_line(self, numbered: Sequence[tuple[int, Source]], context: Context) -> Iterator[Run]:
        """Yield the sources one after the other, those of a kind after its name."""
        for place, (called, group) in enumerate(groupby(numbered, key=lambda one: _CALLED[one[1].kind])):
            some = [*group]
            yield Run(text=f"{' ' if place else ''}{called[len(some) > 1]}: ")
            for at, (number, source) in enumerate(some):
                if at:
                    yield Run(text="; ")
                yield from _number(number, context)
                yield from with_addresses(source.words.rstrip(".") if at < len(some) - 1 else source.words)
            if not some[-1][1].words.endswith("."):
                yield Run(text=".")

    def least_height(self, width: float, context: Context) -> float:
        beside = self._beside(context)
        height = self.writes(context).height(max(1.0, width - beside), context)
        return max(height, _LOGO_PX * context.page.zoom + 2 * self._room(context) if beside else 0.0)

    def draws(self, box: Box, context: Context) -> Drawn:
        beside = self._beside(context)
        written = self.writes(context).scene(Box(max(1.0, box.width - beside), box.height), context)
        shapes = tuple(shape.moved(beside, 0) for shape in written.shapes)
        picture = self._logo(context) if beside else None
        if picture is not None:
            high = _LOGO_PX * context.page.zoom
            room = self._room(context)
            wide = beside - max(_AIR_PX * context.page.zoom, room) - room
            tall = min(high, wide * picture.height / picture.width)
            top = room + (high - tall) / 2
            logo = Path(rounded(wide, tall, 0), "none", motif=Cover(picture, 0, 0, wide, tall), x=room, y=top)
            shapes = (logo, *shapes)
        return Drawn(Scene(box.width, box.height, shapes))

    def _beside(self, context: Context) -> float:
        """Return the width (px) that the logo takes with the air beside it."""
        picture = self._logo(context)
        if picture is None:
            return 0.0
        wide = _LOGO_PX * min(_LOGO_WIDEST, picture.width / picture.height) * context.page.zoom
        room = self._room(context)
        return wide + room + max(_AIR_PX * context.page.zoom, room)

    def _logo(self, context: Context) -> Picture | None:
        """Return its logo, or that of the house style."""
        return context.pictures.get(self.logo or context.style.logo)

    def _room(self, context: Context) -> float:
        """Return what stays free round the logo, in px."""
        return context.style.logo_room * _LOGO_PX * context.page.zoom

    def about(self) -> str:
        return "Its tables, pictures and what else is named are collected from the page, and follow it."

    def label(self) -> str:
        return "Sources"


def _number(number: int, context: Context) -> list[Run]:
    """Return the number that tiles point to a source by, where any does."""
    return [Run(text=f"{number}\N{NO-BREAK SPACE}", looks=("bold",))] if context.is_pointed_to else []


def _called(source: Source) -> str:
    return "" if source.kind in ("table", "typed") else f"{_CALLED[source.kind][0]}: "
