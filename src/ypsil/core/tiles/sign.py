"""Sign: an icon or a coloured picture, large enough to stand by itself."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ypsil.core.drawing.colour import lifted
from ypsil.core.drawing.scene import Scene
from ypsil.core.drawing.signs import is_sign, sign_label, sign_shapes
from ypsil.core.style.grounds import TONE_CHOICES, Tone, tone
from ypsil.core.tiles.base import AS_SIGN, Offer, TileKind
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.visuals import Box

_GONE = "There is no icon of that name any more. Choose another."
_SEEN = 3.0
_ON_A_PHONE_PX = 96.0


class SignTile(TileKind):
    offered_under = AS_SIGN
    called = "icon"
    can_turn = True
    settings = ("sign", "colour", "plate", "plate_colour", "alt")
    folded = {"alt": "In words"}
    type: Literal["sign"] = "sign"
    sign: str = Field("line:book", max_length=120, title="Icon", json_schema_extra={"shows": "sign"})
    colour: Tone = Field("accent", title="Colour", json_schema_extra=TONE_CHOICES)
    plate: Literal["", "circle", "square"] = Field(
        "", title="On a plate", json_schema_extra={"labels": ["no", "a circle", "a square"]}
    )
    plate_colour: Tone = Field("tint", title="The plate is", json_schema_extra=TONE_CHOICES)
    alt: str = Field("", max_length=300, title="In words", description="left out: it decorates, and says nothing")

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        content = {"sign": "line:bulb"}
        return (Offer("An icon", content, "thousands, of one line or in colour", sample=content, sample_height=110),)

    def signs(self) -> list[str]:
        return [*super().signs(), self.sign]

    def decorates(self) -> bool:
        return not self.alt.strip()

    def usual_size(self) -> tuple[int, int]:
        return (4, 12)

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        return _ON_A_PHONE_PX

    def draws(self, box: Box, context: Context) -> Drawn:
        side = min(box.width, box.height)
        house = context.style
        plate = tone(context.house, self.plate_colour) if self.plate else ""
        colour = lifted(tone(house, self.colour), plate or house.paper, _SEEN)
        manner = context.signed(colour, plate=self.plate, plate_colour=plate)
        shapes = sign_shapes(self.sign, (box.width - side) / 2, (box.height - side) / 2, side, manner)
        problem = "" if is_sign(self.sign) else _GONE
        return Drawn(Scene(box.width, box.height, tuple(shapes), self.alt.strip()), problem=problem)

    def label(self) -> str:
        return f"Icon: {self.alt.strip() or sign_label(self.sign)}"
