"""Places that are still kept for something."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page


def _find(page: Page) -> Iterator[Finding]:
    for view in page.tiles():
        if view.tile.hints() and view.tile.writes(view.context) is None:
            yield Finding(f"{view.tile.label()}. Readers see nothing there.", view.tile.id, "remark")


CHECK = Check("kept-place", "common practice, no source", 22, _find)
