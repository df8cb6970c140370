"""Let somebody who was named read no longer."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish.services import publication_of


def forget_reader(asker: User, uid: str, address: str) -> None:
    """Let somebody who was named read no longer, also by the link that they were sent."""
    publication_of(report_for(asker, uid)).invited.filter(address=address).delete()
