"""Where tiles stand on screen: a small style sheet for each layout.

The content policy allows no style attributes, and classes for all places there could be would have to end somewhere.
"""

from __future__ import annotations

from typing import get_args

from ypsil.core.document import PageFormat
from ypsil.core.drawing.svg import font_family, number
from ypsil.core.render import BandView, Page, TileView
from ypsil.core.style import HouseStyle
from ypsil.core.tiles.typed import Role


def places_css(page: Page) -> str:
    """Return the style sheet that puts a page's tiles in their places."""
    text = _format_rule(page.report.page, page.report.style) + "".join(
        _band_rule(view, page.report.page) for view in page.bands
    )
    return text + "".join(_tile_rule(view, band) for band in page.bands for view in band.tiles)


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
    } | {role: page.text_px(role) * style.size_of(role) for role in get_args(Role)}
    families = f"--head-family:{font_family(style.heading_family)};--body-family:{font_family(style.body_family)}"
    colours = f"--paper-of:{style.paper};--ink-of:{style.ink};--muted-of:{style.muted}"
    lengths = ";".join(f"--{name}:{number(value)}" for name, value in measures.items())
    return f".page{{{lengths};{families};{colours}}}"


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


def _tile_rule(view: TileView, band: BandView) -> str:
    place = view.place
    said = [
        f"grid-column:{place.column + 1}/span {place.width}",
        f"grid-row:{place.row + 1}/span {place.height}",
    ]
    if view.context.ends is not None:
        # What stands between others stands by its band and not on the grid.
        lengths = {"x": view.x, "y": view.y - band.place.y, "w": view.scene.width, "h": view.scene.height}
        said = [f"--{name}:{number(length)}" for name, length in lengths.items()]
    if place.layer:
        said.append(f"z-index:{place.layer}")
    if view.opacity != 1:
        said.append(f"opacity:{number(view.opacity)}")
    said += [f"--{name}:{value}" for name, value in _tile_measures(view).items()]
    rule = f".t-{view.tile.id}{{{';'.join(said)}}}"
    pressed = view.tile.pressed(view.context)
    if not pressed:
        return rule
    wide, high = view.scene.width, view.scene.height
    corners = ",".join(f"{number(100 * x / wide)}% {number(100 * y / high)}%" for x, y in pressed)
    return f"{rule}.t-{view.tile.id}>.pick{{clip-path:polygon({corners})}}"


def _tile_measures(view: TileView) -> dict[str, str]:
    """Return what the page's own style sheet goes by: lengths are px of the page. What is as usual is left out."""
    left, top, right, foot = view.tile.insets()
    wide, high = view.scene.width, view.scene.height
    lengths = {"dx": view.place.dx, "dy": view.place.dy, "within": view.padding}
    lengths |= {"in-left": left * wide, "in-top": top * high, "in-right": right * wide, "in-foot": foot * high}
    lengths["beneath"] = view.tile.beneath(wide, view.context)
    header = view.header
    if header is not None:
        lengths |= {"header": header.height, "corner": header.corner}
    said = {name: number(length) for name, length in lengths.items() if length}
    if header is not None and header.colour:
        said["header-colour"] = header.colour
    if view.turn:
        said["turned"] = f"{number(view.turn)}deg"
    if view.context.style.ink != HouseStyle().ink:
        said["ink-here"] = view.context.style.ink
    return said
