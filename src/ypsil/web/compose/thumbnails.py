"""Small drawings: a report's miniature on the desk, and suggestions drawn with the report's own data."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from django.utils.safestring import SafeString, mark_safe

from ypsil.core.drawing import scene_markup
from ypsil.core.drawing.svg import number
from ypsil.core.render import Page, TileView, compose
from ypsil.core.render.backing import Backing
from ypsil.core.report import Band, ReportBody, ReportTable, TextTile, VisualTile
from ypsil.core.report.suggest import Suggestion
from ypsil.core.style import HouseStyle
from ypsil.core.style.grounds import on, tone
from ypsil.core.tiles import KINDS, AnyTile, Context, Memory, Offer, ToldTile
from ypsil.core.visuals import Box, draw
from ypsil.web.gather.services import address_of

# A small picture shows the top of a page, three wide and two high.
_SHOWN_PART = 2 / 3
_SUGGESTION_BOX = Box(440, 260)
_OFFER_PX = 440.0


def miniature_height(width: float) -> float:
    """Return how much of a page a small picture shows, in px from its top."""
    return width * _SHOWN_PART


def report_miniature(page: Page) -> SafeString:
    """Return the top of a report as a small picture; its name stands beside it, so it is hidden from readers."""
    return _small(page, miniature_height(page.width))


def whole_page(body: ReportBody, tables: Mapping[str, ReportTable], memory: Memory, part: float = 0.0) -> SafeString:
    """Return a page as a drawing, or its top: so many times as high as it is wide at most. What its author has still to
    say stands there in grey."""
    bands = tuple(band.model_copy(update={"tiles": tuple(map(_as_hint, band.tiles))}) for band in body.bands)
    page = compose(body.model_copy(update={"bands": bands}), tables, memory)
    return _small(page, min(page.height, part * page.width) if part else page.height)


def band_drawing(band: Band, like: ReportBody, tables: Mapping[str, ReportTable]) -> SafeString:
    """Return a band as a small picture, on a report's page and in its style; places that are kept, and texts that are
    still to be typed, are grey boxes that say what belongs there."""
    tiles = tuple(_as_hint(tile) for tile in band.tiles)
    alone = like.model_copy(update={"bands": (band.model_copy(update={"tiles": tiles}),), "filters": ()})
    page = compose(alone, tables)
    return _small(page, max(page.bands[0].place.height, page.width / 4))


def _as_hint(tile: AnyTile) -> AnyTile:
    hint = tile.hints()
    if not hint:
        return tile
    written = tile.writes(Context())
    role = written.role if written is not None else "lead"
    # A number that is still to be typed is asked for in words.
    role = "heading" if role == "big" else role
    return TextTile(id=tile.id, place=tile.place, card=tile.card, role=role, text=hint, colour="quiet")


def _small(page: Page, height: float) -> SafeString:
    wide, high = number(page.width), number(height)
    shown = [view for view in page.painted() if view.y < height]
    grounds = [band.ground for band in page.bands if band.ground and band.ground.y < height]
    parts = [_behind(one, f"ground-{place}") for place, one in enumerate(grounds)]
    parts += map(_tile, shown)
    return mark_safe(
        f'<svg class="miniature" viewBox="0 0 {wide} {high}" aria-hidden="true">'
        f'<rect width="{wide}" height="{high}" fill="{page.report.style.paper}"/>{"".join(parts)}</svg>'
    )


def _tile(view: TileView) -> str:
    behind = "" if view.card is None else _behind(view.card, f"card-{view.tile.id}")
    if view.header is not None:
        at = view.header
        behind += _behind(Backing(at.strip(), at.x, at.y), f"head-{view.tile.id}")
        behind += f'<g transform="translate({number(at.x)} {number(at.y)})">{scene_markup(at.scene)}</g>'
    markup = scene_markup(view.scene, address_of=address_of)
    turned = f' transform="{view.turning()}"' if view.turn else ""
    return (
        f'<g opacity="{number(view.opacity)}"{turned}>{behind}'
        f'<g transform="translate({number(view.x)} {number(view.y)})">{markup}</g></g>'
    )


def _behind(backing: Backing, name: str) -> str:
    markup = scene_markup(backing.scene, name, address_of)
    return f'<g transform="translate({number(backing.x)} {number(backing.y)})">{markup}</g>'


def offer_drawing(kind: str, offer: Offer, style: HouseStyle) -> SafeString:
    """Return what something will look like, with words that only say which is which; nothing for what is only typed."""
    told = KINDS[kind]
    context = Context(style=style, house=style)
    if issubclass(told, ToldTile):
        entries = [_sample(told, place) for place in range(len(offer.content["entries"]))]
        tile: AnyTile = told.model_validate({"type": kind, **offer.content, "entries": entries})
        height = tile.least_height(_OFFER_PX, context)
    elif offer.sample:
        tile = told.model_validate({"type": kind, **offer.content, **offer.sample})
        if tile.grounds():
            context = replace(context, style=on(style, *(tone(style, one) for one in tile.grounds())))
        height = max(offer.sample_height, tile.least_height(_OFFER_PX, context))
    else:
        return mark_safe("")
    scene = tile.draws(Box(_OFFER_PX, height), context).scene
    return mark_safe(
        f'<svg viewBox="0 0 {number(scene.width)} {number(height)}" aria-hidden="true">{scene_markup(scene)}</svg>'
    )


def _sample(told: type[ToldTile], place: int) -> dict[str, str]:
    """Return an entry that says which one it is."""
    figure = str(2024 + place) if told.figure_is == "When" else str(90 - 30 * place)
    name = f"{told.entry_is.capitalize()} {place + 1}"
    return {
        "head": name,
        "figure": figure if told.figure_is else "",
        "text": f"{told.text_is}.".replace(", one a line", ""),
    }


def suggestion_drawing(suggestion: Suggestion) -> SafeString:
    """Return a suggested tile, drawn small with its own answer; its label is said in words beside it."""
    tile: VisualTile = suggestion.tile
    scene = draw(tile.visual, suggestion.answer, tile.options, _SUGGESTION_BOX, HouseStyle())
    return mark_safe(
        f'<svg viewBox="0 0 {number(scene.width)} {number(scene.height)}" aria-hidden="true">'
        f"{scene_markup(scene)}</svg>"
    )
