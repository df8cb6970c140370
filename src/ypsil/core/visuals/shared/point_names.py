"""Names of points in the plane: inside their marks or beside them, where they hide nothing and are not hidden."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.drawing.colour import mix, readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.numeric_axes import NumericPlot
from ypsil.core.visuals.shared.rooms import Room

_AIR_PX = 3.0
_INSIDE = 1.75  # how much of its radius a name may take within its mark


@dataclass(frozen=True, slots=True)
class Dot:
    """A round mark with its name: middle and radius in px, colour and how much of it covers the paper."""

    name: str
    x: float
    y: float
    radius: float
    colour: str
    opacity: float


def names_of_dots(dots: list[Dot], at: NumericPlot, style: HouseStyle) -> list[Text]:
    """Return the names that have room, the first dots' first; none stands over a name, a dot or an axis."""
    font = style.body(LABEL_PX - 1)
    taken = at.zeros()
    texts: list[Text] = []
    for dot in dots:
        name = shorten(dot.name, at.room.width / 3, font)
        wide, tall = text_width(name, font), font.size
        within = wide <= _INSIDE * dot.radius and tall <= dot.radius
        for x, y in ([(dot.x, dot.y)] if within else []) + _around(dot, wide, tall):
            room = Room(x - wide / 2, y - tall / 2, wide, tall)
            inside = within and (x, y) == (dot.x, dot.y)
            if not _within(room, at.room) or any(_meet(room, other) for other in taken):
                continue
            if any(_over(room, other) for other in dots if other is not dot):
                continue
            taken.append(room)
            ink = (
                readable_on(mix(style.paper, dot.colour, dot.opacity), style.ink, style.paper) if inside else style.ink
            )
            texts.append(_text(name, dot.name, x, y, font, ink))
            break
    return texts


def _text(name: str, whole: str, x: float, y: float, font: Font, ink: str) -> Text:
    return Text(x, y + 0.35 * font.size, name, font, ink, "middle", whole if name != whole else "")


def _around(dot: Dot, wide: float, tall: float) -> list[tuple[float, float]]:
    """Return the middles of the places beside a dot: above, below, to the right, to the left."""
    up, side = dot.radius + tall / 2 + _AIR_PX, dot.radius + wide / 2 + _AIR_PX
    return [(dot.x, dot.y - up), (dot.x, dot.y + up), (dot.x + side, dot.y), (dot.x - side, dot.y)]


def _within(room: Room, whole: Room) -> bool:
    across = whole.x <= room.x and room.x + room.width <= whole.x + whole.width
    return across and whole.y <= room.y and room.y + room.height <= whole.y + whole.height


def _meet(one: Room, other: Room) -> bool:
    across = min(one.x + one.width, other.x + other.width) - max(one.x, other.x)
    down = min(one.y + one.height, other.y + other.height) - max(one.y, other.y)
    return across > -_AIR_PX and down > 0


def _over(room: Room, dot: Dot) -> bool:
    """Tell whether a room and a dot share more than a touch."""
    x = min(max(dot.x, room.x), room.x + room.width)
    y = min(max(dot.y, room.y), room.y + room.height)
    return (dot.x - x) ** 2 + (dot.y - y) ** 2 < (dot.radius - 1) ** 2
