"""Forget a moment of a report."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import moments
from ypsil.web.compose.services import report_for


def forget_moment(asker: User, uid: str, moment: str) -> None:
    """Forget a moment; the report stays as it is."""
    moments.moment_of(report_for(asker, uid), moment).delete()
