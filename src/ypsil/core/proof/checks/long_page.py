"""Pages that hold more than their format has room for."""

from __future__ import annotations

from collections.abc import Iterator

from ypsil.core.proof.base import Check, Finding
from ypsil.core.render import Page


def _find(page: Page) -> Iterator[Finding]:
    height = page.report.page.height
    if height is None:
        return
    for number, place in enumerate(page.layout.pages, 1):
        if place.height > height:
            more = place.height - height
            yield Finding(
                f"Page {number} is {more:,.0f} px longer than its format: a tile on it is too high.", kind="remark"
            )


CHECK = Check("long-page", "a printed page ends where its paper does: common practice, no source", 40, _find)
