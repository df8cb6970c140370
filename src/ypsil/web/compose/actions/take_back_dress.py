"""Take back what putting a house style on reports changed."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import dresses


def take_back_dress(asker: User, style: str) -> tuple[int, int]:
    """Let the reports that one of the asker's house styles was put on look as before; return how many do, and how many
    were changed since and stay as they are."""
    return dresses.take_back(dresses.dress_for(asker, style), asker)
