"""Cards: what may stand behind a tile. A report's cards have one manner; a tile says only what differs."""

from __future__ import annotations

from typing import Any

from pydantic import (
    BaseModel,
    ConfigDict,
    Field,
    SerializerFunctionWrapHandler,
    field_validator,
    model_serializer,
)

from ypsil.core.style.grounds import Ground

MOST_SAID = 60
# How high the strip at the head of a card is, in times the page's usual size of type.
_HEADER_EMS = 2.1
_USUAL_HEADER = "deep"


class CardManner(BaseModel):
    """How the cards of a report look; lengths are px at the page's usual size of type."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    fill: str = Field("wash", title="Fill")
    line: str = Field("", title="Line", description="left out: none")
    corner: float = Field(10, ge=0, le=60, title="Corner, in px")
    padding: float = Field(18, ge=0, le=80, title="Room within, in px")
    has_shadow: bool = Field(False, title="Shadow")
    edge: str = Field("", title="A strip at its left", description="left out: none")
    header: str = Field(_USUAL_HEADER, title="Strip at its head", description="where a card has an icon or words there")

    @field_validator("fill", "line", "edge", "header")
    @classmethod
    def _is_known(cls, colour: str) -> str:
        return Ground(colour=colour).colour if colour else colour

    @model_serializer(mode="wrap")
    def _without_what_came_later(self, rest: SerializerFunctionWrapHandler) -> dict[str, Any]:
        # As long as it is as usual, an earlier Ypsil reads the document, too.
        data: dict[str, Any] = rest(self)
        return {name: value for name, value in data.items() if name != "header" or value != _USUAL_HEADER}


class Card(BaseModel):
    """What differs of one card from the report's manner; what is left out is as usual."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    fill: str | None = Field(None, title="Fill")
    line: str | None = Field(None, title="Line")
    corner: float | None = Field(None, ge=0, le=60, title="Corner, in px")
    padding: float | None = Field(None, ge=0, le=80, title="Room within, in px")
    has_shadow: bool | None = Field(None, title="Shadow")
    edge: str | None = Field(None, title="A strip at its left")
    header: str | None = Field(None, title="Strip at its head")
    icon: str = Field("", max_length=60, title="Icon at its head")
    says: str = Field("", max_length=MOST_SAID, title="Words at its head")

    @field_validator("fill", "line", "edge", "header")
    @classmethod
    def _is_known(cls, colour: str | None) -> str | None:
        return Ground(colour=colour).colour if colour else colour

    def header_height(self, text_size: float) -> float:
        """Return how high the strip at its head is, in px for a size of type in px; 0 where there is none.

        >>> Card(says="Loans").header_height(10), Card().header_height(10)
        (21.0, 0.0)
        """
        return _HEADER_EMS * text_size if self.icon or self.says.strip() else 0.0

    def by(self, manner: CardManner) -> CardManner:
        """Return how it looks in a manner.

        >>> Card(fill="ink").by(CardManner(corner=4)).corner
        4.0
        """
        of_manner = self.model_dump(include=set(CardManner.model_fields))
        own = {name: value for name, value in of_manner.items() if value is not None}
        return CardManner.model_validate(manner.model_dump() | own)
