"""The tiles of a page as pictures of their own, with what they show in words."""

from __future__ import annotations

import io
import re
import unicodedata
import zipfile
from typing import TYPE_CHECKING

from ypsil.core.errors import YpsilError
from ypsil.core.export.typesetting import CLEAR, TypstPage

if TYPE_CHECKING:
    from ypsil.core.render import Page, TileView

# Pixels to a px.
_SCALE = 2.0
_NO_DAY = (1980, 1, 1, 0, 0, 0)
_MOST_NAME = 60
_WORDS = "descriptions.txt"


def page_to_zip(page: Page) -> bytes:
    """Return the tiles of a page as PNG files in a ZIP, in reading order, each on the ground that it stands on; beside
    them what each shows, in words. The same page gives the same bytes."""
    shown = [view for view in page.tiles() if not view.tile.joins() and view.scene.shapes]
    if not shown:
        raise YpsilError("the report is empty", where=page.report.title, remedy="add something to it first")
    buffer = io.BytesIO()
    said = []
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as made:
        for number, view in enumerate(shown, 1):
            name = f"{number:02d}-{_named(view)}.png"
            made.writestr(zipfile.ZipInfo(name, _NO_DAY), tile_picture(page, view))
            said.append(f"{name}\r\n{_in_words(view)}\r\n")
        info = zipfile.ZipInfo(_WORDS, _NO_DAY)
        made.writestr(info, "\r\n".join(said).encode("utf-8-sig"), zipfile.ZIP_DEFLATED)
    return buffer.getvalue()


def tile_picture(page: Page, view: TileView, *, scale: float = _SCALE, is_clear: bool = False) -> bytes:
    """Return a tile as PNG, ``scale`` pixels to a px, on the ground that it stands on, or, where it ``is_clear``, on
    none."""
    scene = view.scene
    made = TypstPage(
        scene.width,
        scene.height,
        view.tile.label(),
        page.report.language,
        CLEAR if is_clear else view.context.style.paper,
    )
    if scene.name:
        made.add_drawing(scene, 0, 0, view.opacity)
    else:
        made.add_text(scene, 0, 0, 0, view.opacity)
    return made.compile("png", ppi=96 * scale)


def _named(view: TileView) -> str:
    """Return what a file of the tile is called: plain letters of what it is called itself."""
    plain = unicodedata.normalize("NFKD", getattr(view.tile, "title", "") or view.tile.label())
    words = re.findall(r"[a-z0-9]+", plain.encode("ascii", "ignore").decode().lower())
    return "-".join(words)[:_MOST_NAME].strip("-") or view.tile.type


def _in_words(view: TileView) -> str:
    written = view.tile.writes(view.context)
    if view.scene.description or view.scene.name:
        return " ".join(part for part in (view.scene.name, view.scene.description) if part)
    return written.spoken(view.context) if written is not None else view.tile.label()
