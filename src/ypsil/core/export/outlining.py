"""Letters as outlines: what looks the same in programs that know no fonts within a file."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import replace

from ypsil.core.drawing.letters import letters
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Path, Scene, Shape, Text
from ypsil.core.drawing.svg import number
from ypsil.core.render import Page, TileView

_POINT = re.compile(r"(-?[\d.]+(?:e-?\d+)?) (-?[\d.]+(?:e-?\d+)?)")


def outlined(page: Page) -> Page:
    """Return a page without texts: each is the outline of its letters, and its words are the tile's name."""
    bands = tuple(replace(band, tiles=tuple(map(_view, band.tiles))) for band in page.bands)
    return replace(page, bands=bands)


def _view(view: TileView) -> TileView:
    scene = view.scene
    if not scene.name:
        # Words that are only seen must be said as well.
        written = view.tile.writes(view.context)
        said = written.spoken(view.context) if written is not None else " ".join(text.text for text in scene.texts())
        scene = replace(scene, name=" ".join(said.split()))
    header = view.header and replace(view.header, scene=outlined_scene(view.header.scene))
    return replace(view, drawn=replace(view.drawn, scene=outlined_scene(scene)), header=header)


def outlined_scene(scene: Scene) -> Scene:
    """Return a drawing whose texts are outlines."""
    return replace(scene, shapes=tuple(_shapes(scene)))


def _shapes(scene: Scene) -> Iterator[Shape]:
    for shape in scene.shapes:
        yield _outline(shape) if isinstance(shape, Text) else shape


def _outline(text: Text) -> Path:
    left = {"start": 0.0, "middle": 0.5, "end": 1.0}[text.anchor] * text_width(text.text, text.font)
    d = letters(text.text, text.font).d
    if text.angle:
        return Path(_turned(d, text.angle, -left), text.fill, title=text.title, x=text.x, y=text.y)
    return Path(d, text.fill, title=text.title, x=text.x - left, y=text.y)


def _turned(d: str, degrees: float, moved: float) -> str:
    """Return an outline moved to the right, then turned about its origin as the hands of a clock go."""
    turn = math.radians(degrees)

    def point(found: re.Match[str]) -> str:
        x, y = float(found[1]) + moved, float(found[2])
        return f"{number(x * math.cos(turn) - y * math.sin(turn))} {number(x * math.sin(turn) + y * math.cos(turn))}"

    return _POINT.sub(point, d)
