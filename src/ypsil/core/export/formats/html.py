"""HTML: one file for browsers that needs no network."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.export.base import Delivery, FileFormat

if TYPE_CHECKING:
    from ypsil.core.render import Page


def _page(page: Page, _: Delivery) -> bytes:
    from ypsil.core.export.standing import page_to_html

    return page_to_html(page).encode()


FORMAT = FileFormat("html", "HTML, one file that needs no network", "text/html; charset=utf-8", 40, _page)
