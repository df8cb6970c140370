"""Pictures that say nothing to those who cannot see them."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page
from ypsil.core.tiles import as_picture


def _find(page: Page) -> Iterator[Finding]:
    for view in page.tiles():
        if view.tile.lacks_words():
            yield Finding(
                f"A {view.tile.called} has no description: say in words what it shows"
                f"{', or that it only decorates' if as_picture(view.tile) else ''}.",
                view.tile.id,
            )


CHECK = Check("picture-words", "WCAG 2.2, success criterion 1.1.1", 15, _find)
