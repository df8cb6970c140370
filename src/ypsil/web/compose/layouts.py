"""Where tiles stand on screen: a small style sheet for each layout, named by its digest, so that it is kept for good.

The content policy allows no style attributes, and classes for all places there could be would have to end somewhere.
"""

from __future__ import annotations

import hashlib
from typing import get_args

from ypsil.core.cache import Cache
from ypsil.core.document import PageFormat
from ypsil.core.drawing.svg import font_family, number
from ypsil.core.render import BandView, Page, TileView
from ypsil.core.render.header import Header
from ypsil.core.style import HouseStyle
from ypsil.core.tiles.typed import Role

_sheets: Cache[str, str] = Cache("layouts", 8 << 20, len)


def layout_of(page: Page) -> tuple[str, str]:
    """Return the digest and the text of the style sheet that puts a page's tiles in their places."""
    text = _format_rule(page.report.page, page.report.style) + "".join(
        _band_rule(view, page.report.page) for view in page.bands
    )
    text += "".join(_tile_rule(view) for view in page.tiles())
    digest = hashlib.sha256(text.encode()).hexdigest()[:32]
    _sheets.put(digest, text)
    return digest, text


def _format_rule(page: PageFormat, style: HouseStyle) -> str:
    """Say the page's measures in px of its own width; what is shown of them follows the width it has on screen."""
    measures = {
        "wide": page.width,
        "columns": page.columns,
        "gutter": page.gutter,
        "row": page.row,
        "left": page.margins.left,
        "right": page.margins.right,
        "padding": page.band_padding * page.row,
        "foot": page.margins.bottom,
    } | {role: page.text_px(role) for role in get_args(Role)}
    families = f"--head-family:{font_family(style.heading_family)};--body-family:{font_family(style.body_family)}"
    return ".page{" + ";".join(f"--{name}:{number(value)}" for name, value in measures.items()) + f";{families}}}"


def _band_rule(view: BandView, page: PageFormat) -> str:
    place = view.place
    measures = {}
    if place.above:
        measures["--above"] = number(place.above)
        measures["--turn"] = number(min(place.above, page.margins.top))
    if place.padding != page.band_padding:
        measures["--padding"] = number(place.padding * page.row)
    if view.band.least_rows:
        measures["--least"] = number(place.height)
    said = ";".join(f"{name}:{value}" for name, value in measures.items())
    return f".b-{view.band.id}{{{said}}}" if said else ""


def _tile_rule(view: TileView) -> str:
    place = view.place
    layer = f";z-index:{place.layer}" if place.layer else ""
    beside = f";--dx:{number(place.dx)};--dy:{number(place.dy)}" if place.dx or place.dy else ""
    within = f";--within:{number(view.padding)}" if view.padding else ""
    solid = f";opacity:{number(view.opacity)}" if view.opacity != 1 else ""
    solid += f";--turned:{number(view.turn)}deg" if view.turn else ""
    solid += _header_measures(view.header) if view.header else ""
    solid += _insets(view) if any(view.tile.insets()) else ""
    ink = view.context.style.ink
    inked = f";--ink-here:{ink}" if ink != HouseStyle().ink else ""
    return (
        f".t-{view.tile.id}{{grid-column:{place.column + 1}/span {place.width};"
        f"grid-row:{place.row + 1}/span {place.height}{layer}{beside}{within}{inked}{solid}}}"
    )


def _insets(view: TileView) -> str:
    """Say how much room a form leaves round its words, in px of the page."""
    left, top, right, foot = view.tile.insets()
    wide, high = view.scene.width, view.scene.height
    sides = {"left": left * wide, "top": top * high, "right": right * wide, "foot": foot * high}
    return "".join(f";--in-{side}:{number(value)}" for side, value in sides.items())


def _header_measures(header: Header) -> str:
    colour = f";--header-colour:{header.colour}" if header.colour else ""
    return f";--header:{number(header.height)};--corner:{number(header.corner)}{colour}"


def layout_at_hand(digest: str) -> str | None:
    """Return a style sheet that this process made lately, or None."""
    return _sheets.get(digest)
