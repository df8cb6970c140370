"""Small drawings: a report's miniature on the desk, and suggestions drawn with the report's own data."""

from __future__ import annotations

from django.utils.safestring import SafeString, mark_safe

from ypsil.core.drawing import scene_markup
from ypsil.core.drawing.svg import number
from ypsil.core.report import Page, VisualTile
from ypsil.core.report.suggest import Suggestion
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import Box, draw
from ypsil.web.gather.pictures import address_of

MINIATURE_HEIGHT_PX = 800.0
_SUGGESTION_BOX = Box(440, 260)


def report_miniature(page: Page) -> SafeString:
    """Return the top of a report as a small picture; its name stands beside it, so it is hidden from readers."""
    shown = [view for view in page.tiles() if view.y < MINIATURE_HEIGHT_PX]
    parts = [
        f'<g transform="translate({number(view.x)} {number(view.y)})">{markup}</g>'
        for view in shown
        for markup in [scene_markup(view.scene, address_of=address_of)]
    ]
    return mark_safe(
        f'<svg class="miniature" viewBox="0 0 {number(page.width)} {number(MINIATURE_HEIGHT_PX)}" aria-hidden="true">'
        f'<rect width="1200" height="800" fill="{page.report.style.paper}"/>{"".join(parts)}</svg>'
    )


def suggestion_drawing(suggestion: Suggestion) -> SafeString:
    """Return a suggested tile, drawn small with its own answer; its label is said in words beside it."""
    tile: VisualTile = suggestion.tile
    scene = draw(tile.visual, suggestion.answer, tile.options, _SUGGESTION_BOX, HouseStyle())
    return mark_safe(
        f'<svg viewBox="0 0 {number(scene.width)} {number(scene.height)}" aria-hidden="true">'
        f"{scene_markup(scene)}</svg>"
    )
