"""What every kind of tile has, and what it may say of itself."""

from __future__ import annotations

from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ypsil.core.document.model import Frame, new_id
from ypsil.core.questions.model import Question

GRID_COLUMNS = 24


class Place(Frame):
    """Where a tile stands in its band: columns of the 24-column grid, rows of 8 px."""

    column: int = Field(ge=0, lt=GRID_COLUMNS)
    row: int = Field(ge=0, le=1000)
    width: int = Field(ge=1, le=GRID_COLUMNS)
    height: int = Field(ge=1, le=400)

    @model_validator(mode="after")
    def _inside(self) -> Place:
        if self.column + self.width > GRID_COLUMNS:
            raise ValueError("the tile reaches beyond the right edge of the page")
        return self


@dataclass(frozen=True, slots=True)
class Asked:
    """What a tile asks, and of which table."""

    table: str
    question: Question


@dataclass(frozen=True, slots=True)
class Written:
    """What a tile says in words: the role that its type is set in, whether it stands back, and whether somebody typed
    it there."""

    text: str
    role: str
    is_quiet: bool = False
    is_typed: bool = False


class TileKind(BaseModel):
    """A kind of tile; each says of itself what others need to know."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    id: str = Field(default_factory=new_id, pattern=r"^[a-z0-9]{1,16}$")
    place: Place | None = Field(None, description="left out: the next free place")

    def usual_size(self) -> tuple[int, int]:
        """Return the columns and rows that a new tile takes."""
        return (24, 6)

    def asks(self) -> Asked | None:
        """Return what it asks of a table, where it asks anything."""
        return None

    def writes(self, sources: str) -> Written | None:
        """Return what it says in words, where it does; ``sources`` is the line about the report's tables."""
        return None

    def waits_for(self) -> str:
        """Return why it cannot be shown, whatever the data; nothing where it can."""
        return ""

    def pictures(self) -> list[str]:
        """Return the names of the pictures that somebody brought and the tile shows."""
        return []

    def heading(self) -> str:
        """Return which heading of the outline it is: a title, a heading, or nothing."""
        return ""

    def label(self) -> str:
        """Return what it is called where its drawing has no name."""
        return "A tile"

    def check(self) -> None:
        """Raise DrawingRefused where it asks for what cannot be drawn."""
