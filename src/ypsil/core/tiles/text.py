"""Text: a title, a heading, a paragraph or a small note."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ypsil.core.tiles.base import Offer, TileKind, Written

_SIZES = {"title": (24, 8), "heading": (24, 5), "body": (12, 10), "note": (24, 3)}
_ROLES = {"title": "A title", "heading": "A heading", "body": "A paragraph", "note": "A small note"}
_HEADINGS = ("title", "heading")


class TextTile(TileKind):
    called = "text"
    settings = ("role",)
    type: Literal["text"] = "text"
    role: Literal["title", "heading", "body", "note"] = Field(
        "body", title="It is", json_schema_extra={"labels": [*_ROLES.values()]}
    )
    text: str = Field("", max_length=20_000)

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return tuple(Offer(label, {"role": role}, is_typed=True) for role, label in _ROLES.items())

    def usual_size(self) -> tuple[int, int]:
        return _SIZES[self.role]

    def writes(self, sources: str) -> Written:
        return Written(self.text, self.role, is_quiet=self.role == "note", is_typed=True)

    def heading(self) -> str:
        return self.role if self.role in _HEADINGS and self.text.strip() else ""

    def about(self) -> str:
        return "Type straight on the page."

    def label(self) -> str:
        return f"{self.role.capitalize()}: {self.text[:60]}" if self.text else f"Empty {self.role}"
