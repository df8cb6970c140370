"""Give a report another name."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import apply_edit
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for


def rename_report(asker: User, uid: str, title: str) -> Report:
    """Rename a report; raises EditRefused where it would have no name, or too long a one."""
    report = report_for(asker, uid)
    return apply_edit(report.pk, asker, {"type": "rename", "title": title.strip()}, report.revision)
