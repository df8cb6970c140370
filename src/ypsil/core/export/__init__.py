"""Files of a page or a scene: SVG, PNG and tagged PDF."""

from ypsil.core.export.page import page_to_pdf, page_to_png, page_to_svg
from ypsil.core.export.scenes import FORMATS, scene_to_file

__all__ = ["FORMATS", "page_to_pdf", "page_to_png", "page_to_svg", "scene_to_file"]
