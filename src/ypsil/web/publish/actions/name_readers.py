"""Name people as readers of a report."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import inviting
from ypsil.web.publish.models import Invited
from ypsil.web.publish.services import publication_of


def name_readers(asker: User, uid: str, typed: str, site: str) -> list[Invited]:
    """Name people by their addresses; those who are new are written to. Raises YpsilError for what is no address."""
    return inviting.name_readers(publication_of(report_for(asker, uid)), typed, site)
