"""WebP: small pictures for pages of the web."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

from ypsil.core.drawing.scene import Scene
from ypsil.core.export.base import Delivery, FileFormat
from ypsil.core.export.typesetting import scene_page

if TYPE_CHECKING:
    from ypsil.core.render import Page

_QUALITY = 90
# The format holds no more pixels to a side (RFC 9649, 2.5).
_MOST_SIDE = 16_383


def as_webp(png: bytes) -> bytes:
    """Return a picture as WebP, smaller where it is taller or wider than the format can hold."""
    from PIL import Image

    image: Image.Image = Image.open(io.BytesIO(png))
    if max(image.size) > _MOST_SIDE:
        by = _MOST_SIDE / max(image.size)
        image = image.resize((max(1, int(image.width * by)), max(1, int(image.height * by))))
    buffer = io.BytesIO()
    image.save(buffer, "WEBP", quality=_QUALITY, method=4)
    return buffer.getvalue()


def _page(page: Page, delivery: Delivery) -> bytes:
    from ypsil.core.export.page import page_to_png

    return as_webp(page_to_png(page, scale=delivery.pixels(page.width)))


def _scene(scene: Scene, language: str) -> bytes:
    return as_webp(scene_page(scene, language).compile("png"))


FORMAT = FileFormat("webp", "WebP, small, for the web", "image/webp", 27, _page, _scene, is_picture=True)
