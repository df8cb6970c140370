"""PDF/UA-1: tagged, vector, with real text."""

from __future__ import annotations

from ypsil.core.drawing.scene import Scene
from ypsil.core.export.base import FileFormat
from ypsil.core.export.page import page_to_pdf
from ypsil.core.export.typesetting import scene_page


def _scene(scene: Scene, language: str) -> bytes:
    return scene_page(scene, language).compile("pdf")


FORMAT = FileFormat("pdf", "PDF, tagged", "application/pdf", 10, page_to_pdf, _scene)
