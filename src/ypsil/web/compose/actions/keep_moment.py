"""Keep a report as it is now, under a name."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import moments
from ypsil.web.compose.models import Moment
from ypsil.web.compose.services import report_for


def keep_moment(asker: User, uid: str, name: str) -> Moment:
    """Keep the asker's report as it is, with a picture of it; raises EditRefused where no more are kept."""
    return moments.keep(report_for(asker, uid), asker, name)
