"""Type numbers: they become a table of their own, and a tile of it is proposed."""

from __future__ import annotations

from django.http import Http404

from ypsil.core.report import VisualTile
from ypsil.web.accounts.services import User
from ypsil.web.compose import typed_tiles
from ypsil.web.compose.services import report_for


def type_numbers(asker: User, uid: str, band: str, text: str, visual: str = "") -> VisualTile:
    """Make a table of typed numbers; return the tile that suits them, or shows them as was chosen. Raises
    UnreadableFile for what is none."""
    report = report_for(asker, uid)
    if report.read().band(band) is None:
        raise Http404
    return typed_tiles.start(asker, report, text, visual)
