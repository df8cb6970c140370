"""The style sheets that put tiles in their places, named by their digests, so that they are kept for good."""

from __future__ import annotations

import hashlib

from ypsil.core.cache import Cache
from ypsil.core.reading import places_css
from ypsil.core.render import Page

_sheets: Cache[str, str] = Cache("layouts", 8 << 20, len)


def layout_of(page: Page) -> tuple[str, str]:
    """Return the digest and the text of the style sheet that puts a page's tiles in their places."""
    text = places_css(page)
    digest = hashlib.sha256(text.encode()).hexdigest()[:32]
    _sheets.put(digest, text)
    return digest, text


def layout_at_hand(digest: str) -> str | None:
    """Return a style sheet that this process made lately, or None."""
    return _sheets.get(digest)
