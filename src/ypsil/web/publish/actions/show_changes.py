"""Let readers see a report as it is now."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import services
from ypsil.web.publish.models import Release


def show_changes(asker: User, uid: str) -> Release:
    """Make a release of a report as it is."""
    return services.show_changes(report_for(asker, uid))
