"""A page without a heading."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page, heading_levels


def _find(page: Page) -> Iterator[Finding]:
    if page.tiles() and not heading_levels(page):
        yield Finding("The page has no title: nobody can tell what it says before reading all of it.", kind="remark")


CHECK = Check("no-heading", "WCAG 2.2, 2.4.6 Headings and Labels", 30, _find)
