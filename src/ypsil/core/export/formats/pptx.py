"""PPTX: a slide for each band, to be edited."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.export.base import Delivery, FileFormat

if TYPE_CHECKING:
    from ypsil.core.render import Page


def _page(page: Page, _: Delivery) -> bytes:
    from ypsil.core.export.slides import page_to_pptx

    return page_to_pptx(page)


FORMAT = FileFormat(
    "pptx",
    "PPTX, slides to be edited, one a band",
    "application/vnd.openxmlformats-officedocument.presentationml.presentation",
    50,
    _page,
)
