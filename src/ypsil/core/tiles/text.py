"""Text: a title, a heading, a paragraph or a small note, with looks, lists and live figures."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, field_serializer, field_validator

from ypsil.core.prose.model import MOST_LETTERS, Prose, Text, TextColour, prose_of, simplest
from ypsil.core.prose.setting import Align
from ypsil.core.tiles.base import Asked, Offer, TileKind
from ypsil.core.tiles.written import Written

Role = Literal["title", "heading", "lead", "body", "note", "quote", "big", "label"]
Size = Literal["smaller", "usual", "larger", "largest"]
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
_SCALES: dict[Size, float] = {"smaller": 0.85, "usual": 1.0, "larger": 1.25, "largest": 1.6}
_HEADINGS = ("title", "heading")
_QUIET = ("note",)
_MOST_SAID = 60


class TextTile(TileKind):
    called = "text"
    can_turn = True
    settings = ("role", "size", "align", "colour", "columns", "fits")
    type: Literal["text"] = "text"
    role: Role = Field("body", title="It is", json_schema_extra={"labels": [*_ROLES.values()]})
    size: Size = Field("usual", title="Its type is")
    align: Align = Field(
        "start",
        title="Its lines stand",
        json_schema_extra={"labels": ["where they begin", "centred", "where they end"]},
    )
    colour: TextColour = Field(
        "",
        title="Colour",
        json_schema_extra={"labels": ["as usual", "the main colour", "the second", "the third", "the fourth", "quiet"]},
    )
    columns: int = Field(1, ge=1, le=3, title="Columns")
    fits: Literal["grows", "shrinks"] = Field(
        "grows",
        title="Where there is little room",
        json_schema_extra={"labels": ["its place grows", "its type gets smaller"]},
    )
    hint: str = Field("", max_length=200, description="what belongs there, for its author; readers never see it")
    text: Text = Field("", description="plain, or with looks, lists and live figures")

    @field_validator("text")
    @classmethod
    def _as_stored(cls, text: Text) -> Text:
        if isinstance(text, str) and len(text) > MOST_LETTERS:
            raise ValueError(f"a text has at most {MOST_LETTERS:,} letters")
        return simplest(text)

    @field_serializer("text")
    def _without_what_is_usual(self, text: Text) -> str | dict[str, Any]:
        return text if isinstance(text, str) else text.model_dump(mode="json", exclude_defaults=True)

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return tuple(Offer(label, {"role": role}, is_typed=True) for role, label in _ROLES.items())

    def usual_size(self) -> tuple[int, int]:
        return _SIZES[self.role]

    @property
    def prose(self) -> Prose:
        return prose_of(self.text)

    @property
    def plain(self) -> str:
        """Its words alone."""
        return self.text if isinstance(self.text, str) else self.text.plain()

    def questions(self) -> list[Asked]:
        return [Asked(figure.table, one) for figure in self.prose.figures() for one in figure.questions()]

    def writes(self, sources: str) -> Written:
        return Written(
            self.prose,
            self.role,
            is_quiet=self.role in _QUIET and not self.colour,
            is_typed=True,
            align=self.align,
            colour=self.colour,
            columns=self.columns,
            scale=_SCALES[self.size],
            is_fitted=self.fits == "shrinks",
        )

    def heading(self) -> str:
        return self.role if self.role in _HEADINGS and self.plain.strip() else ""

    def hints(self) -> str:
        return "" if self.plain.strip() else self.hint or "Type here"

    def about(self) -> str:
        return "Type straight on the page."

    def label(self) -> str:
        return f"{self.role.capitalize()}: {self.plain[:_MOST_SAID]}" if self.text else f"Empty {self.role}"
