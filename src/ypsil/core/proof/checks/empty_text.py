"""Texts that were never written."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page


def _find(page: Page) -> Iterator[Finding]:
    for view in page.tiles():
        written = view.tile.writes(view.context)
        if written is not None and written.is_typed and view.tile.hints():
            yield Finding(f"{view.tile.label()}: nothing is written there yet.", view.tile.id, "remark")


CHECK = Check("empty-text", "common practice, no source", 20, _find)
