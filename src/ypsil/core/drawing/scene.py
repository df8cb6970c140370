"""The few shapes that everything is drawn with. Lengths are px, y grows downwards."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from ypsil.core.drawing.colour import mix
from ypsil.core.drawing.pictures import Picture

Anchor = Literal["start", "middle", "end"]
HatchKind = Literal["rising", "dots", "falling", "horizontal", "grid", "vertical", "broad"]


@dataclass(frozen=True, slots=True)
class Font:
    """A shipped family in one size (px), weight (400 or 700) and slope."""

    family: str
    size: float
    weight: int = 400
    is_italic: bool = False

    @property
    def line_height(self) -> float:
        return 1.3 * self.size

    def sized(self, size: float) -> Font:
        return replace(self, size=size)


@lru_cache(maxsize=1024)
def font(family: str, size: float, weight: int, is_italic: bool = False) -> Font:
    """Return the same font each time: what is kept by its font is then found without comparing."""
    return Font(family, size, weight, is_italic)


class Mark(str):
    """What a reader learns at a shape that stands for data, which knows what that is: a group of the answer, a series
    of it, or one of the two.

    >>> mark = Mark("May, Loans, 1,204", "May", "Loans")
    >>> mark, mark.is_of("May"), mark.is_of("May, Loans"), mark.is_of("Loans"), mark.is_of("Ma")
    ('May, Loans, 1,204', True, True, False, False)
    """

    __slots__ = ("group", "series")
    group: str
    series: str

    def __new__(cls, said: str, group: str = "", series: str = "") -> Mark:
        made = super().__new__(cls, said)
        made.group, made.series = group, series
        return made

    @property
    def name(self) -> str:
        """What it stands for, as a reader would name it."""
        return ", ".join(part for part in (self.group, self.series) if part)

    def is_of(self, name: str) -> bool:
        """Tell whether somebody who names a group, or a group and a series, means this shape."""
        return bool(name) and name in (self.group or self.series, self.name)


@dataclass(frozen=True, slots=True)
class Hatch:
    """A pattern over a shape's fill, in a colour of its own, so that shapes differ without colour."""

    kind: HatchKind
    ink: str


@dataclass(frozen=True, slots=True)
class Part:
    """Only a part of a shape's extent (0 to 1) has its fill, from the bottom or from the left; the rest has another.

    With ``is_veil`` what lies below is seen: as it is in the part, through ``rest`` as a veil in the rest.
    """

    extent: float
    rest: str
    axis: Literal["up", "right"] = "up"
    is_veil: bool = False


@dataclass(frozen=True, slots=True)
class Motif:
    """A picture that is repeated within a shape in place of its fill: an outline in a square of ``size`` px."""

    name: str
    d: str
    size: float
    ink: str


@dataclass(frozen=True, slots=True)
class Cover:
    """A picture in place of a shape's fill: it covers a rectangle of the shape's plane, and is cut where it is wider
    or taller: evenly, unless ``lies`` says where it lies there (x, y, width, height by the rectangle's corner).
    ``tint`` are the colours that its black and its white become, where it is not in its own."""

    picture: Picture
    x: float
    y: float
    width: float
    height: float
    lies: tuple[float, float, float, float] | None = None
    tint: tuple[str, str] | None = None


@dataclass(frozen=True, slots=True)
class Fade:
    """A fill that fades from the shape's own colour into another: downwards, to the right, or both."""

    to: str
    way: Literal["down", "across", "slope"] = "down"


# Shapes are not frozen, though nothing changes one: making a frozen object takes three times as long, and a drawing
# has hundreds. For the same reason a moved one names each field instead of calling ``replace``.
@dataclass(slots=True)
class Rect:
    x: float
    y: float
    width: float
    height: float
    fill: str
    radius: float = 0
    title: str = ""
    opacity: float = 1
    hatch: Hatch | None = None

    def moved(self, x: float, y: float) -> Rect:
        x, y = self.x + x, self.y + y
        return Rect(x, y, self.width, self.height, self.fill, self.radius, self.title, self.opacity, self.hatch)

    def zoomed(self, by: float) -> Rect:
        x, y, width, height, radius = self.x * by, self.y * by, self.width * by, self.height * by, self.radius * by
        return Rect(x, y, width, height, self.fill, radius, self.title, self.opacity, self.hatch)


@dataclass(slots=True)
class Line:
    x1: float
    y1: float
    x2: float
    y2: float
    stroke: str
    stroke_width: float = 1
    title: str = ""
    dash: str = ""

    def moved(self, x: float, y: float) -> Line:
        ends = (self.x1 + x, self.y1 + y, self.x2 + x, self.y2 + y)
        return Line(*ends, self.stroke, self.stroke_width, self.title, self.dash)

    def zoomed(self, by: float) -> Line:
        ends = (self.x1 * by, self.y1 * by, self.x2 * by, self.y2 * by)
        return Line(*ends, self.stroke, self.stroke_width * by, self.title, _dash_zoomed(self.dash, by))


@dataclass(slots=True)
class Path:
    """An outline in SVG path syntax, made ``zoom`` times as large with its stroke, then moved by ``x`` and ``y``;
    ``fill`` or ``stroke`` may be ``none``; the ends of one that ``is_round`` are.
    ``side`` is the width of the sign that it is a part of, where it is of one: signs are never turned over."""

    d: str
    fill: str = "none"
    stroke: str = "none"
    stroke_width: float = 1
    title: str = ""
    x: float = 0
    y: float = 0
    opacity: float = 1
    dash: str = ""
    hatch: Hatch | None = None
    part: Part | None = None
    motif: Motif | Cover | Fade | None = None
    zoom: float = 1
    is_round: bool = False
    side: float = 0

    def moved(self, x: float, y: float) -> Path:
        return Path(
            self.d,
            self.fill,
            self.stroke,
            self.stroke_width,
            self.title,
            self.x + x,
            self.y + y,
            self.opacity,
            self.dash,
            self.hatch,
            self.part,
            self.motif,
            self.zoom,
            self.is_round,
            self.side,
        )

    def zoomed(self, by: float) -> Path:
        return replace(self, x=self.x * by, y=self.y * by, zoom=self.zoom * by)


@dataclass(slots=True)
class Text:
    """One line of text; ``y`` is its baseline. It is turned clockwise by ``angle`` degrees about its start.

    ``cell`` is the row and column of a table that it stands in, row 0 holding the headings; ``link`` is the address
    that it leads to.
    """

    x: float
    y: float
    text: str
    font: Font
    fill: str
    anchor: Anchor = "start"
    title: str = ""
    angle: float = 0
    cell: tuple[int, int] | None = None
    link: str = ""

    def moved(self, x: float, y: float) -> Text:
        x, y = self.x + x, self.y + y
        return Text(x, y, self.text, self.font, self.fill, self.anchor, self.title, self.angle, self.cell, self.link)

    def zoomed(self, by: float) -> Text:
        larger = font(self.font.family, self.font.size * by, self.font.weight, self.font.is_italic)
        x, y = self.x * by, self.y * by
        return Text(x, y, self.text, larger, self.fill, self.anchor, self.title, self.angle, self.cell, self.link)


def _dash_zoomed(dash: str, by: float) -> str:
    return " ".join(f"{float(part) * by:g}" for part in dash.replace(",", " ").split())


Shape = Rect | Line | Path | Text


@dataclass(frozen=True, slots=True)
class Scene:
    """A drawing with the name and description that stand for it where it cannot be seen.

    ``hints`` are for its author: what could be done to draw it better. ``refusal`` says why nothing is drawn, where
    the scene only says so. ``nameless`` is how many groups have no room for their name, ``undrawn``
    how many lack a value that the drawing needs.
    """

    width: float
    height: float
    shapes: tuple[Shape, ...]
    name: str = ""
    description: str = ""
    hints: tuple[str, ...] = ()
    refusal: str = ""
    nameless: int = 0
    undrawn: int = 0

    @property
    def told(self) -> str:
        """What stands for it where it cannot be seen: its name, then its description.

        >>> Scene(1, 1, (), "Visits per month.", "Highest: May.").told
        'Visits per month. Highest: May'
        """
        return ". ".join(part.rstrip(".") for part in (self.name, self.description) if part)

    def texts(self) -> list[Text]:
        return [shape for shape in self.shapes if isinstance(shape, Text)]

    def marks(self) -> list[Mark]:
        """Return what the shapes stand for that stand for data, in the order they are drawn."""
        return [shape.title for shape in self.shapes if shape.title and isinstance(shape.title, Mark)]

    def with_few(self, names: Collection[str], paper: str) -> Scene:
        """Return the drawing with the marks of other groups than these faded towards the paper; unchanged where it has
        none of them."""
        if not any(mark.group in names for mark in self.marks()):
            return self
        return replace(self, shapes=tuple(_faded(shape, names, paper) for shape in self.shapes))

    def zoomed(self, by: float) -> Scene:
        """Return the drawing ``by`` times as large, with its type and its strokes."""
        if by == 1:
            return self
        shapes = tuple(shape.zoomed(by) for shape in self.shapes)
        return replace(self, width=self.width * by, height=self.height * by, shapes=shapes)


# How little is left of the colour of what others stand out from.
_LEFT = 0.28


def _faded(shape: Shape, names: Collection[str], paper: str) -> Shape:
    mark = shape.title
    if not isinstance(mark, Mark) or not mark.group or mark.group in names:
        return shape
    if isinstance(shape, Rect | Path):
        return replace(shape, opacity=shape.opacity * _LEFT)
    if isinstance(shape, Line):
        return replace(shape, stroke=mix(shape.stroke, paper, 1 - _LEFT))
    return replace(shape, fill=mix(shape.fill, paper, 1 - _LEFT))
