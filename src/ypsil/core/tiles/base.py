"""What every kind of tile has, and what it may say of itself."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, ClassVar, Literal, Self

from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.document.model import Frame, new_id
from ypsil.core.drawing.scene import Scene, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.questions.model import Question
from ypsil.core.style.cards import Card
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.visuals import Box
from ypsil.core.visuals.shared.rooms import message_scene

Align = Literal["start", "middle", "end"]
TextColour = Literal["", "accent", "second", "third", "fourth", "quiet"]
_OTHERS = {"second": 1, "third": 2, "fourth": 3}


@dataclass(frozen=True, slots=True)
class Asked:
    """What a tile asks, and of which table."""

    table: str
    question: Question


@dataclass(frozen=True, slots=True)
class Offer:
    """Something that can be added to a band: what it is called, what it holds, a word on it, and whether somebody
    types into it right away."""

    label: str
    content: dict[str, Any]
    hint: str = ""
    is_typed: bool = False


@dataclass(frozen=True, slots=True)
class Written:
    """What a tile says in words: the role that its type is set in, whether it stands back, and whether somebody typed
    it there."""

    text: str
    role: str
    is_quiet: bool = False
    is_typed: bool = False
    align: Align = "start"
    colour: TextColour = ""

    def height(self, width: float, context: Context) -> float:
        """Return the height in px that its lines take at a width."""
        font = context.font(self.role)
        return len(wrap(self.text, width, font)) * font.line_height

    def scene(self, box: Box, context: Context) -> Scene:
        """Return its lines as a drawing."""
        font = context.font(self.role)
        colour = self._ink(context.style)
        x = {"start": 0.0, "middle": box.width / 2, "end": box.width}[self.align]
        lines = enumerate(wrap(self.text, box.width, font))
        shapes = tuple(
            Text(x, index * font.line_height + font.size, line, font, colour, self.align)
            for index, line in lines
            if line
        )
        return Scene(box.width, box.height, shapes)

    def _ink(self, style: HouseStyle) -> str:
        if self.is_quiet or self.colour == "quiet":
            return style.muted
        if self.colour in _OTHERS:
            return style.colour(_OTHERS[self.colour])
        return style.accent if self.colour == "accent" else style.ink


class TileKind(BaseModel):
    """A kind of tile; each says of itself what others need to know."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    # Whether other tiles stand in it; then nothing is drawn for itself.
    holds: ClassVar[bool] = False
    # Whether it is its band's own: nobody chooses it by itself.
    is_of_band: ClassVar[bool] = False
    # What it is called on its buttons, what is said of it when it is chosen, and which of its fields are set there.
    called: ClassVar[str] = "tile"
    settings: ClassVar[tuple[str, ...]] = ()

    type: str
    id: str = Field(default_factory=new_id, pattern=r"^[a-z0-9]{1,16}$")
    place: Frame | None = Field(None, description="left out: the next free place")
    is_locked: bool = Field(False, description="neither moved nor taken away until it is unlocked")
    card: Card | None = Field(None, description="what stands behind it; left out: nothing")

    def below(self) -> tuple[Any, ...]:
        """Return the tiles that stand in it."""
        return ()

    def with_below(self, tiles: tuple[Any, ...]) -> Self:
        """Return it with other tiles within; only for what holds any."""
        raise NotImplementedError

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        """Return what of it an author can add as it is; nothing where more has to be chosen first."""
        return ()

    def usual_size(self) -> tuple[int, int]:
        """Return the columns and rows that a new tile takes on a page of 24 columns, with rows of 8 px."""
        return (24, 6)

    def asks(self) -> Asked | None:
        """Return what it asks of a table, where it asks anything."""
        return None

    def writes(self, sources: str) -> Written | None:
        """Return what it says in words, where it does; ``sources`` is the line about the report's tables."""
        return None

    def least_height(self, width: float, context: Context) -> float:
        """Return the height in px that it cannot do without at a width: that of its text."""
        written = self.writes(context.sources)
        return 0.0 if written is None else written.height(width, context)

    def fetches(self, box: Box, context: Context) -> int:
        """Get the rows that its drawing will need, so that it can be made beside others; return how many they are."""
        return 0

    def draws(self, box: Box, context: Context) -> Drawn:
        """Return its drawing in a room; one that cannot be drawn says why."""
        written = self.writes(context.sources)
        return waiting(self.waits_for(), box, context) if written is None else Drawn(written.scene(box, context))

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

    def hints(self) -> str:
        """Return what its author is told in its place, as long as it holds nothing; readers never see it."""
        return ""

    def about(self) -> str:
        """Return what is said of it when it is chosen; nothing where its settings say enough."""
        return ""

    def check(self) -> None:
        """Raise DrawingRefused where it asks for what cannot be drawn."""


def waiting(message: str, box: Box, context: Context) -> Drawn:
    """Return a drawing that says in words why there is no other."""
    return Drawn(message_scene(message, box, context.style, "Waiting for data"), None, message)
