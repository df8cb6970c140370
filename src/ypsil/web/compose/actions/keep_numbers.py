"""Keep numbers that were typed anew beside their tile."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import typed_tiles
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for


def keep_numbers(asker: User, uid: str, tile: str, text: str) -> Report:
    """Keep typed numbers as the next version of their table, the tile fitting to them; raises UnreadableFile."""
    report = report_for(asker, uid)
    found, table = typed_tiles.typed_tile(asker, report, tile)
    return typed_tiles.keep(asker, report, found, table, text)
