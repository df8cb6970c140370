"""Film or sound: a picture that stands for it, and what is played in its place where the page may."""

from __future__ import annotations

from typing import Literal
from urllib.parse import urlsplit

from pydantic import Field

from ypsil.core.drawing.colour import mix
from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.scene import Cover, Font, Path, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.tiles.addressed import AddressedTile
from ypsil.core.tiles.base import TO_PRESS, Offer
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.tiles.leading import Played, address_problem, host_of
from ypsil.core.visuals import Box

# What browsers play by themselves (the HTML standard names no formats; common practice, no source).
_FILMS, _SOUNDS = ("mp4", "m4v", "webm", "ogv"), ("mp3", "m4a", "aac", "ogg", "oga", "opus", "wav", "flac")
_BUTTON_PX, _CORNER_PX, _WIDE, _HIGH = 56.0, 10.0, 16.0, 9.0
_LEAST_PX = 64.0
_BESIDE_WORDS = 0.7


class PlayedTile(AddressedTile):
    offered_under = TO_PRESS
    offered_rank = 2
    asks_for = "Type the address of a film or a sound"
    called = "film or sound"
    settings = ("address", "title", "picture", "alt", "words")
    type: Literal["played"] = "played"
    address: str = Field("", max_length=2_000, title="Its address", description="of the file, or of a page with it")
    title: str = Field("", max_length=200, title="What it is called")
    picture: str = Field(
        "",
        max_length=100,
        pattern=r"^(picture:[0-9a-f]{64})?$",
        title="Picture that stands for it",
        json_schema_extra={"shows": "own picture"},
    )
    alt: str = Field("", max_length=2_000, title="What is seen or heard", description="for those who cannot")
    words: str = Field(
        "", max_length=20_000, title="What is said in it, word for word", json_schema_extra={"shows": "lines"}
    )

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        sample = {"address": "https://example.org/film.mp4", "title": "A film"}
        hint = "played in its place, or led to; with its words"
        return (Offer("A film or a sound", {}, hint, sample=sample, sample_height=150),)

    def usual_size(self) -> tuple[int, int]:
        return (12, 30)

    def pictures(self) -> list[str]:
        return [self.picture] if self.picture else []

    def plays(self) -> Played | None:
        """Return what can be played in its place; nothing where it is a page, or no address."""
        address = self.address.strip()
        if not address or address_problem(address):
            return None
        ending = urlsplit(address).path.rpartition(".")[2].lower()
        if ending not in (*_FILMS, *_SOUNDS):
            return None
        return Played(address, ending in _SOUNDS, self.label(), self.words.strip())

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        lines, font = self._lines(width, context)
        return width * _HIGH / _WIDE + len(lines) * font.line_height + font.size

    def beneath(self, width: float, context: Context) -> float:
        """Return the height (px) that its words take below the picture."""
        lines, font = self._lines(width, context)
        return len(lines) * font.line_height + font.size / 2 if lines else 0.0

    def _drawn(self, address: str, box: Box, context: Context) -> Drawn:
        zoom = context.page.zoom
        lines, font = self._lines(box.width, context)
        high = max(min(box.height, _LEAST_PX * zoom), box.height - self.beneath(box.width, context))
        shapes = self._stands_for(box.width, high, context)
        top = high + font.size * 1.4
        shapes += [
            Text(0, top + place * font.line_height, line, font, context.style.ink) for place, line in enumerate(lines)
        ]
        told = " ".join(filter(None, (self.alt.strip(), self.words.strip(), f"It is at {address}")))
        return Drawn(Scene(box.width, box.height, tuple(shapes), self.label(), told))

    def _stands_for(self, width: float, height: float, context: Context) -> list[Shape]:
        zoom, house = context.page.zoom, context.house
        outline = rounded(width, height, min(_CORNER_PX * zoom, height / 2))
        found = context.pictures.get(self.picture)
        shapes: list[Shape] = [Path(outline, mix(house.accent, "#000000", 0.45))]
        if found is not None:
            shapes = [Path(outline, house.paper, motif=Cover(found, 0, 0, width, height))]
        side = min(_BUTTON_PX * zoom, 0.7 * min(width, height))
        x, y = (width - side) / 2, (height - side) / 2
        shapes.append(Path(rounded(side, side, side / 2), house.paper, x=x, y=y))
        third = side / 3
        sign = f"M0 0L{third * 1.1:.2f} {third * 0.6:.2f}L0 {third * 1.2:.2f}Z"
        shapes.append(Path(sign, house.ink, x=x + third * 1.05, y=y + side / 2 - third * 0.6))
        return shapes

    def _lines(self, width: float, context: Context) -> tuple[list[str], Font]:
        font = context.style.body(context.page.text_px("note"), bold=True)
        words = " ".join(self.title.split()) or host_of(self.address)
        # What is said in it is unfolded at the right of its name.
        room = width * _BESIDE_WORDS if self.words.strip() else width
        return (wrap(words, room, font, most=2) if words else []), font

    def lacks_words(self) -> bool:
        return bool(self.address.strip()) and not (self.alt.strip() or self.words.strip())

    def label(self) -> str:
        named = f"Film or sound at {host_of(self.address)}" if self.address.strip() else "A film or a sound"
        return self.title.strip() or named
