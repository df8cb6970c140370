"""Say which sites may show a report within their pages."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import services
from ypsil.web.publish.models import Publication


def set_sites(asker: User, uid: str, typed: str) -> Publication:
    """Say which sites may show a report within their pages; raises YpsilError for what is no site."""
    return services.set_sites(report_for(asker, uid), typed)
