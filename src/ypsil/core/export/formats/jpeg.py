"""JPEG: 2 pixels to a px, for where nothing else is taken."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

from ypsil.core.drawing.scene import Scene
from ypsil.core.export.base import Delivery, FileFormat
from ypsil.core.export.typesetting import scene_page

if TYPE_CHECKING:
    from ypsil.core.render import Page

_QUALITY = 90
SCREEN_DPI = 96


def as_jpeg(png: bytes, dpi: float | None = None) -> bytes:
    """Return a picture as JPEG; what is clear in it is white."""
    from PIL import Image

    image = Image.open(io.BytesIO(png)).convert("RGBA")
    whole = Image.new("RGBA", image.size, "white")
    whole.alpha_composite(image)
    buffer = io.BytesIO()
    whole.convert("RGB").save(buffer, "JPEG", quality=_QUALITY, optimize=True, dpi=(dpi or SCREEN_DPI,) * 2)
    return buffer.getvalue()


def _page(page: Page, delivery: Delivery) -> bytes:
    from ypsil.core.export.page import page_to_png

    return as_jpeg(page_to_png(page, scale=delivery.pixels(page.width)), delivery.dpi)


def _scene(scene: Scene, language: str) -> bytes:
    return as_jpeg(scene_page(scene, language).compile("png"))


FORMAT = FileFormat("jpg", "JPEG, where nothing else is taken", "image/jpeg", 25, _page, _scene, is_picture=True)
