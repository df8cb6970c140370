"""Say who can see a report, and how."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import services
from ypsil.web.publish.models import Publication
from ypsil.web.publish.services import Access


def set_access(asker: User, uid: str, access: Access, site: str) -> Publication:
    """Say who can see a report; its link stays the same. Raises ValueError for an unknown audience, YpsilError for what
    cannot be a password or an end."""
    return services.set_access(report_for(asker, uid), access, site)
