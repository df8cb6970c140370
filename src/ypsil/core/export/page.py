"""A composed page as one file."""

from __future__ import annotations

from html import escape

from ypsil.core.drawing.svg import number, scene_markup
from ypsil.core.errors import YpsilError
from ypsil.core.export.fonts import font_styles
from ypsil.core.export.typesetting import TypstPage
from ypsil.core.report.compose import Page, TileView
from ypsil.core.report.document import TextTile, VisualTile

# Raster files stop here: larger ones help nobody and take memory for all.
MAX_PNG_PIXELS = 80_000_000
_HEADING_LEVELS = {"title": 1, "heading": 2}


def page_to_pdf(page: Page) -> bytes:
    """Return the page as a tagged PDF/UA-1 file of one page: vector drawings, real text, headings, alt text."""
    return _typst_page(page).compile("pdf")


def page_to_png(page: Page, *, scale: float = 2.0) -> bytes:
    """Return the page as PNG, ``scale`` pixels to a px; less where the picture would be too large."""
    fitting = (MAX_PNG_PIXELS / max(1.0, page.width * page.height)) ** 0.5
    return _typst_page(page).compile("png", ppi=96 * min(scale, fitting))


def page_to_svg(page: Page) -> str:
    """Return the page as one SVG file that carries the letters it needs."""
    _refuse_empty(page)
    scenes = [view.scene for view in page.tiles()]
    groups = "".join(_group(view) for view in page.tiles())
    size = f'viewBox="0 0 {number(page.width)} {number(page.height)}" width="{number(page.width)}"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {size} height="{number(page.height)}" role="document">'
        f"<title>{escape(page.report.title)}</title><style>{font_styles(scenes)}</style>"
        f'<rect width="100%" height="100%" fill="{page.report.style.paper}"/>{groups}</svg>'
    )


def heading_level(view: TileView) -> int:
    """Return a tile's level as a heading, 0 for none."""
    return _HEADING_LEVELS.get(view.tile.role, 0) if isinstance(view.tile, TextTile) else 0


def _group(view: TileView) -> str:
    scene = view.scene
    role = ' role="img"' if scene.name else ""
    said = f"<title>{escape(scene.name)}</title><desc>{escape(scene.description)}</desc>" if scene.name else ""
    return f'<g transform="translate({number(view.x)} {number(view.y)})"{role}>{said}{scene_markup(scene)}</g>'


def _typst_page(page: Page) -> TypstPage:
    _refuse_empty(page)
    made = TypstPage(page.width, page.height, page.report.title, page.report.language, page.report.style.paper)
    for view in page.tiles():
        if isinstance(view.tile, VisualTile):
            made.add_drawing(view.scene, view.x, view.y)
        else:
            made.add_text(view.scene, view.x, view.y, heading_level(view))
    return made


def _refuse_empty(page: Page) -> None:
    if not page.tiles():
        raise YpsilError("the report is empty", where=page.report.title, remedy="add something to it first")
