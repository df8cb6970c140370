"""The strip at the head of a card: a colour of the style, with an icon and a few words."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.document.model import PageFormat
from ypsil.core.drawing.icons import icon_path, icons
from ypsil.core.drawing.rectangles import rounded_head
from ypsil.core.drawing.scene import Path, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.layout import Rectangle
from ypsil.core.style import HouseStyle
from ypsil.core.style.cards import Card, CardManner
from ypsil.core.style.grounds import on, tone

# How high the icon is, how large the words, and the room at the left: parts of the strip's height.
_ICON, _WORDS, _LEFT = 0.54, 0.42, 0.4
_BASELINE = 0.35
_MOST_WIDE_ICON = 1.6


@dataclass(frozen=True, slots=True)
class Header:
    """A strip: its colour (none: an empty text), the corner it has at its upper ends (px), and what stands on it, as a
    drawing as high as the strip. ``x`` and ``y`` are its corner in px from the page's; ``words`` are all of those on
    it."""

    scene: Scene
    x: float
    y: float
    colour: str
    corner: float
    words: str

    @property
    def height(self) -> float:
        return self.scene.height

    def strip(self) -> Scene:
        """Return the strip itself, without what stands on it."""
        outline = rounded_head(self.scene.width, self.height, self.corner)
        shapes = (Path(outline, self.colour),) if self.colour else ()
        return Scene(self.scene.width, self.height, shapes)


def header_on(
    card: Card | None, manner: CardManner, at: Rectangle, page: PageFormat, style: HouseStyle
) -> Header | None:
    """Return what stands at the head of a card; None where nothing does."""
    height = 0.0 if card is None else card.header_height(page.text_size)
    if card is None or not height:
        return None
    colour = tone(style, manner.header) if manner.header else ""
    # Without a colour of its own, what stands there stands on the card, or on what lies behind it.
    ground = colour or (tone(style, manner.fill) if manner.fill else style.paper)
    ink = on(style, ground).ink
    shapes: list[Shape] = []
    left = height * _LEFT
    if card.icon in icons():
        tall = min(height * _ICON, height * _ICON * _MOST_WIDE_ICON / icons()[card.icon].aspect)
        shapes.append(icon_path(card.icon, left, (height - tall) / 2, tall, ink))
        left += tall * icons()[card.icon].aspect + height * _LEFT / 2
    words = " ".join(card.says.split())
    if words:
        font = style.heading(height * _WORDS)
        said = shorten(words, max(1.0, at.width - left - height * _LEFT), font)
        shapes.append(Text(left, height / 2 + font.size * _BASELINE, said, font, ink))
    corner = min(manner.corner * page.zoom, at.width / 2, at.height / 2)
    return Header(Scene(at.width, height, tuple(shapes)), at.x, at.y, colour, corner, words)
