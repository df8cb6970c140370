"""Say who can see a report."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish.models import Publication
from ypsil.web.publish.services import set_audience


def choose_audience(asker: User, uid: str, audience: str) -> Publication:
    """Say who can see a report; its link stays the same. Raises ValueError for an unknown audience."""
    return set_audience(report_for(asker, uid), audience)
