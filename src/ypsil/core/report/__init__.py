"""Reports: the document, its bands and grid, the edits that change it, and composing it to a page."""

from ypsil.core.report.compose import Page, ReportTable, TileView, compose
from ypsil.core.report.document import Band, Report
from ypsil.core.report.edits import Edit, parse_edit
from ypsil.core.tiles import Place, SourcesTile, TextTile, Tile, VisualTile

__all__ = [
    "Band",
    "Edit",
    "Page",
    "Place",
    "Report",
    "ReportTable",
    "SourcesTile",
    "TextTile",
    "Tile",
    "TileView",
    "VisualTile",
    "compose",
    "parse_edit",
]
