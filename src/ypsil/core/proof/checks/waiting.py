"""Tiles that wait for data."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page


def _find(page: Page) -> Iterator[Finding]:
    for view, problem in page.problems():
        yield Finding(problem, view.tile.id)


CHECK = Check("waiting", "a tile without its data tells readers nothing: common practice, no source", 10, _find)
