"""PDF/UA-1: tagged, vector, with real text."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.drawing.scene import Scene
from ypsil.core.export.base import Delivery, FileFormat
from ypsil.core.export.typesetting import scene_page

if TYPE_CHECKING:
    from ypsil.core.render import Page


def _page(page: Page, delivery: Delivery) -> bytes:
    from ypsil.core.export.page import page_to_pdf

    return page_to_pdf(page, delivery)


def _scene(scene: Scene, language: str) -> bytes:
    return scene_page(scene, language).compile("pdf")


FORMAT = FileFormat("pdf", "PDF, tagged", "application/pdf", 10, _page, _scene)
