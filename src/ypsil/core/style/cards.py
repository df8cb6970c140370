"""Cards: what may stand behind a tile. A report's cards have one manner; a tile says only what differs."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field, field_validator

from ypsil.core.style.grounds import Ground


class CardManner(BaseModel):
    """How the cards of a report look; lengths are px at the page's usual size of type."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    fill: str = Field("wash", title="Fill")
    line: str = Field("", title="Line", description="left out: none")
    corner: float = Field(10, ge=0, le=60, title="Corner, in px")
    padding: float = Field(18, ge=0, le=80, title="Room within, in px")
    has_shadow: bool = Field(False, title="Shadow")
    edge: str = Field("", title="A strip at its left", description="left out: none")

    @field_validator("fill", "line", "edge")
    @classmethod
    def _is_known(cls, colour: str) -> str:
        return Ground(colour=colour).colour if colour else colour


class Card(BaseModel):
    """What differs of one card from the report's manner; what is left out is as usual."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    fill: str | None = Field(None, title="Fill")
    line: str | None = Field(None, title="Line")
    corner: float | None = Field(None, ge=0, le=60, title="Corner, in px")
    padding: float | None = Field(None, ge=0, le=80, title="Room within, in px")
    has_shadow: bool | None = Field(None, title="Shadow")
    edge: str | None = Field(None, title="A strip at its left")

    def by(self, manner: CardManner) -> CardManner:
        """Return how it looks in a manner.

        >>> Card(fill="ink").by(CardManner(corner=4)).corner
        4.0
        """
        own = {name: value for name, value in self.model_dump().items() if value is not None}
        return CardManner.model_validate(manner.model_dump() | own)
