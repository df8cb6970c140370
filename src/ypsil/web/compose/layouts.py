"""Where tiles stand on screen: a small style sheet for each layout, named by its digest, so that it is kept for good.

The content policy allows no style attributes, and classes for all places there could be would have to end somewhere.
"""

from __future__ import annotations

import hashlib

from ypsil.core.cache import Cache
from ypsil.core.report import Page

_sheets: Cache[str, str] = Cache("layouts", 8 << 20, len)


def layout_of(page: Page) -> tuple[str, str]:
    """Return the digest and the text of the style sheet that puts a page's tiles in their places."""
    rules = [
        f".t-{view.tile.id}{{grid-column:{view.place.column + 1}/span {view.place.width};"
        f"grid-row:{view.place.row + 1}/span {view.place.height}}}"
        for view in page.tiles()
    ]
    text = "".join(rules)
    digest = hashlib.sha256(text.encode()).hexdigest()[:32]
    _sheets.put(digest, text)
    return digest, text


def layout_at_hand(digest: str) -> str | None:
    """Return a style sheet that this process made lately, or None."""
    return _sheets.get(digest)
