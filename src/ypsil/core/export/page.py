"""A composed page as one file."""

from __future__ import annotations

from collections.abc import Sequence

from ypsil.core.drawing.svg import escaped, number, scene_markup
from ypsil.core.errors import YpsilError
from ypsil.core.export.fonts import font_styles
from ypsil.core.export.typesetting import TypstPage
from ypsil.core.layout import PagePlace
from ypsil.core.render import Page, TileView, heading_levels

# Raster files stop here: larger ones help nobody and take memory for all.
MAX_PNG_PIXELS = 80_000_000


def page_to_pdf(page: Page) -> bytes:
    """Return the report as a tagged PDF/UA-1 file, one page for each of its format, or one in all where that is open:
    vector drawings, real text, headings, alt text."""
    return _typst_page(page, page.layout.pages).compile("pdf")


def page_to_png(page: Page, *, scale: float = 2.0) -> bytes:
    """Return the page as PNG, ``scale`` pixels to a px; less where the picture would be too large."""
    fitting = (MAX_PNG_PIXELS / max(1.0, page.width * page.height)) ** 0.5
    return _typst_page(page, (PagePlace(0.0, page.height),)).compile("png", ppi=96 * min(scale, fitting))


def page_to_svg(page: Page) -> str:
    """Return the page as one SVG file that carries the letters it needs."""
    _refuse_empty(page)
    scenes = [view.scene for view in page.tiles()]
    groups = "".join(_group(view) for view in page.painted())
    language = escaped(page.report.language)
    size = f'viewBox="0 0 {number(page.width)} {number(page.height)}" width="{number(page.width)}"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {size} height="{number(page.height)}" '
        f'lang="{language}" xml:lang="{language}" role="document">'
        f"<title>{escaped(page.report.title)}</title><style>{font_styles(scenes)}</style>"
        f'<rect width="100%" height="100%" fill="{page.report.style.paper}"/>{groups}</svg>'
    )


def _group(view: TileView) -> str:
    scene = view.scene
    role = ' role="img"' if scene.name else ""
    said = f"<title>{escaped(scene.name)}</title><desc>{escaped(scene.description)}</desc>" if scene.name else ""
    return f'<g transform="translate({number(view.x)} {number(view.y)})"{role}>{said}{scene_markup(scene)}</g>'


def _typst_page(page: Page, places: Sequence[PagePlace]) -> TypstPage:
    """Set the tiles on the pages that they start on, in reading order; those that are laid over others come last."""
    _refuse_empty(page)
    made = TypstPage(page.width, places[0].height, page.report.title, page.report.language, page.report.style.paper)
    levels = heading_levels(page)
    for index, place in enumerate(places):
        if index:
            made.turn(place.height)
        for view in page.painted():
            if not place.y <= view.y < place.y + place.height:
                continue
            y = view.y - place.y
            if view.scene.name:
                made.add_drawing(view.scene, view.x, y)
            else:
                made.add_text(view.scene, view.x, y, levels.get(view.tile.id, 0))
    return made


def _refuse_empty(page: Page) -> None:
    if not page.tiles():
        raise YpsilError("the report is empty", where=page.report.title, remedy="add something to it first")
