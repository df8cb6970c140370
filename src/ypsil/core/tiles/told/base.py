"""What all kinds that tell in order have in common; it is none itself."""

from __future__ import annotations

import logging
from abc import abstractmethod
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import ClassVar, Literal

import polars as pl
from pydantic import Field

from ypsil.core.document.page_formats import LEAST_PART
from ypsil.core.drawing.bidi import runs_rightwards
from ypsil.core.drawing.colour import contrast_ratio, lifted, mix, readable_on
from ypsil.core.drawing.frames import frame_outline
from ypsil.core.drawing.pictures import is_picture_name
from ypsil.core.drawing.scene import Cover, Font, Path, Scene, Shape, Text
from ypsil.core.drawing.signs import sign_shapes
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.grounds import TEXT_CONTRAST
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles.base import IN_ORDER, Asked, TileKind, waiting
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.tiles.told.entries import MOST_ENTRIES, Entry, Feed, Telling, Told, fed, typed
from ypsil.core.tiles.told.mirrored import mirrored
from ypsil.core.visuals import Box

Size = Literal["smaller", "usual", "larger"]
_SCALES: dict[Size, float] = {"smaller": 0.85, "usual": 1.0, "larger": 1.2}
Colours = Literal["one", "each", "shades"]
COLOURS = ("the main one", "a colour each", "shades of the main one")
_MOST_SAID = 200
_BROKEN = "These rows cannot be told: something about them goes wrong here. Choose other columns, or type them."
_log = logging.getLogger(__name__)
_LEAST_HEIGHT = 24.0
_TINTS = 10
_LARGE = 3.0
# From here on a tint is told from its ground (common practice, no source).
_SEEN = 1.08


@dataclass(frozen=True, slots=True)
class Laid:
    """What is told, laid out in a width: its shapes and how high they are (px); ``tight`` is what to do where words
    had to be cut."""

    shapes: tuple[Shape, ...]
    height: float
    tight: str = ""


@dataclass(frozen=True, slots=True)
class Words:
    """An entry's words set in a width: lines with their type and colour, and how high they are."""

    lines: tuple[tuple[str, Font, str], ...] = ()
    height: float = 0.0

    def shapes(self, x: float, y: float, anchor: Literal["start", "middle", "end"] = "start") -> list[Shape]:
        """Return the lines from a height down; ``x`` is where they begin, their middle, or where they end."""
        found: list[Shape] = []
        for line, font, colour in self.lines:
            found.append(Text(x, y + font.size, line, font, colour, anchor))
            y += font.line_height
        return found


@dataclass(frozen=True, slots=True)
class Setting:
    """What entries are set with: type, colours, and how much larger than usual the page is."""

    context: Context
    scale: float
    colours: Colours
    count: int
    head: Font = field(init=False)
    text: Font = field(init=False)

    def __post_init__(self) -> None:
        size = max(self.context.page.text_px("body") * self.scale, LEAST_PART * self.context.page.text_size)
        small = max(size * 0.9, LEAST_PART * self.context.page.text_size)
        object.__setattr__(self, "head", self.style.body(round(size, 3), bold=True))
        object.__setattr__(self, "text", self.style.body(round(small, 3)))

    @property
    def style(self) -> HouseStyle:
        return self.context.style

    @property
    def em(self) -> float:
        """The size of type that all lengths follow, in px."""
        return self.head.size

    def big(self, times: float) -> Font:
        """Return the type of figures."""
        return self.style.heading(round(self.em * times, 3))

    def colour(self, place: int) -> str:
        """Return the colour of an entry, counted from 0."""
        if self.colours == "each":
            return self.style.colour(place)
        if self.colours == "shades" and self.count > 1:
            return mix(self.style.accent, self.style.paper, 0.55 * place / (self.count - 1))
        return self.style.accent

    def pale(self, colour: str, part: float = 0.1) -> str:
        """Return a tint of a colour that text is read on as well as on the ground."""
        steps = (mix(self.style.paper, colour, part * step / _TINTS) for step in range(_TINTS, 0, -1))
        inks = (self.style.ink, self.style.muted)
        readable = (
            one
            for one in steps
            if all(contrast_ratio(ink, one) >= TEXT_CONTRAST for ink in inks)
            and contrast_ratio(one, self.style.paper) >= _SEEN
        )
        # On a strong ground only what is further from the ink than the ground can be read.
        away = (
            "#000000"
            if contrast_ratio(self.style.ink, "#000000") > contrast_ratio(self.style.ink, "#ffffff")
            else "#ffffff"
        )
        return next(readable, mix(self.style.paper, away, 1.5 * part))

    def shown_on(self, colour: str, ground: str = "") -> str:
        """Return a colour as large type and signs can have it on a ground (WCAG 2.2, 1.4.3 and 1.4.11)."""
        return lifted(colour, ground or self.style.paper, _LARGE)

    def ink_on(self, colour: str) -> str:
        return readable_on(colour, self.style.ink, self.style.paper)

    def words(
        self,
        told: Told,
        width: float,
        *,
        figure: bool = False,
        head: bool = True,
        text: bool = True,
        ink: str = "",
        quiet: str = "",
    ) -> Words:
        """Return an entry's words in a width: its figure, what it is, what is said of it."""
        ink, quiet = ink or self.style.ink, quiet or ink or self.style.muted
        lines: list[tuple[str, Font, str]] = []
        if figure and told.figure:
            bold = self.style.body(self.text.size, bold=True)
            lines += [
                (line, bold, ink if quiet == ink else lifted(self.style.accent, self.style.paper))
                for line in wrap(told.figure, width, bold)
            ]
        if head and told.entry.head.strip():
            lines += [(line, self.head, ink) for line in wrap(told.entry.head.strip(), width, self.head)]
        if text:
            for said in told.entry.lines():
                lines += [(line, self.text, quiet) for line in wrap(said, width, self.text)]
        return Words(tuple(lines), sum(font.line_height for _, font, _ in lines))

    def sign(self, told: Told, x: float, y: float, size: float, colour: str) -> list[Shape]:
        """Return an entry's sign, or its own picture in a circle, in a square; nothing where it has none."""
        name = told.entry.sign.strip()
        shapes: list[Shape] = []
        if is_picture_name(name):
            picture = self.context.pictures.get(name)
            if picture is not None:
                outline = frame_outline("circle", size, size, 0)
                cover = Cover(picture, 0, 0, size, size)
                shapes = [Path(outline, self.style.grid, x=x, y=y, motif=cover, side=size)]
        elif name:
            shapes = self.drawn(name, x, y, size, colour)
        return shapes

    def drawn(self, name: str, x: float, y: float, size: float, colour: str, stroke: float = 0.0) -> list[Shape]:
        """Return a shipped sign as all of the report are drawn, or with a line of its own."""
        return sign_shapes(name, x, y, size, self.context.signed(colour, stroke=stroke))


def in_columns(
    told: Sequence[Told],
    columns: int,
    width: float,
    gap: float,
    draw: Callable[[Told, float], tuple[list[Shape], float]],
) -> Laid:
    """Lay entries out beside each other, lines of them below each other; ``draw`` gives the shapes and the height of
    one in a width."""
    cell = (width - gap * (columns - 1)) / columns
    shapes: list[Shape] = []
    y = 0.0
    for start in range(0, len(told), columns):
        drawn = [draw(one, cell) for one in told[start : start + columns]]
        for place, (found, _) in enumerate(drawn):
            shapes += [shape.moved(place * (cell + gap), y) for shape in found]
        y += max(tall for _, tall in drawn) + gap
    return Laid(tuple(shapes), y - gap)


class ToldTile(TileKind):
    """Entries, typed or fed from a table. A kind lays them out with ``_lay``."""

    offered_under = IN_ORDER
    # What one entry is called, what its figure is (none: entries have no figures), and whether they have signs.
    entry_is: ClassVar[str] = "entry"
    figure_is: ClassVar[str] = ""
    has_signs: ClassVar[bool] = True
    text_is: ClassVar[str] = "What is said of it"
    entries: tuple[Entry, ...] = Field((), max_length=MOST_ENTRIES)
    feed: Feed | None = Field(None, description="a table whose rows are the entries, in place of typed ones")
    size: Size = Field("usual", title="Its type is")
    colours: Colours = Field("one", title="Colours", json_schema_extra={"labels": [*COLOURS]})

    @abstractmethod
    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        """Lay the entries out in a width; the height follows."""

    def usual_size(self) -> tuple[int, int]:
        return (24, 20)

    def telling(self, context: Context) -> Telling:
        """Return what is told, of the typed entries or of the table's rows."""
        if self.feed is None:
            return typed(self.entries, context.locale)
        try:
            return fed(self.feed, context)
        except (Exception, pl.exceptions.PanicException):
            # Whatever is wrong with one tile must not take the page with it.
            _log.exception("the rows of the tile %s could not be told", self.id)
            return Telling(problem=_BROKEN)

    def questions(self) -> list[Asked]:
        return [] if self.feed is None else [self.feed.asked()]

    def fetches(self, box: Box, context: Context) -> int:
        table = context.tables.get(self.feed.table) if self.feed else None
        if self.feed is None or table is None:
            return 0
        try:
            return table.fetch(context.narrowed(self.feed.table, self.feed.question()))
        except (Exception, pl.exceptions.PanicException):
            # What cannot be asked is said by the tile, when it is drawn.
            return 0

    def least_height(self, width: float, context: Context) -> float:
        told = self.telling(context).told
        return self._lay(told, width, self._setting(told, context)).height if told else 0.0

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        return max(_LEAST_HEIGHT, self.least_height(width, context))

    def draws(self, box: Box, context: Context) -> Drawn:
        telling = self.telling(context)
        if telling.problem:
            return replace(waiting(telling.problem, box, context), is_told=telling.is_told)
        if not telling.told:
            return Drawn(Scene(box.width, box.height, ()))
        laid = self._lay(telling.told, box.width, self._setting(telling.told, context))
        # What has more room than it needs stands in its middle.
        above = max(0.0, (box.height - laid.height) / 2)
        shapes = laid.shapes
        if not runs_rightwards(" ".join(one.entry.head for one in telling.told)):
            shapes = mirrored(shapes, box.width)
        shapes = tuple(shape.moved(0, above) for shape in shapes) if above else shapes
        hints = tuple(filter(None, (laid.tight, self._more(telling.more))))
        scene = Scene(box.width, box.height, shapes, self.label(), spoken(telling.told), hints)
        return Drawn(scene)

    def listed(self, context: Context) -> list[tuple[str, str]]:
        return [_said(one) for one in self.telling(context).told]

    def _setting(self, told: Sequence[Told], context: Context) -> Setting:
        return Setting(context, _SCALES[self.size], self.colours, len(told))

    def _more(self, rows: int) -> str:
        said = "1 more row" if rows == 1 else f"{rows:,} more rows"
        return f"The table has {said} than {'is' if rows == 1 else 'are'} shown." if rows else ""

    def pictures(self) -> list[str]:
        return [entry.sign for entry in self.entries if is_picture_name(entry.sign)]

    def signs(self) -> list[str]:
        return [*super().signs(), *(entry.sign for entry in self.entries if entry.sign)]

    def hints(self) -> str:
        if self.feed or any(not entry.is_empty for entry in self.entries):
            return ""
        return f"Each {self.entry_is} is typed beside the page, or is a row of a table."

    def label(self) -> str:
        heads = [entry.head.strip() for entry in self.entries if entry.head.strip()]
        said = ", ".join(heads)[:_MOST_SAID]
        name = self.called[0].upper() + self.called[1:]
        return f"{name}: {said}" if said else name


def spoken(told: Sequence[Told]) -> str:
    """Return entries as they are read out."""
    found = []
    for one in told:
        first, said = _said(one)
        found.append(f"{one.number}. {first}{': ' if first and said else ''}{said}".rstrip())
    return "\n".join(found)


def _said(one: Told) -> tuple[str, str]:
    """Return what an entry is, with its figure, and what is said of it."""
    return ", ".join(part for part in (one.figure, one.entry.head.strip()) if part), " ".join(one.entry.lines())
