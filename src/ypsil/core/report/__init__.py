"""Reports: a document as bands with their tiles, the edits that change it, and what a table suggests for it."""

from ypsil.core.document.model import Frame
from ypsil.core.report.document import Band, ReportBody
from ypsil.core.report.edits import Edit, parse_edit
from ypsil.core.tiles import (
    Group,
    PictureTile,
    ReportTable,
    ShapeTile,
    SourcesTile,
    TextTile,
    Tile,
    TypedTile,
    VisualTile,
)

__all__ = [
    "Band",
    "Edit",
    "Frame",
    "Group",
    "PictureTile",
    "ReportBody",
    "ReportTable",
    "ShapeTile",
    "SourcesTile",
    "TextTile",
    "Tile",
    "TypedTile",
    "VisualTile",
    "parse_edit",
]
