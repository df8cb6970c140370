"""Give a report another link."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import services
from ypsil.web.publish.models import Publication


def renew_link(asker: User, uid: str, site: str) -> Publication:
    """Give a report another link; the present one leads nowhere from now on."""
    return services.renew_link(report_for(asker, uid), site)
