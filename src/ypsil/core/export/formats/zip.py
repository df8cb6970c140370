"""ZIP: each tile of a page as a picture of its own."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.export.base import Delivery, FileFormat

if TYPE_CHECKING:
    from ypsil.core.render import Page


def _page(page: Page, _: Delivery) -> bytes:
    from ypsil.core.export.pictures import page_to_zip

    return page_to_zip(page)


FORMAT = FileFormat("zip", "ZIP, each tile as a picture", "application/zip", 70, _page)
