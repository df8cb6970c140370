"""Picture: one that its author brought, in a place of the page."""

from __future__ import annotations

import hashlib
from typing import Literal

from pydantic import Field

from ypsil.core.document.model import PageFormat
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.scene import Cover, Path, Scene
from ypsil.core.tiles.base import TileKind, waiting
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.visuals import Box

_USUAL_COLUMNS = 12
_FEWEST_ROWS, _MOST_ROWS = 6, 90
_GONE = "Its picture is no longer there. Choose another."
# The size of type that corners are measured for.
_TYPE_PX = 17.0
_MOST_SAID = 60


class PictureTile(TileKind):
    """A picture that fills its place, or is seen whole in it. ``aspect`` is how wide it is for its height."""

    called = "picture"
    can_turn = True
    settings = ("fits", "corner", "alt", "is_ornament")
    type: Literal["picture"] = "picture"
    picture: str = Field(max_length=100, pattern=r"^picture:[0-9a-f]{64}$")
    aspect: float = Field(1.5, gt=0.01, lt=100)
    fits: Literal["fills", "whole"] = Field(
        "fills", title="The picture", json_schema_extra={"labels": ["fills its place", "is seen whole"]}
    )
    corner: float = Field(0, ge=0, le=400, title="Corner, px")
    alt: str = Field("", max_length=2_000, title="In words", description="for those who cannot see it")
    is_ornament: bool = Field(False, title="It decorates, and says nothing")

    def usual_size(self) -> tuple[int, int]:
        page = PageFormat()
        rows = page.rows_for(page.width_of(_USUAL_COLUMNS) / self.aspect)
        return _USUAL_COLUMNS, max(_FEWEST_ROWS, min(_MOST_ROWS, rows))

    def pictures(self) -> list[str]:
        return [self.picture]

    def draws(self, box: Box, context: Context) -> Drawn:
        found = context.pictures.get(self.picture)
        if found is None:
            return waiting(_GONE, box, context)
        return Drawn(self._scene(found, box, context), key=self._key(box, context))

    def _scene(self, found: Picture, box: Box, context: Context) -> Scene:
        x, y, width, height = 0.0, 0.0, box.width, box.height
        if self.fits == "whole":
            scale = min(box.width / found.width, box.height / found.height)
            width, height = found.width * scale, found.height * scale
            x, y = (box.width - width) / 2, (box.height - height) / 2
        corner = min(self.corner * context.page.text_size / _TYPE_PX, width / 2, height / 2)
        shape = Path(
            rounded(width, height, corner), context.style.paper, x=x, y=y, motif=Cover(found, 0, 0, width, height)
        )
        name = "" if self.is_ornament else self.alt.strip() or self.label()
        return Scene(box.width, box.height, (shape,), name=name)

    def _key(self, box: Box, context: Context) -> str:
        parts = [*self.model_dump(include={"picture", "fits", "corner", "alt", "is_ornament"}).values()]
        parts += [box.width, box.height, context.page.text_size, context.style.paper]
        return hashlib.sha256(repr(parts).encode()).hexdigest()

    def lacks_words(self) -> bool:
        return not self.is_ornament and not self.alt.strip()

    def label(self) -> str:
        return f"Picture: {self.alt[:_MOST_SAID]}" if self.alt.strip() else "A picture"
