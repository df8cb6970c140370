"""Text: a title, a heading, a paragraph or a small note, with looks, lists and live figures."""

from __future__ import annotations

from typing import Literal

from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.picture import MOST_FILLED, PictureTile
from ypsil.core.tiles.typed import ROLES, TypedTile

_SIZES = {
    "title": (24, 8), "heading": (24, 5), "lead": (18, 8), "body": (12, 10), "note": (24, 3), "quote": (16, 12),
    "big": (10, 16), "label": (8, 3),
}  # fmt: skip
_MOST_SAID = 60


class TextTile(TypedTile):
    called = "text"
    settings = ("role", "size", "align", "colour", "columns", "fits")
    type: Literal["text"] = "text"

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return tuple(Offer(label, {"role": role}, is_typed=True) for role, label in ROLES.items())

    def takes_picture(self) -> bool:
        letters = self.plain.strip()
        return 0 < len(letters) <= MOST_FILLED and "\n" not in letters and not any(True for _ in self.prose.figures())

    def filled(self, picture: str, aspect: float) -> PictureTile:
        letters = self.plain.strip()
        return PictureTile(**self.kept(), picture=picture, aspect=aspect, letters=letters, alt=letters)

    def usual_size(self) -> tuple[int, int]:
        return _SIZES[self.role]

    def hints(self) -> str:
        return "" if self.plain.strip() else self.hint or "Type here"

    def about(self) -> str:
        return "Type straight on the page."

    def label(self) -> str:
        return f"{self.role.capitalize()}: {self.plain[:_MOST_SAID]}" if self.text else f"Empty {self.role}"
