"""DOCX: the report as a text document."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.export.base import Delivery, FileFormat

if TYPE_CHECKING:
    from ypsil.core.render import Page


def _page(page: Page, _: Delivery) -> bytes:
    from ypsil.core.export.manuscript import page_to_docx

    return page_to_docx(page)


FORMAT = FileFormat(
    "docx",
    "DOCX, a text document with pictures and tables",
    "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
    55,
    _page,
)
