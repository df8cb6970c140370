"""The outline of a page."""

from __future__ import annotations

from ypsil.core.render.page import Page

_HEADING_LEVELS = {"title": 1, "heading": 2}


def heading_levels(page: Page) -> dict[str, int]:
    """Return the level of each tile that is a heading, by its id.

    Titles are of level 1 and headings of level 2, but the first of all is of level 1 whatever it is: no
    level may be skipped (ISO 14289-1, 7.4.2).
    """
    levels: dict[str, int] = {}
    for view in page.tiles():
        heading = view.tile.heading()
        if heading:
            levels[view.tile.id] = _HEADING_LEVELS[heading] if levels else 1
    return levels
