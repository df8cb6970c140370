"""What tiles are drawn with, and what a drawing is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from ypsil.core.answers.model import Answer
from ypsil.core.cache import Cache
from ypsil.core.choosing import NOTHING_CHOSEN, Choices, Chosen
from ypsil.core.document.model import PageFormat
from ypsil.core.drawing.colour import mix
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.routes import Span
from ypsil.core.drawing.scene import Font, Scene, Text
from ypsil.core.drawing.signs.drawing import Plate, SignManner
from ypsil.core.figures.locales import DEFAULT_LOCALE
from ypsil.core.questions.model import Question
from ypsil.core.style.cards import CardManner
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.icons import IconManner
from ypsil.core.tables.conditions import Filter
from ypsil.core.tiles.asked_table import ReportTable
from ypsil.core.tiles.sourced import Source
from ypsil.core.visuals.shared.native import NativeChart

_SHAPE_BYTES = 300
_ONE_PAGE = 1 << 28
_HEADED = ("title", "heading", "big")
_BOLD = ("label",)
# What the darkest and the lightest part of a coloured picture become of the style's colour.
_DARKEST, _LIGHTEST = 0.45, 0.12


@dataclass(frozen=True, slots=True)
class Drawn:
    """A drawn tile, with the answer behind it, or the reason why there is none.

    ``key`` names all that it was drawn from, where it is remembered. ``is_broken`` tells that the reason is a fault of
    ours and not of the data, ``is_told`` that readers may learn it.
    """

    scene: Scene
    answer: Answer | None = None
    problem: str = ""
    key: str = ""
    is_broken: bool = False
    is_told: bool = False


@dataclass(frozen=True, slots=True)
class Charted:
    """A drawing as a chart that office programs draw themselves, with the lines above and below it; ``top`` and
    ``foot`` are where the chart begins and ends, in px from the drawing's upper edge."""

    chart: NativeChart
    heading: tuple[Text, ...]
    notes: tuple[Text, ...]
    top: float
    foot: float


@dataclass(frozen=True, slots=True)
class Ends:
    """What a connector is drawn between: two rectangles by its drawing's corner, what stands there, whether that is on
    several grounds, and what stands between that it should go round."""

    start: Span
    end: Span
    start_label: str
    end_label: str
    is_across: bool = False
    around: tuple[Span, ...] = ()

    def moved(self, x: float, y: float) -> Ends:
        around = tuple(span.moved(x, y) for span in self.around)
        return replace(self, start=self.start.moved(x, y), end=self.end.moved(x, y), around=around)


Memory = Cache[str, Drawn]


def drawings(most_bytes: int = _ONE_PAGE) -> Memory:
    """Return a memory for drawings."""
    return Cache("drawings", most_bytes, _bytes_of)


def _bytes_of(drawn: Drawn) -> int:
    rows = 0 if drawn.answer is None else drawn.answer.frame.estimated_size()
    return _SHAPE_BYTES * len(drawn.scene.shapes) + 2 * len(drawn.scene.description) + int(rows)


@dataclass(frozen=True, slots=True)
class Context:
    """All that tiles are drawn with beside what they hold. Whatever of it a drawing depends on is in its key.

    ``style`` is that of the report on what the tile stands on, ``house`` the report's own.

    ``filters`` are those of the whole page: each applies to the tables that have its column. ``choices`` are what
    readers chose at the page's controls, and ``chosen`` what of it narrows this tile. ``sources`` are what the
    page names as such, ``is_pointed_to`` tells whether a tile points to one by its number. ``memory`` keeps drawings
    by their keys. ``for_readers`` tells that the page is for people who are not to learn why a tile waits: that would
    tell the names of tables and columns. ``is_opened`` tells that what readers open by pressing stands open, since
    nobody can press it there. ``ends`` are what a connector is drawn between; ``apart`` says why there are none.
    """

    style: HouseStyle = field(default_factory=HouseStyle)
    house: HouseStyle = field(default_factory=HouseStyle)
    page: PageFormat = field(default_factory=PageFormat)
    locale: str = DEFAULT_LOCALE
    tables: Mapping[str, ReportTable] = field(default_factory=dict)
    pictures: Mapping[str, Picture] = field(default_factory=dict)
    filters: tuple[Filter, ...] = ()
    choices: Choices = NOTHING_CHOSEN
    chosen: tuple[Chosen, ...] = ()
    cards: CardManner = field(default_factory=CardManner)
    icons: IconManner = field(default_factory=IconManner)
    sources: tuple[Source, ...] = ()
    is_pointed_to: bool = False
    memory: Memory = field(default_factory=drawings)
    for_readers: bool = False
    is_opened: bool = False
    ends: Ends | None = None
    apart: str = ""

    def narrowed(self, table: str, question: Question) -> Question:
        """Return a question of one of the tables with the page's filters, and with what readers chose."""
        least = self.choices.least_bases.get(table)
        return self.tables[table].narrowed(question, self.filters, self.chosen, least)

    def signed(self, colour: str, *, stroke: float = 0.0, plate: Plate = "", plate_colour: str = "") -> SignManner:
        """Return how a sign is drawn in a colour, as all of the report are; ``stroke`` is a line of its own."""
        icons = self.icons
        shades = (mix(colour, "#000000", _DARKEST), mix(self.style.paper, colour, _LIGHTEST))
        return SignManner(
            colour,
            stroke or icons.stroke,
            icons.look,
            plate,
            plate_colour,
            scale=icons.size,
            shades=shades if icons.coloured == "style" else None,
        )

    def font(self, role: str) -> Font:
        """Return the type that a text of a role is set in."""
        size = round(self.page.text_px(role) * self.style.size_of(role), 3)
        return self.style.heading(size) if role in _HEADED else self.style.body(size, bold=role in _BOLD)
