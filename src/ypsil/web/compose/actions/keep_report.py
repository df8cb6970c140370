"""Keep a whole report that was made elsewhere."""

from __future__ import annotations

from ypsil.core.report import ReportBody
from ypsil.web.accounts.services import User
from ypsil.web.compose import edits
from ypsil.web.compose.models import Report


def keep_report(asker: User, made: ReportBody) -> Report:
    """Keep bands with their tiles as a new report of the asker's."""
    return edits.keep_report(asker, made)
