"""A composed page as HTML: tiles on a CSS grid, drawings as SVG, texts as headings and paragraphs."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from django.utils.safestring import SafeString, mark_safe

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.svg import number
from ypsil.core.reading import SHOWN_NUMBERS, body_of, card_of, ground_of
from ypsil.core.render import BandView, Page, TileView, heading_levels
from ypsil.core.report import Band
from ypsil.core.visuals.shared.summary import numbers_table
from ypsil.web.compose.typed_data import typed_as_data
from ypsil.web.gather.services import address_of as own_address


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
    joins: str
    takes_picture: bool
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


def page_markup(page: Page) -> list[BandMarkup]:
    """Return the bands of a page for the templates."""
    levels, starts = heading_levels(page), page_starts(page)
    return [
        BandMarkup(
            band.band.id,
            band.band.message,
            band_label(number, band.band),
            band.rows,
            [tile_markup(view, levels.get(view.tile.id, 0)) for view in band.tiles],
            ground_markup(band),
            band.place.head,
            starts.get(band.band.id, ""),
            band.band.is_tray,
        )
        for number, band in enumerate(page.bands, 1)
    ]


def tile_markup(view: TileView, level: int) -> TileMarkup:
    """Return a tile for the templates; ``level`` is that of its heading, 0 for none."""
    tile = view.tile
    written = tile.writes(view.context)
    typed = written if written is not None and written.is_typed else None
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
        # What the core writes has every text escaped.
        body=mark_safe(body_of(view, level, None, own_address)),
        card=mark_safe(card_of(view)),
        group=view.group,
        is_of_band=tile.is_of_band,
        is_locked=tile.is_locked,
        turn=number(view.turn) if tile.can_turn else "",
        joins=" ".join(tile.joins()),
        takes_picture=tile.takes_picture(),
        problem=view.drawn.problem,
        digest=tile_digest(view, level),
    )


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


def ground_markup(view: BandView) -> SafeString:
    """Return what a band stands on, as SVG; nothing where that is the page."""
    return mark_safe(ground_of(view, own_address))


def numbers_of(answer: Answer | None) -> tuple[list[str], list[list[str]]] | None:
    """Return the headings and the first rows of the numbers behind a drawing."""
    if answer is None:
        return None
    return numbers_table(answer, SHOWN_NUMBERS)
