"""Files of a page or a drawing: one file a format, found by the registry."""

from typing import TYPE_CHECKING, Any

from ypsil.core.export.base import FileFormat
from ypsil.core.export.registry import FORMATS, file_format, scene_to_file

if TYPE_CHECKING:
    from ypsil.core.export.page import page_to_pdf, page_to_png, page_to_svg

__all__ = ["FORMATS", "FileFormat", "file_format", "page_to_pdf", "page_to_png", "page_to_svg", "scene_to_file"]


def __getattr__(name: str) -> Any:
    # A drawing alone needs nothing of what composes pages.
    if name not in __all__:
        raise AttributeError(name)
    from ypsil.core.export import page

    return getattr(page, name)
