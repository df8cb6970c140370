"""Text: a title, a heading, a paragraph or a small note."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ypsil.core.tiles.base import Align, Offer, TextColour, TileKind, Written

Role = Literal["title", "heading", "lead", "body", "note", "quote", "big", "label"]
_SIZES = {
    "title": (24, 8), "heading": (24, 5), "lead": (18, 8), "body": (12, 10), "note": (24, 3), "quote": (16, 12),
    "big": (10, 16), "label": (8, 3),
}  # fmt: skip
_ROLES = {
    "title": "A title",
    "heading": "A heading",
    "lead": "An opening",
    "body": "A paragraph",
    "note": "A small note",
    "quote": "A quote",
    "big": "A big number",
    "label": "A label",
}
_HEADINGS = ("title", "heading")
_QUIET = ("note",)


class TextTile(TileKind):
    called = "text"
    settings = ("role", "align", "colour")
    type: Literal["text"] = "text"
    role: Role = Field("body", title="It is", json_schema_extra={"labels": [*_ROLES.values()]})
    align: Align = Field("start", title="Its lines stand", json_schema_extra={"labels": ["left", "centred", "right"]})
    colour: TextColour = Field(
        "",
        title="Colour",
        json_schema_extra={"labels": ["as usual", "the main colour", "the second", "the third", "the fourth", "quiet"]},
    )
    hint: str = Field("", max_length=200, description="what belongs there, for its author; readers never see it")
    text: str = Field("", max_length=20_000)

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return tuple(Offer(label, {"role": role}, is_typed=True) for role, label in _ROLES.items())

    def usual_size(self) -> tuple[int, int]:
        return _SIZES[self.role]

    def writes(self, sources: str) -> Written:
        is_quiet = self.role in _QUIET and not self.colour
        return Written(self.text, self.role, is_quiet, is_typed=True, align=self.align, colour=self.colour)

    def heading(self) -> str:
        return self.role if self.role in _HEADINGS and self.text.strip() else ""

    def hints(self) -> str:
        return "" if self.text.strip() else self.hint or "Type here"

    def about(self) -> str:
        return "Type straight on the page."

    def label(self) -> str:
        return f"{self.role.capitalize()}: {self.text[:60]}" if self.text else f"Empty {self.role}"
