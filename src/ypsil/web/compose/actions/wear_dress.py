"""Put a house style on a report."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import dresses
from ypsil.web.compose.services import report_for


def wear_dress(asker: User, uid: str, style: str) -> None:
    """Put one of the asker's house styles on a report of theirs; one undo takes it off."""
    dresses.wear(report_for(asker, uid), dresses.dress_for(asker, style), asker)
