"""Make a report what it was at a moment."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import moments
from ypsil.web.compose.edits import Step
from ypsil.web.compose.services import report_for


def bring_back_moment(asker: User, uid: str, moment: str) -> Step:
    """Make the asker's report what it was at one of its moments; what it was until now can be had back by undoing."""
    report = report_for(asker, uid)
    return moments.bring_back(report.pk, asker, moments.moment_of(report, moment))
