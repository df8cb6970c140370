"""Text: a title, a heading, a paragraph or a small note."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ypsil.core.tiles.base import TileKind, Written

_SIZES = {"title": (24, 8), "heading": (24, 5), "body": (12, 10), "note": (24, 3)}
_HEADINGS = ("title", "heading")


class TextTile(TileKind):
    type: Literal["text"] = "text"
    role: Literal["title", "heading", "body", "note"] = "body"
    text: str = Field("", max_length=20_000)

    def usual_size(self) -> tuple[int, int]:
        return _SIZES[self.role]

    def writes(self, sources: str) -> Written:
        return Written(self.text, self.role, is_quiet=self.role == "note", is_typed=True)

    def heading(self) -> str:
        return self.role if self.role in _HEADINGS and self.text.strip() else ""

    def label(self) -> str:
        return f"{self.role.capitalize()}: {self.text[:60]}" if self.text else f"Empty {self.role}"
