"""Tiles and grounds as HTML: drawings as SVG, texts as headings and paragraphs."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.drawing import scene_to_svg
from ypsil.core.drawing.fills import AddressOf
from ypsil.core.drawing.pictures import data_address
from ypsil.core.drawing.scene import Cover, Path, Scene
from ypsil.core.drawing.svg import escaped, number, scene_markup
from ypsil.core.reading.pressed import unfolding
from ypsil.core.reading.words import prose_markup
from ypsil.core.render import BandView, TileView
from ypsil.core.render.backing import Backing
from ypsil.core.tiles import Drawn, Written


def body_of(view: TileView, level: int, narrow: Drawn | None, address_of: AddressOf) -> str:
    """Return what a tile shows, for the eye and for everyone else."""
    listed, written = view.tile.listed(view.context), view.tile.writes(view.context)
    opened = view.tile.unfolds()
    if opened is not None and view.context.for_readers:
        silent = _drawing(view, narrow, address_of).replace("<svg ", '<svg aria-hidden="true" ')
        return unfolding(silent, view.tile.label(), opened)
    if listed and not view.drawn.problem:
        return _listed(view, listed, narrow, address_of)
    if view.scene.name or (narrow and written is None):
        return _drawing(view, narrow, address_of)
    return _text(view, written, level, address_of)


def card_of(view: TileView) -> str:
    """Return what stands behind a tile, and at its head."""
    return _behind(view.card, "card", f"card-{view.tile.id}") + _header(view)


def ground_of(view: BandView, address_of: AddressOf = data_address) -> str:
    """Return what a band stands on, as SVG; nothing where that is the page."""
    return _behind(view.ground, "ground", f"ground-{view.band.id}", address_of)


def _behind(backing: Backing | None, css_class: str, name: str, address_of: AddressOf = data_address) -> str:
    """Return a card or a ground as SVG that fills what it stands behind, whatever shape that has on a phone."""
    if backing is None:
        return ""
    scene = backing.scene
    is_picture = any(isinstance(shape, Path) and isinstance(shape.motif, Cover) for shape in scene.shapes)
    fit = "xMidYMid slice" if is_picture else "none"
    return (
        f'<svg class="{css_class}" viewBox="0 0 {number(scene.width)} {number(scene.height)}" '
        f'preserveAspectRatio="{fit}" aria-hidden="true">{scene_markup(scene, name, address_of)}</svg>'
    )


def _header(view: TileView) -> str:
    """Return what stands at the head of a card: as high as its strip, which the style sheet colours, however wide that
    is on a phone."""
    if view.header is None:
        return ""
    high = number(view.header.height)
    said = f'<p class="visually-hidden">{escaped(view.header.words)}</p>' if view.header.words else ""
    return (
        f'<svg class="header" viewBox="0 0 {high} {high}" preserveAspectRatio="xMinYMid meet" aria-hidden="true">'
        f"{scene_markup(view.header.scene)}</svg>{said}"
    )


def _drawing(view: TileView, narrow: Drawn | None, address_of: AddressOf) -> str:
    name = f"tile-{view.tile.id}"
    if narrow is None:
        return scene_to_svg(view.scene, label_id=name, address_of=address_of)
    small = scene_to_svg(narrow.scene, label_id=f"{name}-narrow", css_class="narrow", address_of=address_of)
    return scene_to_svg(view.scene, label_id=name, css_class="wide", address_of=address_of) + small


def _listed(view: TileView, listed: list[tuple[str, str]], narrow: Drawn | None, address_of: AddressOf) -> str:
    """The drawing for the eye, and what it tells as a list for everyone else."""
    wide = replace(view, drawn=replace(view.drawn, scene=replace(view.scene, name="")))
    small = None if narrow is None else replace(narrow, scene=replace(narrow.scene, name=""))
    entries = "".join(
        f"<li>{escaped(first)}{': ' if first and said else ''}{escaped(said)}</li>" for first, said in listed
    )
    label = escaped(view.tile.called)
    return f'{_drawing(wide, small, address_of)}<ol class="spoken" aria-label="{label}">{entries}</ol>'


def _text(view: TileView, written: Written | None, level: int, address_of: AddressOf) -> str:
    """The drawn lines for the eye, and the same words as a heading or paragraphs for everyone else."""
    scene = Scene(view.scene.width, view.scene.height, view.scene.shapes)
    drawn = scene_to_svg(scene, address_of=address_of)
    # What is drawn is not read out: its links are reached among the words.
    drawn = drawn.replace("<a href=", '<a tabindex="-1" href=')
    if written is None or not written.prose.blocks:
        return drawn
    said = tuple(one.text for one in written.said(view.context))
    spoken = prose_markup(written.prose, said, in_line=bool(level))
    tag = f"h{level}" if level else "div"
    within = "span" if level else "div"
    css_class = f"drawn as-{written.role} at-{written.align}"
    return f'<{tag} class="{css_class}">{drawn}<{within} class="spoken">{spoken}</{within}></{tag}>'
