"""Shape: a form with a fill, a line and, if somebody types into it, words."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import Field, field_validator

from ypsil.core.drawing.forms import FORMS, OWN, OWN_CORNERS, Form, Insets, polygon
from ypsil.core.drawing.scene import Fade, Path, Scene, Shape
from ypsil.core.drawing.shadows import shadow
from ypsil.core.prose.setting import Align
from ypsil.core.style.grounds import TONES, Ground, tone
from ypsil.core.tiles.base import TO_PRESS, Offer
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.tiles.typed import ALIGNS, ROLES, Role, TypedTile
from ypsil.core.tiles.written import Written
from ypsil.core.visuals import Box

_MOST_SAID = 60
_FEWEST_CORNERS = 3
_Part = Annotated[float, Field(ge=0, le=1)]
DASHES = {"solid": "", "dashed": "3 2", "dotted": "0.1 2"}
_NONE = {"": "none", **TONES}


class ShapeTile(TypedTile):
    called = "shape"
    offered_under = TO_PRESS
    offered_rank = 0
    is_typed_at_once = False
    settings = (
        "form", "fill", "to", "line", "line_width", "dash", "has_shadow", "role", "size", "align", "colour", "fits",
    )  # fmt: skip
    folded = {
        **dict.fromkeys(("line", "line_width", "dash", "has_shadow"), "Line"),
        **dict.fromkeys(("role", "size", "align", "colour", "fits"), "Words"),
    }
    type: Literal["shape"] = "shape"
    form: str = Field(
        "rounded",
        max_length=60,
        title="Form",
        json_schema_extra={"enum": [*FORMS], "labels": [one.label for one in FORMS.values()]},
    )
    corners: tuple[tuple[_Part, _Part], ...] = Field(
        (), max_length=40, description="of a polygon of one's own, as parts of its width and height"
    )
    fill: str = Field("accent", title="Fill", json_schema_extra={"enum": [*_NONE], "labels": [*_NONE.values()]})
    to: str = Field("", title="Fading into", json_schema_extra={"enum": [*_NONE], "labels": [*_NONE.values()]})
    line: str = Field("", title="Line", json_schema_extra={"enum": [*_NONE], "labels": [*_NONE.values()]})
    line_width: float = Field(2, ge=0.5, le=40, title="Its width, px")
    dash: Literal["solid", "dashed", "dotted"] = Field("solid", title="It is")
    has_shadow: bool = Field(False, title="Shadow")
    role: Role = Field("label", title="Its words are", json_schema_extra={"labels": [*ROLES.values()]})
    align: Align = Field("middle", title="Its lines stand", json_schema_extra={"labels": [*ALIGNS]})

    @field_validator("corners")
    @classmethod
    def _has_a_face(cls, corners: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
        if 0 < len(corners) < _FEWEST_CORNERS:
            raise ValueError("a polygon has at least three corners")
        return corners

    @field_validator("fill", "to", "line")
    @classmethod
    def _is_known(cls, colour: str) -> str:
        return Ground(colour=colour).colour if colour else colour

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        button = {"form": "pill", "fill": "accent", "text": "Read more", "role": "label"}
        return (
            Offer("A button", button, "leads to an address, or to a band of the page", sample=button, sample_height=44),
        )

    def writes(self, context: Context) -> Written | None:
        return None if self._form.is_line and not self.plain.strip() else self.written(context)

    def insets(self) -> Insets:
        return self._form.insets

    def decorates(self) -> bool:
        return not self.plain.strip()

    def usual_size(self) -> tuple[int, int]:
        return (24, 3) if self._form.is_line else (6, 14)

    @property
    def _form(self) -> Form:
        if self.form == OWN and self.corners:
            return polygon(self.corners)
        return FORMS.get(self.form, FORMS["rounded"])

    def polygon(self) -> tuple[tuple[float, float], ...]:
        """Return the corners of a form of one's own, as parts of its width and height; nothing for any other."""
        return (self.corners or OWN_CORNERS) if self.form == OWN else ()

    def grounds(self) -> tuple[str, ...]:
        if self._form.is_line or not self.fill:
            return ()
        return (self.fill, self.to) if self.to else (self.fill,)

    def least_height(self, width: float, context: Context) -> float:
        if not self.plain.strip():
            return 0.0
        left, top, right, foot = self._form.insets
        text = self.written(context).height(width * (1 - left - right), context)
        return text / (1 - top - foot)

    def draws(self, box: Box, context: Context) -> Drawn:
        return Drawn(self._scene(box, context), problem=self.written(context).problem(context))

    def _scene(self, box: Box, context: Context) -> Scene:
        shapes = self._drawn(box, context)
        if self.plain.strip():
            left, top, right, foot = self._form.insets
            room = Box(box.width * (1 - left - right), box.height * (1 - top - foot))
            written = self.written(context)
            lines = written.scene(room, context).shapes
            # Words stand in the middle of the room that the form leaves them.
            above = max(0.0, (room.height - written.height(room.width, context)) / 2)
            shapes += [one.moved(box.width * left, box.height * top + above) for one in lines]
        return Scene(box.width, box.height, tuple(shapes))

    def _drawn(self, box: Box, context: Context) -> list[Shape]:
        house, form = context.house, self._form
        zoom = context.page.zoom
        wide = self.line_width * zoom
        dash = " ".join(f"{float(part) * wide:g}" for part in DASHES[self.dash].split())
        # Dots are no longer than they are wide: without round ends there would be none.
        is_dotted = self.dash == "dotted"
        if form.is_line:
            colour = tone(house, self.line or self.fill or "ink")
            return [Path(form.outline(box.width, box.height), "none", colour, wide, dash=dash, is_round=is_dotted)]
        # A line is as wide to the inside as to the outside of its outline.
        half = wide / 2 if self.line else 0.0
        outline = (
            form.outline(max(1.0, box.width - wide), max(1.0, box.height - wide))
            if self.line
            else form.outline(box.width, box.height)
        )
        shapes: list[Shape] = []
        if self.has_shadow:
            shapes += shadow(outline, house.ink, zoom, half, half)
        fill = tone(house, self.fill) if self.fill else "none"
        fade = Fade(tone(house, self.to)) if self.fill and self.to else None
        stroke = tone(house, self.line) if self.line else ""
        shape = Path(outline, fill, x=half, y=half, motif=fade)
        if stroke:
            shape = replace(shape, stroke=stroke, stroke_width=wide, dash=dash, is_round=is_dotted)
        return [*shapes, shape]

    def hints(self) -> str:
        return self.hint if not self.plain.strip() else ""

    def about(self) -> str:
        return "" if self._form.is_line else "Words can be typed straight into it."

    def label(self) -> str:
        said = f": {self.plain[:_MOST_SAID]}" if self.plain.strip() else ""
        return f"{self._form.label}{said}"
