"""What a template is: what it needs of a table, how it looks, and bands of places with what belongs in each."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import (
    BaseModel,
    ConfigDict,
    Field,
    SerializerFunctionWrapHandler,
    field_validator,
    model_serializer,
    model_validator,
)

from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.document.page_formats import KINDS_OF_PAGE, PAGE_FORMATS
from ypsil.core.drawing.faces import FAMILIES, HUMANIST
from ypsil.core.prose.model import TextColour
from ypsil.core.prose.setting import Align
from ypsil.core.report.document import MAX_BANDS, MAX_TILES_IN_BAND
from ypsil.core.style.cards import Card, CardManner
from ypsil.core.style.grounds import Ground
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.icons import IconManner
from ypsil.core.style.palettes import HOUSE, PALETTES
from ypsil.core.tables.model import Kind
from ypsil.core.tiles import KINDS
from ypsil.core.tiles.typed import Role, Size
from ypsil.core.visuals import VISUALS
from ypsil.core.visuals.base import Purpose

ROLE = "@"
# The role whose values ``@1``, ``@2`` … are, in the order in which they lead.
GROUP = "group"
MOST_ROWS, MOST_NEEDS = 300, 60
# What stands for the periods that a table has rows for, its months, and classes with round borders.
GRAIN, MONTHS, CLASSES = "@grain", "@months", "@classes"
# Where a tile says what it asks of its table.
ASKING = ("question", "against", "feed")


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Need(_Model):
    """A role that a column of the table plays; ``says`` is how it is asked for ("a date")."""

    role: str = Field(pattern=r"^[a-z]{1,20}$")
    kind: Kind
    says: str = Field(min_length=1, max_length=80)
    required: bool = True
    least: int = Field(1, ge=1, description="how many different values it has at least")
    most: int = Field(1_000_000, ge=1, description="how many different values it has at most")
    is_added: bool = Field(False, description="only a number that is added up will do")
    crosses: str = Field("", max_length=20, description="a role that it must not follow from, as an area from a branch")
    is_answer: bool = Field(False, description="what people answered: yes or no, one or several of some answers")
    is_each_row: bool = Field(False, description="names the rows: (nearly) every row has another value")
    like: str = Field("", max_length=500, description="what the column is called that plays it where there is one")

    @model_validator(mode="after")
    def _can_be(self) -> Need:
        if self.least > self.most:
            raise ValueError(f"the role “{self.role}” needs at least {self.least} and at most {self.most} values")
        return self


class _Part(_Model):
    needs: tuple[str, ...] = Field((), description="roles without which it is left out")
    card: Card | None = None
    height: int = Field(0, ge=0, le=MOST_ROWS, description="in rows; 0: what others beside it leave")

    @model_serializer(mode="wrap")
    def _with_what_it_is(self, dumped: SerializerFunctionWrapHandler) -> dict[str, Any]:
        # What tells the parts apart is said also where all that is as usual is left out.
        return {"part": type(self).model_fields["part"].default, **dumped(self)}


class Words(_Part):
    """Text: the finding of a visual, what is the same in every report, or a question to the author that no reader
    sees. ``{role}`` stands for the name of the role's column, ``{table}`` for the table's, ``{1}`` for the first
    group."""

    part: Literal["words"] = "words"
    role: Role = "body"
    finds: tuple[str, ...] = Field((), description="names of visuals: the finding of the first that has one")
    span: bool = Field(False, description="how many rows there are, and which time they are of")
    text: str = Field("", max_length=300)
    asks: str = Field("", max_length=200)
    align: Align = "start"
    size: Size = "usual"
    colour: TextColour = ""


class Shown(_Part):
    """A visual: questions with ``@role`` for columns, the best first, and the visuals that suit, the best first."""

    part: Literal["visual"] = "visual"
    name: str = Field("", max_length=20)
    questions: tuple[dict[str, Any], ...] = Field((), max_length=8)
    purpose: Purpose | None = Field(None, description="what it is for, where it is found by what a table suggests")
    visuals: tuple[str, ...] = Field((), max_length=10)
    options: dict[str, Any] = Field(default_factory=dict)
    is_titled: bool = True
    asks: str = Field("", max_length=200, description="what is kept there where no table has it; left out: nothing")

    @field_validator("visuals")
    @classmethod
    def _are_known(cls, visuals: tuple[str, ...]) -> tuple[str, ...]:
        unknown = [name for name in visuals if name not in VISUALS]
        if unknown:
            raise ValueError(f"there is no visual “{unknown[0]}”")
        return visuals


class Fed(_Part):
    """A list that is told from the rows of the table; columns are given as ``@role``."""

    part: Literal["told"] = "told"
    tile: dict[str, Any]


class Still(_Part):
    """Anything else, as it is: an icon, an ornament, a shape, a place for a picture."""

    part: Literal["tile"] = "tile"
    tile: dict[str, Any]


class Kept(_Part):
    """A tile of somebody's own, as it stood. In what it asks, columns are given as ``@role``; where a table has
    nothing for it, its place is kept with ``asks``. Text that tells what a visual shows names that in ``finds``."""

    part: Literal["kept"] = "kept"
    name: str = Field("", pattern=r"^[a-z0-9]{0,16}$", description="what others of the template call it")
    tile: dict[str, Any]
    finds: tuple[str, ...] = Field((), max_length=1)
    span: bool = Field(False, description="it says which rows there are, and which time they are of")
    asks: str = Field("", max_length=200)

    @field_validator("tile")
    @classmethod
    def _is_of_a_kind(cls, tile: dict[str, Any]) -> dict[str, Any]:
        if tile.get("type") not in KINDS:
            raise ValueError(f"there is no kind of tile “{str(tile.get('type'))[:40]}”")
        return tile


Part = Annotated[Words | Shown | Fed | Still | Kept, Field(discriminator="part")]


AnyPart = Words | Shown | Fed | Still | Kept


class Cell(_Model):
    """Parts one above the other, in so many columns; what others beside it leave when they are left out."""

    width: int = Field(ge=1, le=48)
    parts: tuple[Part, ...] = Field(min_length=1, max_length=12)
    gap: int = Field(0, ge=0, le=40, description="rows between its parts")


class Row(_Model):
    """Cells beside each other, so many rows high."""

    height: int = Field(ge=1, le=MOST_ROWS)
    is_list: bool = Field(False, description="as high as the lines of its longest list, where that is less")
    cells: tuple[Cell, ...] = Field(min_length=1, max_length=8)


class Laid(_Model):
    """A part at a place of its own, behind the rows or without any."""

    place: Frame
    part: Part


class BandPlan(_Model):
    """A band: what it says, what it stands on, its rows."""

    message: str = Field(max_length=500)
    name: str = Field("", pattern=r"^[a-z0-9]{0,16}$", description="what leads to it calls it")
    says_it: bool = Field(False, description="shows its message as its heading")
    needs: tuple[str, ...] = Field((), description="roles without which it is left out")
    unless: tuple[str, ...] = Field((), description="roles with any of which it is left out")
    ground: Ground | None = None
    is_inset: bool = False
    padding: int | None = Field(None, ge=0, le=40)
    gap: int = Field(3, ge=0, le=40, description="rows between its rows")
    least_rows: int = Field(0, ge=0, le=10_000)
    rows: tuple[Row, ...] = Field((), max_length=20)
    laid: tuple[Laid, ...] = Field((), max_length=MAX_TILES_IN_BAND)


class Look(_Model):
    """How it looks: a palette and two families of type, or a whole style of somebody's own; cards and icons."""

    style: HouseStyle | None = None
    palette: str = HOUSE
    heading: str = HUMANIST
    body: str = HUMANIST
    cards: CardManner = CardManner()
    icons: IconManner = IconManner()

    @model_validator(mode="after")
    def _is_shipped(self) -> Look:
        if self.palette not in PALETTES:
            raise ValueError(f"the palettes are {', '.join(PALETTES)}")
        for family in (self.heading, self.body):
            if family not in FAMILIES:
                raise ValueError(f"the shipped families are {', '.join(FAMILIES)}")
        return self


class Template(_Model):
    """A page with open tables; ``says`` is when to use it, ``format`` what its places are laid out for."""

    name: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=60)
    title: str = Field(min_length=1, max_length=80)
    purpose: str = Field(min_length=1, max_length=80)
    structure: str = Field(min_length=1, max_length=120, description="what stands on it, in a few words")
    says: str = Field(min_length=1, max_length=300)
    words: str = Field("", max_length=300, description="other words that it is found by")
    format: Literal["tall", "dashboard", "print", "slides", "post"] = "tall"
    page: str = Field("", max_length=40, description="the page format its places are laid out for; left out: as usual")
    own_page: PageFormat | None = Field(None, description="a page of its own measures that they are laid out for")
    is_band: bool = Field(False, description="one band that is put into reports, and no page")
    also: tuple[Literal["tall", "dashboard", "print", "slides", "post"], ...] = ()
    look: Look = Look()
    needs: tuple[Need, ...] = Field((), max_length=MOST_NEEDS)
    groups: tuple[str, ...] = Field(
        (),
        max_length=9,
        description="values of “group” that it names, by their places; empty: not named",
    )
    bands: tuple[BandPlan, ...] = Field(min_length=1, max_length=MAX_BANDS)

    @field_validator("page")
    @classmethod
    def _is_a_format(cls, page: str) -> str:
        if page and page not in PAGE_FORMATS:
            raise ValueError(f"there is no page format “{page}”")
        return page

    @property
    def page_name(self) -> str:
        return self.page or KINDS_OF_PAGE[self.format]

    @property
    def formats(self) -> tuple[str, ...]:
        """The kinds of page that it is made for, its own first."""
        return tuple(dict.fromkeys((self.format, *self.also)))

    @property
    def required(self) -> list[Need]:
        return [need for need in self.needs if need.required]

    @model_validator(mode="after")
    def _names_its_roles(self) -> Template:
        known = [need.role for need in self.needs]
        if len(known) != len(set(known)):
            raise ValueError("two needs have the same role")
        named = {role for band in self.bands for role in (*band.needs, *band.unless)}
        named |= {role for part in self.parts() for role in (*part.needs, *roles_in(part))}
        named |= {need.crosses for need in self.needs if need.crosses}
        unknown = named - set(known)
        if unknown:
            raise ValueError(f"no need has the role “{min(unknown)}”")
        return self

    def parts(self) -> list[AnyPart]:
        """Return all parts of all bands."""
        flowing = [part for band in self.bands for row in band.rows for cell in row.cells for part in cell.parts]
        return [*flowing, *(one.part for band in self.bands for one in band.laid)]


def roles_in(part: BaseModel | dict[str, Any] | list[Any] | tuple[Any, ...] | object) -> set[str]:
    """Return the roles that questions and feeds name.

    >>> sorted(roles_in({"measures": [{"stat": "natural", "column": "@amount"}], "per": [{"column": "@when"}]}))
    ['amount', 'when']
    """
    if isinstance(part, Kept):
        return roles_in(list(patterns_in(part.tile)))
    if isinstance(part, BaseModel):
        return roles_in([getattr(part, name) for name in ("questions", "tile") if hasattr(part, name)])
    if isinstance(part, dict):
        return {role for value in part.values() for role in roles_in(value)}
    if isinstance(part, list | tuple):
        return {role for value in part for role in roles_in(value)}
    if not isinstance(part, str) or not part.startswith(ROLE) or part in (GRAIN, MONTHS, CLASSES):
        return set()
    role = part.removeprefix(ROLE)
    return {GROUP if role.isdigit() else role}


def patterns_in(tile: Any) -> Iterator[dict[str, Any]]:
    """Yield all that a tile of somebody's own asks: its question, those of its live figures, its rows of a table."""
    if isinstance(tile, dict):
        for name, value in tile.items():
            if name in ASKING and isinstance(value, dict):
                yield value
            else:
                yield from patterns_in(value)
    elif isinstance(tile, list | tuple):
        for one in tile:
            yield from patterns_in(one)
