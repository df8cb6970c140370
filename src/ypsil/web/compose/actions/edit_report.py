"""Edit a report: one edit of what its author saw at some revision."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ypsil.core.errors import EditRefused
from ypsil.core.report import parse_edit
from ypsil.core.tiles import AnyTile, as_visual
from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import apply_edit
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import broken_by, report_for


@dataclass(frozen=True, slots=True)
class EditRequest:
    """An edit as it was sent: ``base`` is the revision that its author saw, ``client`` its id for good, ``spell`` the
    stretch of typing that it belongs to."""

    edit: Any
    base: int
    client: str = ""
    spell: str = ""


def edit_report(asker: User, uid: str, wanted: EditRequest) -> Report:
    """Make an edit, once however often it is sent; raises StaleEdit, or EditRefused where it does not fit."""
    report = report_for(asker, uid)
    _try_out(report, wanted)
    return apply_edit(report.pk, asker, wanted.edit, wanted.base, client=wanted.client, spell=wanted.spell)


def _try_out(report: Report, wanted: EditRequest) -> None:
    """Draw what an edit makes before it is stored: a tile that goes wrong is none that anybody wants to keep."""
    if wanted.base != report.revision or (wanted.client and report.log.filter(client=wanted.client).exists()):
        return
    before = report.read()
    after = parse_edit(wanted.edit).apply(before)
    known = {tile.id: _drawn_from(tile) for tile in before.tiles()}
    changed = [tile for tile in after.tiles() if tile.asks() is not None and known.get(tile.id) != _drawn_from(tile)]
    if broken_by(report, after, changed):
        raise EditRefused("that cannot be drawn here, so nothing was changed", remedy="ask it differently")


def _drawn_from(tile: AnyTile) -> object:
    """Return what of a tile can go wrong when it is drawn: all but its words."""
    shown = as_visual(tile)
    return None if shown is None else (shown.table, shown.question, shown.visual, shown.options)
