"""Put a house style on all reports."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import dresses
from ypsil.web.compose.services import reports_of


def wear_everywhere(asker: User, style: str) -> int:
    """Put one of the asker's house styles on all of their reports; return how many of them look otherwise now."""
    return dresses.wear_all(dresses.dress_for(asker, style), asker, reports_of(asker))
