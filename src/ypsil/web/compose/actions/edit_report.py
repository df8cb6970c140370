"""Edit a report: one edit of what its author saw at some revision."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import apply_edit
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for


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
    return apply_edit(report.pk, asker, wanted.edit, wanted.base, client=wanted.client, spell=wanted.spell)
