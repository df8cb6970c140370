"""Make a report's link lead nowhere for good."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import services
from ypsil.web.publish.models import Publication


def withdraw_link(asker: User, uid: str) -> Publication:
    """Close a report and give up its link; opening it again gives another one."""
    return services.withdraw_link(report_for(asker, uid))
