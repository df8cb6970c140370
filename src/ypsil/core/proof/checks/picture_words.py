"""Pictures that say nothing to those who cannot see them."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page


def _find(page: Page) -> Iterator[Finding]:
    for view in page.tiles():
        if view.tile.lacks_words():
            yield Finding(
                "A picture has no description: say in words what it shows, or that it only decorates.", view.tile.id
            )


CHECK = Check("picture-words", "WCAG 2.2, success criterion 1.1.1", 15, _find)
