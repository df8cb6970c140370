"""SVG: one drawing, or the whole page, with the letters that it needs."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.drawing.scene import Scene
from ypsil.core.drawing.svg import scene_to_svg
from ypsil.core.export.base import Delivery, FileFormat
from ypsil.core.export.fonts import font_styles

if TYPE_CHECKING:
    from ypsil.core.render import Page


def _page(page: Page, delivery: Delivery) -> bytes:
    from ypsil.core.export.page import page_to_svg

    return page_to_svg(page, is_outlined=delivery.is_outlined).encode()


def _scene(scene: Scene, language: str) -> bytes:
    styles = f"<style>{font_styles([scene])}</style>"
    return scene_to_svg(scene, language=language).replace("</desc>", f"</desc>{styles}", 1).encode()


FORMAT = FileFormat("svg", "SVG, vector", "image/svg+xml", 30, _page, _scene)
