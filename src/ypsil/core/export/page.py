"""A composed page as one file."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.drawing.svg import escaped, number, scene_markup
from ypsil.core.export.base import AS_USUAL, PX_PER_INCH, Delivery
from ypsil.core.export.fonts import font_styles
from ypsil.core.export.outlining import outlined
from ypsil.core.export.printing import print_pdf
from ypsil.core.export.resolution import saying_dpi
from ypsil.core.export.setting import refuse_empty, set_sheets
from ypsil.core.export.sheets import whole
from ypsil.core.render import Page, TileView
from ypsil.core.render.backing import Backing
from ypsil.core.tiles.leading import band_of

# Raster files stop here: larger ones help nobody and take memory for all.
MAX_PNG_PIXELS = 80_000_000


def page_to_pdf(page: Page, delivery: Delivery = AS_USUAL) -> bytes:
    """Return the report as a tagged PDF/UA-1 file: vector drawings, real text, headings, alt text. As usual it has a
    page for each of its format, or one in all where that is open."""
    return print_pdf(page, delivery)


def page_to_png(page: Page, *, scale: float = 2.0, dpi: float | None = None) -> bytes:
    """Return the page as PNG, ``scale`` pixels to a px; less where the picture would be too large. ``dpi`` is said in
    the file for those who print it."""
    fitting = (MAX_PNG_PIXELS / max(1.0, page.width * page.height)) ** 0.5
    png = set_sheets(page, [whole(page)]).compile("png", ppi=PX_PER_INCH * min(scale, fitting))
    return png if dpi is None else saying_dpi(png, dpi)


def page_to_svg(page: Page, *, is_outlined: bool = False) -> str:
    """Return the page as one SVG file that carries the letters it needs, or, where it ``is_outlined``, their outlines,
    for programs that know no fonts within."""
    refuse_empty(page)
    if is_outlined:
        page = outlined(page)
    scenes = [view.scene for view in page.tiles()] + [view.header.scene for view in page.tiles() if view.header]
    grounds = [_behind(band.ground, f"ground-{band.band.id}") for band in page.bands if band.ground is not None]
    groups = "".join([*grounds, *_goals(page), *map(_group, page.painted())])
    language = escaped(page.report.language)
    size = f'viewBox="0 0 {number(page.width)} {number(page.height)}" width="{number(page.width)}"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {size} height="{number(page.height)}" '
        f'lang="{language}" xml:lang="{language}" role="document">'
        f"<title>{escaped(page.report.title)}</title><style>{font_styles(scenes)}</style>"
        f'<rect width="100%" height="100%" fill="{page.report.style.paper}"/>{groups}</svg>'
    )


def _goals(page: Page) -> Iterator[str]:
    """Yield the bands that something on the page leads to, as places that nobody sees."""
    wanted = {band_of(view.tile.leads()) for view in page.tiles()}
    for band in page.bands:
        if band.band.id in wanted:
            size = f'y="{number(band.place.y)}" width="{number(page.width)}" height="{number(band.place.height)}"'
            yield f'<rect id="{band.band.id}" {size} fill="none"/>'


def _behind(backing: Backing, name: str) -> str:
    markup = scene_markup(backing.scene, name)
    return f'<g transform="translate({number(backing.x)} {number(backing.y)})" aria-hidden="true">{markup}</g>'


def _group(view: TileView) -> str:
    scene = view.scene
    behind = "" if view.card is None else _behind(view.card, f"card-{view.tile.id}")
    if view.header is not None:
        strip, at = Backing(view.header.strip(), view.header.x, view.header.y), view.header
        behind += _behind(strip, f"head-{view.tile.id}")
        behind += f'<g transform="translate({number(at.x)} {number(at.y)})">{scene_markup(at.scene)}</g>'
    role = ' role="img"' if scene.name else ""
    said = f"<title>{escaped(scene.name)}</title><desc>{escaped(scene.description)}</desc>" if scene.name else ""
    markup = scene_markup(scene)
    drawn = f'{behind}<g transform="translate({number(view.x)} {number(view.y)})"{role}>{said}{markup}</g>'
    around = f' opacity="{number(view.opacity)}"' if view.opacity != 1 else ""
    around += f' transform="{view.turning()}"' if view.turn else ""
    drawn = f"<g{around}>{drawn}</g>" if around else drawn
    return f'<a href="{escaped(view.tile.leads())}">{drawn}</a>' if view.tile.leads() else drawn
