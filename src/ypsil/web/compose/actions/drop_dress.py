"""Let a report no longer follow a house style."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import dresses
from ypsil.web.compose.services import report_for


def drop_dress(asker: User, uid: str) -> None:
    """Let the asker's report no longer follow a house style; it looks as before."""
    dresses.follow(report_for(asker, uid), None)
