"""The file formats: every module in ``formats`` that has a FORMAT."""

from __future__ import annotations

from ypsil.core.drawing.scene import Scene
from ypsil.core.errors import YpsilError
from ypsil.core.export import formats
from ypsil.core.export.base import FileFormat
from ypsil.core.registry import Shelf

# By ending, in the order in which they are offered.
FORMATS: Shelf[FileFormat] = Shelf(
    formats.__name__, str(formats.__file__), "FORMAT", FileFormat, order=lambda one: one.place
)


def file_format(ending: str) -> FileFormat:
    """Return a format by its ending; raises YpsilError for one that is not there."""
    if ending not in FORMATS:
        raise YpsilError(
            f"files of the type “{ending or 'none'}” are not there yet",
            remedy="choose an ending among ." + ", .".join(FORMATS),
        )
    return FORMATS[ending]


def scene_to_file(scene: Scene, ending: str, *, language: str = "en") -> bytes:
    """Return a drawing as the bytes of a file; raises YpsilError for an ending that no format has, or that is for whole
    reports."""
    made = file_format(ending).scene
    if made is None:
        able = ", .".join(name for name, one in FORMATS.items() if one.scene is not None)
        raise YpsilError(f"a drawing alone is no .{ending} file", remedy=f"choose an ending among .{able}")
    return made(scene, language)
