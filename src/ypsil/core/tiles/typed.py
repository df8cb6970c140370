"""What somebody types on the page: its role, how it is set, its words with looks, lists and live figures."""

from __future__ import annotations

from typing import Any, ClassVar, Literal

from pydantic import Field, field_serializer, field_validator

from ypsil.core.prose.model import MOST_LETTERS, Prose, Text, TextColour, prose_of, simplest
from ypsil.core.prose.setting import Align
from ypsil.core.tiles.base import Asked, TileKind
from ypsil.core.tiles.context import Context
from ypsil.core.tiles.written import Written

Role = Literal["title", "heading", "lead", "body", "note", "quote", "big", "label"]
Size = Literal["smaller", "usual", "larger", "largest"]
ROLES = {
    "title": "A title",
    "heading": "A heading",
    "lead": "An opening",
    "body": "A paragraph",
    "note": "A small note",
    "quote": "A quote",
    "big": "A big number",
    "label": "A label",
}
ALIGNS = ("where they begin", "centred", "where they end")
_SCALES: dict[Size, float] = {"smaller": 0.85, "usual": 1.0, "larger": 1.25, "largest": 1.6}
_HEADINGS = ("title", "heading")
_QUIET = ("note",)


class TypedTile(TileKind):
    """What kinds that are typed into have in common; it is none itself. Into one that stands without words as well,
    they are typed by a second press."""

    is_typed_at_once: ClassVar[bool] = True
    can_turn = True
    role: Role = Field("body", title="It is", json_schema_extra={"labels": [*ROLES.values()]})
    size: Size = Field("usual", title="Its type is")
    align: Align = Field(
        "start",
        title="Its lines stand",
        json_schema_extra={"labels": [*ALIGNS]},
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
    says_of: str = Field("", pattern=r"^[a-z0-9]{0,16}$", description="the visual whose finding a draft wrote here")
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

    @property
    def prose(self) -> Prose:
        return prose_of(self.text)

    @property
    def plain(self) -> str:
        """Its words alone."""
        return self.text if isinstance(self.text, str) else self.text.plain()

    def is_open(self) -> bool:
        return bool(self.hint) and not self.plain.strip()

    def questions(self) -> list[Asked]:
        return [Asked(figure.table, one) for figure in self.prose.figures() for one in figure.questions()]

    def writes(self, context: Context) -> Written | None:
        return self.written(context)

    def written(self, context: Context) -> Written:
        """Return its words as they are set."""
        return Written(
            self.prose,
            self.role,
            is_quiet=self.role in _QUIET and not self.colour,
            is_typed=True,
            is_at_once=self.is_typed_at_once,
            align=self.align,
            colour=self.colour,
            columns=self.columns,
            scale=_SCALES[self.size],
            is_fitted=self.fits == "shrinks",
            points=self.points(context),
        )

    def heading(self) -> str:
        return self.role if self.role in _HEADINGS and self.plain.strip() else ""
