"""Picture: one that its author brought, in a place of the page."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from typing import Literal, Self

from pydantic import Field

from ypsil.core.document.model import PageFormat
from ypsil.core.drawing.frames import frame_outline, letters_outline
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.scene import Cover, Font, Path, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.tiles.base import TileKind, waiting
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.visuals import Box

_USUAL_COLUMNS = 12
_FEWEST_ROWS, _MOST_ROWS = 6, 90
_GONE = "Its picture is no longer there. Choose another."
_MOST_SAID = 60
# What a caption leaves of the picture above it, at least.
_LEAST_PX = 48.0
_LINE = 1.3
# So many letters at most are filled with a picture.
MOST_FILLED = 16
_DIM = {"no": 0.0, "a little": 0.25, "by half": 0.5, "much": 0.7}


class PictureTile(TileKind):
    """A picture that fills its place, or is seen whole in it. ``aspect`` is how wide it is for its height; ``across``
    and ``down`` say which point of it stays in sight where it is cut, ``zoom`` how much larger than need be it is."""

    called = "picture"
    can_turn = True
    settings = (
        "alt", "is_ornament", "fits", "frame", "letters", "corner", "zoom", "colours", "dimmed", "caption", "credit",
    )  # fmt: skip
    folded = {
        **dict.fromkeys(("frame", "letters", "corner", "zoom"), "Frame"),
        **dict.fromkeys(("colours", "dimmed"), "Colours"),
        **dict.fromkeys(("caption", "credit"), "Caption"),
    }
    type: Literal["picture"] = "picture"
    picture: str = Field(max_length=100, pattern=r"^picture:[0-9a-f]{64}$")
    aspect: float = Field(1.5, gt=0.01, lt=100)
    fits: Literal["fills", "whole"] = Field(
        "fills", title="The picture", json_schema_extra={"labels": ["fills its place", "is seen whole"]}
    )
    across: float = Field(0.5, ge=0, le=1)
    down: float = Field(0.5, ge=0, le=1)
    zoom: float = Field(1, ge=1, le=8, title="Larger, times")
    frame: str = Field("rectangle", max_length=60, title="Seen in", json_schema_extra={"shows": "frame"})
    letters: str = Field(
        "",
        max_length=MOST_FILLED,
        title="Or in letters",
        description="a word or a number",
    )
    corner: float = Field(0, ge=0, le=400, title="Corner, px")
    colours: Literal["own", "grey", "two"] = Field(
        "own",
        title="Colours",
        json_schema_extra={"labels": ["its own", "grey", "two of the style"]},
    )
    dimmed: Literal["no", "a little", "by half", "much"] = Field("no", title="Dimmed")
    alt: str = Field("", max_length=2_000, title="In words", description="for those who cannot see it")
    is_ornament: bool = Field(False, title="It decorates, and says nothing")
    caption: str = Field("", max_length=300, title="Caption")
    credit: str = Field(
        "",
        max_length=200,
        title="Whose picture",
        description="stands among the sources",
    )

    def takes_picture(self) -> bool:
        return True

    def filled(self, picture: str, aspect: float) -> Self:
        return type(self).model_validate(self.model_dump() | {"picture": picture, "aspect": aspect})

    def emptied(self) -> TileKind | None:
        if not self.letters.strip():
            return None
        # Kinds that are typed into know pictures, and not the other way round.
        from ypsil.core.tiles.text import TextTile

        return TextTile(**self.kept(), role="big", text=self.letters.strip())

    def usual_size(self) -> tuple[int, int]:
        page = PageFormat()
        rows = page.rows_for(page.width_of(_USUAL_COLUMNS) / self.aspect)
        return _USUAL_COLUMNS, max(_FEWEST_ROWS, min(_MOST_ROWS, rows))

    def pictures(self) -> list[str]:
        return [self.picture]

    def credits(self) -> list[str]:
        return [self.credit.strip()] if self.credit.strip() else []

    def least_height(self, width: float, context: Context) -> float:
        lines, font = self._caption(width, context)
        return _LEAST_PX * context.page.zoom + self._below(lines, font) if lines else 0.0

    def draws(self, box: Box, context: Context) -> Drawn:
        found = context.pictures.get(self.picture)
        if found is None:
            return waiting(_GONE, box, context)
        return Drawn(self._scene(found, box, context), key=self._key(box, context))

    def _scene(self, found: Picture, box: Box, context: Context) -> Scene:
        lines, font = self._caption(box.width, context)
        room = Box(box.width, max(1.0, box.height - self._below(lines, font)))
        shapes: list[Shape] = [*self._framed(found, room, context)]
        y = box.height - len(lines) * font.size * _LINE + font.size
        shapes += [
            Text(0, y + place * font.size * _LINE, line, font, context.style.muted) for place, line in enumerate(lines)
        ]
        name = "" if self.is_ornament else self.alt.strip() or self.label()
        return Scene(box.width, box.height, tuple(shapes), name=name, description=self.caption.strip() if name else "")

    def _caption(self, width: float, context: Context) -> tuple[list[str], Font]:
        font = context.style.body(context.page.text_px("note"))
        words = " ".join(self.caption.split())
        return (wrap(words, width, font) if words else []), font

    def _below(self, lines: Sequence[str], font: Font) -> float:
        """Return the height that the caption takes, with the air above it."""
        return len(lines) * font.size * _LINE + font.size / 2 if lines else 0.0

    def _framed(self, found: Picture, room: Box, context: Context) -> list[Shape]:
        """Return the picture in its frame, with the veil that dims it."""
        aspect = found.width / found.height
        width, height = room.width, room.height
        if self.fits == "whole":
            width, height = min(room.width, room.height * aspect), min(room.height, room.width / aspect)
        x, y = (room.width - width) / 2, (room.height - height) / 2
        outline = self._outline(width, height, context)
        wide, high = max(width, height * aspect) * self.zoom, max(height, width / aspect) * self.zoom
        tint = {"own": None, "grey": ("#000000", "#ffffff"), "two": (context.style.accent, context.style.paper)}
        lies = ((width - wide) * self.across, (height - high) * self.down, wide, high)
        cover = Cover(found, 0, 0, width, height, lies, tint[self.colours])
        paper = context.style.paper
        shapes: list[Shape] = [Path(outline, paper, x=x, y=y, motif=cover)]
        if _DIM[self.dimmed]:
            shapes.append(Path(outline, paper, x=x, y=y, opacity=_DIM[self.dimmed]))
        return shapes

    def _outline(self, width: float, height: float, context: Context) -> str:
        if self.letters.strip():
            return letters_outline(self.letters.strip(), context.style.heading(1), width, height)
        corner = self.corner * context.page.zoom
        return frame_outline(self.frame, width, height, corner)

    def _key(self, box: Box, context: Context) -> str:
        parts = [*self.model_dump(exclude={"id", "place", "card", "is_locked", "opacity", "turn"}).values()]
        parts += [box.width, box.height, context.page.text_size, context.style.digest()]
        return hashlib.sha256(repr(parts).encode()).hexdigest()

    def lacks_words(self) -> bool:
        return not self.is_ornament and not self.alt.strip()

    def label(self) -> str:
        return f"Picture: {self.alt[:_MOST_SAID]}" if self.alt.strip() else "A picture"
