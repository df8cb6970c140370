"""A page as somebody hears it who has it read out: what stands on it, in its order, in words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ypsil.core.render import Page, TileView, heading_levels


@dataclass(frozen=True, slots=True)
class Heard:
    """Something that is read out: what it is said to be (a heading, a drawing, a list), and its words."""

    kind: str
    words: str


def heard(page: Page) -> list[Heard]:
    """Return what is read out of a page, in the order it is read in."""
    levels = heading_levels(page)
    found = [] if levels else [Heard("Heading 1", page.report.title)]
    for number, band in enumerate(page.bands, 1):
        if band.tiles:
            found.append(Heard("Part of the page", band.band.message or f"Part {number}"))
        for view in band.tiles:
            found += _of_tile(view, levels.get(view.tile.id, 0))
    return found


def _of_tile(view: TileView, level: int) -> Iterator[Heard]:
    tile, scene = view.tile, view.scene
    if view.header is not None and view.header.words:
        yield Heard("Text", view.header.words)
    listed, written = tile.listed(view.context), tile.writes(view.context)
    if listed and not view.drawn.problem:
        yield Heard("List", "; ".join(": ".join(part for part in entry if part) for entry in listed))
    elif scene.name:
        yield Heard("Drawing", f"{scene.told}.")
    elif written is not None and written.spoken(view.context).strip():
        kind = f"Heading {level}" if level else "Text"
        yield Heard(kind, " ".join(written.spoken(view.context).split()))
    if tile.leads():
        yield Heard("Link", tile.label())
    if view.drawn.answer is not None and not view.drawn.problem:
        yield Heard("Button", f"Numbers: {scene.name or tile.label()}")
