"""A composed page as HTML: tiles on a CSS grid, drawings as SVG, texts as headings and paragraphs."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass, replace

from django.utils.safestring import SafeString, mark_safe

from ypsil.core.answers.model import Answer
from ypsil.core.drawing import scene_to_svg
from ypsil.core.drawing.fills import AddressOf
from ypsil.core.drawing.scene import Cover, Path, Scene
from ypsil.core.drawing.svg import escaped, number, scene_markup
from ypsil.core.render import BandView, Page, TileView, heading_levels
from ypsil.core.render.backing import Backing
from ypsil.core.report import Band
from ypsil.core.tiles import Drawn, Written
from ypsil.core.visuals.shared.summary import numbers_table
from ypsil.web.compose.pressed import shown_in_place, unfolding
from ypsil.web.compose.prose_markup import prose_markup, typed_as_data
from ypsil.web.gather.services import address_of as own_address

SHOWN_NUMBERS = 200


@dataclass(frozen=True, slots=True)
class TileMarkup:
    """A tile for the templates: its classes on the grid, its kind, its drawing, and its numbers."""

    id: str
    kind: str
    classes: str
    label: str
    is_typed: bool
    is_typed_later: bool
    text: str
    typed: dict[str, str]
    hint: str
    body: SafeString
    card: SafeString
    group: str
    is_of_band: bool
    is_locked: bool
    turn: str
    leads_to: str
    joins: str
    takes_picture: bool
    inside: SafeString
    points: str
    sources_at: str
    numbers: tuple[list[str], list[list[str]]] | None
    problem: str
    digest: str


@dataclass(frozen=True, slots=True)
class BandMarkup:
    id: str
    message: str
    label: str
    rows: int
    tiles: list[TileMarkup]
    ground: SafeString
    head: int
    page: str
    is_tray: bool = False


def page_starts(page: Page) -> dict[str, str]:
    """Return the number of the page that a band begins, by the band's id; none of the first, nor where pages are one
    long sheet."""
    found = {}
    before = 0
    for band in page.bands:
        if band.place.page > before:
            found[band.band.id] = str(band.place.page + 1)
        before = band.place.page
    return found


def page_markup(
    page: Page, narrow: Mapping[str, Drawn] | None = None, *, address_of: AddressOf = own_address
) -> list[BandMarkup]:
    """Return the bands of a page for the templates, with a second drawing of those in ``narrow``; ``address_of`` tells
    where the reader finds pictures."""
    narrow = narrow or {}
    levels, starts = heading_levels(page), page_starts(page)
    sources = page.sources()
    at = "" if sources is None else sources.tile.id
    return [
        BandMarkup(
            band.band.id,
            band.band.message,
            band_label(number, band.band),
            band.rows,
            [
                tile_markup(
                    view,
                    levels.get(view.tile.id, 0),
                    narrow.get(view.tile.id),
                    address_of=address_of,
                    sources_at=at,
                )
                for view in band.tiles
            ],
            ground_markup(band, address_of),
            band.place.head,
            starts.get(band.band.id, ""),
            band.band.is_tray,
        )
        for number, band in enumerate(page.bands, 1)
    ]


def tile_markup(
    view: TileView,
    level: int,
    narrow: Drawn | None = None,
    *,
    address_of: AddressOf = own_address,
    sources_at: str = "",
) -> TileMarkup:
    """Return a tile for the templates; ``level`` is that of its heading, 0 for none, and ``sources_at`` the tile that
    names the sources."""
    tile = view.tile
    written = tile.writes(view.context)
    typed = written if written is not None and written.is_typed else None
    inside = shown_in_place(view, address_of)
    return TileMarkup(
        id=tile.id,
        kind=tile.type,
        classes=f"t-{tile.id}",
        label=view.scene.name or tile.label(),
        is_typed=typed is not None,
        is_typed_later=typed is not None and not typed.is_at_once,
        text="" if typed is None else typed.spoken(view.context),
        typed={} if typed is None else typed_as_data(typed, view.context),
        hint=tile.hints(),
        body=_body(view, level, narrow, address_of),
        card=_behind(view.card, "card", f"card-{tile.id}") + _header(view),
        group=view.group,
        is_of_band=tile.is_of_band,
        is_locked=tile.is_locked,
        turn=number(view.turn) if tile.can_turn else "",
        leads_to="" if inside else tile.leads(),
        joins=" ".join(tile.joins()),
        takes_picture=tile.takes_picture(),
        inside=inside,
        points=tile.points(view.context),
        sources_at=sources_at,
        numbers=numbers_of(view.drawn.answer),
        problem=view.drawn.problem,
        digest=tile_digest(view, level),
    )


def _body(view: TileView, level: int, narrow: Drawn | None, address_of: AddressOf) -> SafeString:
    """Return what a tile shows, for the eye and for everyone else."""
    listed, written = view.tile.listed(view.context), view.tile.writes(view.context)
    opened = view.tile.unfolds()
    if opened is not None and view.context.for_readers:
        silent = mark_safe(_drawing(view, narrow, address_of).replace("<svg ", '<svg aria-hidden="true" '))
        return unfolding(silent, view.tile.label(), opened)
    if listed and not view.drawn.problem:
        return _listed(view, listed, narrow, address_of)
    if view.scene.name or (narrow and written is None):
        return _drawing(view, narrow, address_of)
    return _text(view, written, level, address_of)


def tile_digest(view: TileView, level: int) -> str:
    """Return a digest of all that a tile's markup says, without making it."""
    tile = view.tile
    said = view.drawn.key or repr(view.scene)
    written = tile.writes(view.context)
    text = f"{written!r} {written.said(view.context)!r} {tile.hints()}" if written else tile.hints()
    card = "" if view.card is None else repr(view.card.scene)
    card += "" if view.header is None else repr(view.header.scene)
    parts = [
        tile.id,
        tile.type,
        text,
        str(level),
        view.scene.name,
        view.drawn.problem,
        said,
        card,
        view.group,
        str(tile.is_locked),
        str(view.turn),
        tile.leads(),
        *tile.joins(),
    ]
    return hashlib.sha256("\0".join(parts).encode()).hexdigest()[:16]


def band_label(number: int, band: Band) -> str:
    """Return what a band is called: its number and what it says."""
    if band.is_tray:
        return f"Tray: {band.message}. Readers never see it"
    return f"Band {number}: {band.message}" if band.message else f"Band {number}"


def ground_markup(view: BandView, address_of: AddressOf = own_address) -> SafeString:
    """Return what a band stands on, as SVG; nothing where that is the page."""
    return _behind(view.ground, "ground", f"ground-{view.band.id}", address_of)


def _behind(backing: Backing | None, css_class: str, name: str, address_of: AddressOf = own_address) -> SafeString:
    """Return a card or a ground as SVG that fills what it stands behind, whatever shape that has on a phone."""
    if backing is None:
        return mark_safe("")
    scene = backing.scene
    is_picture = any(isinstance(shape, Path) and isinstance(shape.motif, Cover) for shape in scene.shapes)
    fit = "xMidYMid slice" if is_picture else "none"
    return mark_safe(
        f'<svg class="{css_class}" viewBox="0 0 {number(scene.width)} {number(scene.height)}" '
        f'preserveAspectRatio="{fit}" aria-hidden="true">{scene_markup(scene, name, address_of)}</svg>'
    )


def _header(view: TileView) -> SafeString:
    """Return what stands at the head of a card: as high as its strip, which the style sheet colours, however wide that
    is on a phone."""
    if view.header is None:
        return mark_safe("")
    high = number(view.header.height)
    said = f'<p class="visually-hidden">{escaped(view.header.words)}</p>' if view.header.words else ""
    return mark_safe(
        f'<svg class="header" viewBox="0 0 {high} {high}" preserveAspectRatio="xMinYMid meet" aria-hidden="true">'
        f"{scene_markup(view.header.scene)}</svg>{said}"
    )


def _drawing(view: TileView, narrow: Drawn | None, address_of: AddressOf) -> SafeString:
    # The SVG is made by our own writer, which escapes every text in it.
    name = f"tile-{view.tile.id}"
    if narrow is None:
        return mark_safe(scene_to_svg(view.scene, label_id=name, address_of=address_of))
    small = scene_to_svg(narrow.scene, label_id=f"{name}-narrow", css_class="narrow", address_of=address_of)
    return mark_safe(scene_to_svg(view.scene, label_id=name, css_class="wide", address_of=address_of) + small)


def _listed(view: TileView, listed: list[tuple[str, str]], narrow: Drawn | None, address_of: AddressOf) -> SafeString:
    """The drawing for the eye, and what it tells as a list for everyone else."""
    wide = replace(view, drawn=replace(view.drawn, scene=replace(view.scene, name="")))
    small = None if narrow is None else replace(narrow, scene=replace(narrow.scene, name=""))
    entries = "".join(
        f"<li>{escaped(first)}{': ' if first and said else ''}{escaped(said)}</li>" for first, said in listed
    )
    label = escaped(view.tile.called)
    return mark_safe(f'{_drawing(wide, small, address_of)}<ol class="spoken" aria-label="{label}">{entries}</ol>')


def _text(view: TileView, written: Written | None, level: int, address_of: AddressOf) -> SafeString:
    """The drawn lines for the eye, and the same words as a heading or paragraphs for everyone else."""
    scene = Scene(view.scene.width, view.scene.height, view.scene.shapes)
    drawn = scene_to_svg(scene, address_of=address_of)
    # What is drawn is not read out: its links are reached among the words.
    drawn = drawn.replace("<a href=", '<a tabindex="-1" href=')
    if written is None or not written.prose.blocks:
        return mark_safe(drawn)
    said = tuple(one.text for one in written.said(view.context))
    spoken = prose_markup(written.prose, said, in_line=bool(level))
    tag = f"h{level}" if level else "div"
    within = "span" if level else "div"
    css_class = f"drawn as-{written.role} at-{written.align}"
    return mark_safe(f'<{tag} class="{css_class}">{drawn}<{within} class="spoken">{spoken}</{within}></{tag}>')


def numbers_of(answer: Answer | None) -> tuple[list[str], list[list[str]]] | None:
    """Return the headings and the first rows of the numbers behind a drawing."""
    if answer is None:
        return None
    return numbers_table(answer, SHOWN_NUMBERS)
