"""Delete a report for good."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for


def delete_report(asker: User, uid: str) -> Report:
    """Delete a report with its changes and its published page; its tables stay. Return what it was."""
    report = report_for(asker, uid)
    report.delete()
    return report
