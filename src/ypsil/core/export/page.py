"""A composed page as one file."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ypsil.core.drawing.svg import escaped, number, scene_markup
from ypsil.core.errors import YpsilError
from ypsil.core.export.fonts import font_styles
from ypsil.core.export.outlining import outlined
from ypsil.core.export.resolution import saying_dpi
from ypsil.core.export.typesetting import TypstPage
from ypsil.core.layout import PagePlace
from ypsil.core.render import Page, TileView, heading_levels
from ypsil.core.render.backing import Backing
from ypsil.core.tiles.leading import band_of

# Raster files stop here: larger ones help nobody and take memory for all.
MAX_PNG_PIXELS = 80_000_000


def page_to_pdf(page: Page) -> bytes:
    """Return the report as a tagged PDF/UA-1 file, one page for each of its format, or one in all where that is open:
    vector drawings, real text, headings, alt text."""
    return _typst_page(page, page.layout.pages).compile("pdf")


def page_to_png(page: Page, *, scale: float = 2.0, dpi: float | None = None) -> bytes:
    """Return the page as PNG, ``scale`` pixels to a px; less where the picture would be too large. ``dpi`` is said in
    the file for those who print it."""
    fitting = (MAX_PNG_PIXELS / max(1.0, page.width * page.height)) ** 0.5
    png = _typst_page(page, (PagePlace(0.0, page.height),)).compile("png", ppi=96 * min(scale, fitting))
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


def _typst_page(page: Page, places: Sequence[PagePlace]) -> TypstPage:
    """Set the tiles on the pages that they start on, in reading order; those that are laid over others come last."""
    refuse_empty(page)
    made = TypstPage(page.width, places[0].height, page.report.title, page.report.language, page.report.style.paper)
    levels = heading_levels(page)
    for index, place in enumerate(places):
        if index:
            made.turn(place.height)
        for band in page.bands:
            # A ground goes on where its band does.
            if band.ground is not None and place.y < band.place.y + band.place.height and band.place.y < place.foot:
                made.add_ornament(band.ground.scene, band.ground.x, band.ground.y - place.y)
        for view in page.painted():
            if not place.y <= view.y < place.foot:
                continue
            x, y = view.middle
            with made.turned(x, y - place.y, view.turn):
                set_tile(made, view, place.y, levels.get(view.tile.id, 0))
            _lead(made, view, place.y, page, places)
    return made


def _lead(made: TypstPage, view: TileView, top: float, page: Page, places: Sequence[PagePlace]) -> None:
    """Let a tile lead to an address, or to where a band or the sources stand in the file."""
    at = (view.x, view.y - top, view.scene.width, view.scene.height)
    goal = band_of(view.tile.leads())
    if view.tile.leads() and not goal:
        made.add_link(view.tile.leads(), *at)
    found = next((band.place.y for band in page.bands if goal and band.band.id == goal), None)
    if found is not None:
        made.add_leap(*_on_page(found, places), *at)
    sources = page.sources()
    if view.tile.points(view.context) and sources is not None and not view.tile.leads():
        high = view.context.font("note").line_height
        below = (view.x, view.y - top + view.scene.height - high, view.scene.width, high)
        made.add_leap(*_on_page(sources.y, places), *below)


def _on_page(down: float, places: Sequence[PagePlace]) -> tuple[int, float]:
    """Return the number of the page that a height (px) lies on, from 1, and how far down it lies there."""
    index = sum(place.y <= down for place in places[1:])
    return index + 1, down - places[index].y


def set_tile(made: TypstPage, view: TileView, top: float, level: int) -> None:
    """Set a tile on a page that begins so many px down."""
    if view.card is not None:
        made.add_ornament(view.card.scene, view.card.x, view.card.y - top, view.opacity)
    if view.header is not None:
        made.add_ornament(view.header.strip(), view.header.x, view.header.y - top, view.opacity)
        made.add_text(view.header.scene, view.header.x, view.header.y - top, 0, view.opacity)
    if view.scene.name:
        made.add_drawing(view.scene, view.x, view.y - top, view.opacity)
    else:
        made.add_text(view.scene, view.x, view.y - top, level, view.opacity)


def refuse_empty(page: Page) -> None:
    if not page.tiles():
        raise YpsilError("the report is empty", where=page.report.title, remedy="add something to it first")
