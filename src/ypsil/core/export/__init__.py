"""Files of a page or a drawing: one file a format, found by the registry."""

from ypsil.core.export.base import FileFormat
from ypsil.core.export.page import page_to_pdf, page_to_png, page_to_svg
from ypsil.core.export.registry import FORMATS, file_format, scene_to_file

__all__ = ["FORMATS", "FileFormat", "file_format", "page_to_pdf", "page_to_png", "page_to_svg", "scene_to_file"]
