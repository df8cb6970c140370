"""What every kind of tile has, and what it may say of itself."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar, Self

from pydantic import BaseModel, ConfigDict, Field, field_validator

from ypsil.core.choosing import Control
from ypsil.core.document.model import Frame, new_id
from ypsil.core.drawing.routes import Point, Span
from ypsil.core.prose.model import Prose
from ypsil.core.questions.model import Question
from ypsil.core.style.cards import Card
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles.context import Charted, Context, Drawn, Ends
from ypsil.core.tiles.leading import Played, address_problem, band_of
from ypsil.core.tiles.sourced import MOST_POINTED, Cite, numbers_of
from ypsil.core.tiles.written import Written
from ypsil.core.visuals import Box
from ypsil.core.visuals.shared.rooms import message_scene

IN_WORDS = "explain in words"
IN_ORDER = "tell in order"
AS_SIGN = "an icon or a code"
TO_PRESS = "something to press"


@dataclass(frozen=True, slots=True)
class Asked:
    """What a tile asks, and of which table."""

    table: str
    question: Question


@dataclass(frozen=True, slots=True)
class Offer:
    """Something that can be added to a band: what it is called, what it holds, a word on it, whether somebody types
    into it right away, and what it holds where it is shown as an example, at least so high (px)."""

    label: str
    content: dict[str, Any]
    hint: str = ""
    is_typed: bool = False
    sample: dict[str, Any] = field(default_factory=dict)
    sample_height: float = 0.0


class TileKind(BaseModel):
    """A kind of tile; each says of itself what others need to know."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    # Whether other tiles stand in it; then nothing is drawn for itself.
    holds: ClassVar[bool] = False
    # Whether it is its band's own: nobody chooses it by itself.
    is_of_band: ClassVar[bool] = False
    # Whether it can be turned: what is read off axes is not.
    can_turn: ClassVar[bool] = False
    # What it is called on its buttons, what is said of it when it is chosen, and which of its fields are set there.
    called: ClassVar[str] = "tile"
    settings: ClassVar[tuple[str, ...]] = ()
    # Whether it names the sources of the page.
    names_sources: ClassVar[bool] = False
    # The purpose that it is offered under, where it is offered as it is.
    offered_under: ClassVar[str] = IN_WORDS
    # Among those of its purpose, how early it is offered: lower ones first.
    offered_rank: ClassVar[int] = 9
    # The topics that some of its settings are folded under; the others stand open.
    folded: ClassVar[dict[str, str]] = {}

    type: str
    id: str = Field(default_factory=new_id, pattern=r"^[a-z0-9]{1,16}$")
    place: Frame | None = Field(None, description="left out: the next free place")
    is_locked: bool = Field(False, description="neither moved nor taken away until it is unlocked")
    card: Card | None = Field(None, description="what stands behind it; left out: nothing")
    opacity: float = Field(1.0, ge=0.1, le=1.0, description="how little of what lies behind it is seen through it")
    turn: float = Field(
        0.0, ge=-180, le=180, title="Turned, in degrees", description="about its middle, as the hands of a clock go"
    )
    leads_to: str = Field("", max_length=2_000, description="an address, or “#” and the id of a band, for readers")

    why: str = Field("", max_length=500, description="why a draft put it there, for its author; readers never see it")
    cites: tuple[Cite, ...] = Field((), max_length=MOST_POINTED, description="the sources that it points to by numbers")

    @field_validator("leads_to")
    @classmethod
    def _leads_somewhere(cls, leads_to: str) -> str:
        leads_to = leads_to.strip()
        problem = "" if not leads_to or band_of(leads_to) else address_problem(leads_to)
        if problem:
            raise ValueError(problem)
        return leads_to

    def changing(self, changes: dict[str, Any]) -> dict[str, Any]:
        """Return new values of its fields as they are stored; they may come as somebody typed them."""
        return changes

    def below(self) -> tuple[Any, ...]:
        """Return the tiles that stand in it."""
        return ()

    def is_open(self) -> bool:
        """Whether it only keeps a place, or asks its author for words: readers see nothing of it, not even its card."""
        return False

    def decorates(self) -> bool:
        """Whether it only gives the page its form, and says nothing to its readers."""
        return False

    def chooses(self) -> Control | None:
        """Return what its readers choose by at it; None for what is no control."""
        return None

    def offers_marks(self) -> tuple[str, str]:
        """Return the table and the column whose values readers choose by pressing its marks; none where they cannot."""
        return "", ""

    def takes_picture(self) -> bool:
        """Tell whether a picture that is dropped on it goes into it."""
        return False

    def filled(self, picture: str, aspect: float) -> TileKind:
        """Return it with a picture in it, which may be a tile of another kind; only for what takes one."""
        raise NotImplementedError

    def kept(self) -> dict[str, Any]:
        """Return what stays with it when it becomes a tile of another kind."""
        return {name: getattr(self, name) for name in TileKind.model_fields if name not in ("type", "id")}

    def emptied(self) -> TileKind | None:
        """Return it without the picture that fills its letters; None where none does."""
        return None

    def leads(self) -> str:
        """Return where readers who press it go: an address, or a band; nothing where it leads nowhere."""
        return self.leads_to

    def unfolds(self) -> Prose | None:
        """Return what it opens when it is pressed; None for what opens nothing."""
        return None

    def plays(self) -> Played | None:
        """Return the film or the sound that can be played in its place."""
        return None

    def frames(self) -> str:
        """Return the address of the page that can be shown in its place, or nothing."""
        return ""

    def beneath(self, width: float, context: Context) -> float:
        """Return the height (px) that words take below what is played in its place."""
        return 0.0

    def joins(self) -> tuple[str, ...]:
        """Return the two tiles that it is drawn between, by their ids; nothing for what has a place of its own."""
        return ()

    def joining(self, names: Mapping[str, str]) -> Self:
        """Return it between, or about, the tiles that have other ids now."""
        return self

    def spans(self, ends: Ends, context: Context) -> Span:
        """Return the rectangle that it takes between others, in the px of those; only for what joins tiles."""
        raise NotImplementedError

    def pressed(self, context: Context) -> tuple[Point, ...]:
        """Return the corners of where a press means it, by its drawing's corner; none where that is its whole place."""
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

    def questions(self) -> list[Asked]:
        """Return all that it asks of tables."""
        asked = self.asks()
        return [] if asked is None else [asked]

    def insets(self) -> tuple[float, float, float, float]:
        """Return what it leaves free round its words, as parts of its width and height: left, top, right, foot."""
        return (0.0, 0.0, 0.0, 0.0)

    def grounds(self) -> tuple[str, ...]:
        """Return the tones that what is written in it stands on, where it brings them itself: one, or the ends of a
        fading."""
        return ()

    def writes(self, context: Context) -> Written | None:
        """Return what it says in words, where it does."""
        return None

    def typed_sources(self) -> list[tuple[str, str]]:
        """Return the sources that somebody typed into it, each with its id."""
        return []

    def names(self) -> tuple[bool, bool]:
        """Tell whether it names the icons' sets among the sources, and the faces of the type."""
        return False, False

    def signs(self) -> list[str]:
        """Return the names of the signs that it shows."""
        return [self.card.icon] if self.card is not None and self.card.icon else []

    def points(self, context: Context) -> str:
        """Return the numbers of the sources that it points to, as they are shown."""
        return ", ".join(map(str, numbers_of(self.cites, context.sources)))

    def least_height(self, width: float, context: Context) -> float:
        """Return the height in px that it cannot do without at a width: that of its text."""
        written = self.writes(context)
        return 0.0 if written is None else written.height(width, context)

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        """Return how high it is drawn once more at a phone's width, 0 where it is not; ``wide`` is the page's."""
        return 0.0

    def fetches(self, box: Box, context: Context) -> int:
        """Get the rows that its drawing will need, so that it can be made beside others; return how many they are."""
        return 0

    def draws(self, box: Box, context: Context) -> Drawn:
        """Return its drawing in a room; one that cannot be drawn says why."""
        written = self.writes(context)
        if written is None:
            return waiting(self.waits_for(), box, context)
        return Drawn(written.scene(box, context), problem=written.problem(context))

    def charted(self, drawn: Drawn, context: Context) -> Charted | None:
        """Return its drawing as a chart of office programs; None where it is no such chart."""
        return None

    def waits_for(self) -> str:
        """Return why it cannot be shown, whatever the data; nothing where it can."""
        return ""

    def pictures(self) -> list[str]:
        """Return the names of the pictures that somebody brought and the tile shows."""
        return []

    def pictures_of(self, style: HouseStyle) -> list[str]:
        """Return the names of the pictures of a house style that it shows."""
        return []

    def credits(self) -> list[str]:
        """Return whom to thank for it, for the line about sources."""
        return []

    def lacks_words(self) -> bool:
        """Tell whether it says nothing to those who cannot see it, and should."""
        return False

    def listed(self, context: Context) -> list[tuple[str, str]]:
        """Return what it tells as a list: what each entry is, and what is said of it; nothing where it is no list."""
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

    def turned(self) -> float:
        """Return how far it is turned, in degrees as the hands of a clock go; 0 for what cannot be."""
        return self.turn if self.can_turn else 0.0

    def check(self) -> None:
        """Raise DrawingRefused where it asks for what cannot be drawn."""


def waiting(message: str, box: Box, context: Context) -> Drawn:
    """Return a drawing that says in words why there is no other."""
    return Drawn(message_scene(message, box, context.style, "Waiting for data"), None, message)
