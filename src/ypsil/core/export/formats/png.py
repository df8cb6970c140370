"""PNG: 2 pixels to a px."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.drawing.scene import Scene
from ypsil.core.export.base import Delivery, FileFormat
from ypsil.core.export.typesetting import scene_page

if TYPE_CHECKING:
    from ypsil.core.render import Page


def _page(page: Page, delivery: Delivery) -> bytes:
    from ypsil.core.export.page import page_to_png

    return page_to_png(page, scale=delivery.pixels(page.width), dpi=delivery.dpi)


def _scene(scene: Scene, language: str) -> bytes:
    return scene_page(scene, language).compile("png")


FORMAT = FileFormat("png", "PNG, for slides and messages", "image/png", 20, _page, _scene, is_picture=True)
