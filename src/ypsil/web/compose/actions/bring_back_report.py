"""Bring a deleted report back to the desk, with its link as it was."""

from __future__ import annotations

from django.shortcuts import get_object_or_404

from ypsil.web.accounts.services import User
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import resting_of


def bring_back_report(asker: User, uid: str) -> Report:
    """Bring back a report that rests."""
    report = get_object_or_404(resting_of(asker), uid=uid)
    report.rests_since = None
    report.save(update_fields=["rests_since"])
    return report
