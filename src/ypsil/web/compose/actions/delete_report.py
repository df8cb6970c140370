"""Delete a report: it rests, and can be brought back."""

from __future__ import annotations

from django.utils import timezone

from ypsil.web.accounts.services import User
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for


def delete_report(asker: User, uid: str) -> Report:
    """Take a report off the desk and close its link; its tables stay. Return what it was."""
    report = report_for(asker, uid)
    report.rests_since = timezone.now()
    report.save(update_fields=["rests_since"])
    return report
