"""What stands behind tiles and bands: cards and grounds, as drawings of their own."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ypsil.core.document.model import PageFormat
from ypsil.core.drawing.colour import mix
from ypsil.core.drawing.ornaments import PATTERNS
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.rectangles import ROUND, rounded
from ypsil.core.drawing.scene import Cover, Fade, Path, Scene, Shape
from ypsil.core.drawing.shadows import shadow
from ypsil.core.layout import BandPlace, Rectangle
from ypsil.core.report.document import Band
from ypsil.core.style import HouseStyle
from ypsil.core.style.cards import CardManner
from ypsil.core.style.grounds import Ground, colours_of, pattern_colour, tone, veil_over

# What an inset band leaves of the page's margins at its sides, and of its own padding above and below.
_INSET = 0.5
_INSET_CORNER_PX = 16.0
_LINE_PX = 1.5
_EDGE_PX = 5.0


@dataclass(frozen=True, slots=True)
class Backing:
    """A drawing without words, with its corner in px from the page's."""

    scene: Scene
    x: float
    y: float


def card(manner: CardManner, at: Rectangle, page: PageFormat, style: HouseStyle) -> Backing:
    """Return a card as its manner says, in tones of a style."""
    zoom = page.zoom
    corner = min(manner.corner * zoom, at.width / 2, at.height / 2)
    shapes: list[Shape] = []
    outline = rounded(at.width, at.height, corner)
    if manner.has_shadow:
        shapes += shadow(outline, style.ink, zoom)
    if manner.fill:
        shapes.append(Path(outline, tone(style, manner.fill)))
    if manner.edge:
        wide = _EDGE_PX * zoom
        shapes.append(Path(_left_edge(wide, at.height, corner), tone(style, manner.edge)))
    if manner.line:
        half = _LINE_PX * zoom / 2
        inner = rounded(at.width - 2 * half, at.height - 2 * half, max(0.0, corner - half))
        shapes.append(Path(inner, "none", tone(style, manner.line), _LINE_PX * zoom, x=half, y=half))
    return Backing(Scene(at.width, at.height, tuple(shapes)), at.x, at.y)


def ground(
    band: Band, place: BandPlace, page: PageFormat, style: HouseStyle, picture: Picture | None
) -> Backing | None:
    """Return what a band stands on; None where that is the page."""
    if band.ground is None:
        return None
    x = y = corner = 0.0
    if band.is_inset:
        x = min(page.margins.left, page.margins.right) * _INSET
        y = place.padding * page.row * _INSET
        corner = _INSET_CORNER_PX
    width, height = page.width - 2 * x, max(1.0, place.height - 2 * y)
    outline = rounded(width, height, min(corner, height / 2))
    shapes = tuple(shape.moved(x, y) for shape in _ground(band.ground, outline, width, height, style, picture))
    return Backing(Scene(page.width, place.height, shapes), 0.0, place.y)


def _ground(
    ground: Ground, outline: str, width: float, height: float, style: HouseStyle, picture: Picture | None
) -> list[Shape]:
    colours = colours_of(ground, style)
    if picture is not None:
        covered = Path(outline, colours[0], motif=Cover(picture, 0, 0, width, height))
        return [covered, Path(outline, colours[0], opacity=veil_over(picture, colours[0], style))]
    fade = Fade(colours[1], ground.way) if len(colours) > 1 else None
    return [Path(outline, colours[0], motif=fade), *_pattern(ground, colours, width, height, style)]


def _pattern(ground: Ground, colours: Sequence[str], width: float, height: float, style: HouseStyle) -> list[Shape]:
    """Return what lies on the colour of a ground; on one that fades, in a colour that is quiet on both its ends."""
    found = PATTERNS.get(ground.pattern)
    if found is None:
        return []
    colour = pattern_colour(mix(colours[0], colours[-1], 0.5), style)
    outline = found.outline(width, height)
    return [Path(outline, "none", colour, _LINE_PX) if found.is_line else Path(outline, colour)]


def _left_edge(width: float, height: float, corner: float) -> str:
    """Return a strip at the left of a rectangle, within its round corners."""
    if corner <= 0:
        return rounded(width, height, 0)
    wide, r, h = max(width, 0.0), round(corner, 3), round(height, 3)
    k = round(corner * (1 - ROUND), 3)
    return (
        f"M{r:g} 0C{k:g} 0 0 {k:g} 0 {r:g}L0 {h - r:g}C0 {h - k:g} {k:g} {h:g} {r:g} {h:g}"
        f"C{wide + k:g} {h:g} {wide:g} {h - k:g} {wide:g} {h - r:g}L{wide:g} {r:g}"
        f"C{wide:g} {k:g} {wide + k:g} 0 {r:g} 0Z"
    )
