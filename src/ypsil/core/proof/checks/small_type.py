"""Words that are too small to be read at delivery."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.document.page_formats import LEAST_PART
from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page

_ROUNDED = 0.01


def _find(page: Page) -> Iterator[Finding]:
    least = LEAST_PART * page.context.page.text_size - _ROUNDED
    for view in page.tiles():
        if any(text.font.size < least for text in view.scene.texts()):
            said = view.tile.label()
            yield Finding(f"{said}: some of its words are very small. Give it more room.", view.tile.id, "remark")


CHECK = Check("small-type", "common practice, no source", 30, _find)
