"""Take a house style away."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import dresses


def forget_dress(asker: User, style: str) -> str:
    """Take one of the asker's house styles away; the reports that wear it look as before. Return what it was called."""
    shared = dresses.dress_for(asker, style)
    called = str(shared)
    shared.delete()
    return called
