"""XLSX: the answers behind a page, a sheet each."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.export.base import Delivery, FileFormat

if TYPE_CHECKING:
    from ypsil.core.render import Page


def _page(page: Page, _: Delivery) -> bytes:
    from ypsil.core.export.workbook import page_to_xlsx

    return page_to_xlsx(page)


FORMAT = FileFormat(
    "xlsx",
    "XLSX, the numbers, a sheet each",
    "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    60,
    _page,
)
