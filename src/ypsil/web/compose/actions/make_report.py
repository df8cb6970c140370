"""Make a report."""

from __future__ import annotations

from ypsil.core.errors import EditRefused
from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import create_report
from ypsil.web.compose.models import Report

LONGEST_TITLE = 200


def make_report(asker: User, title: str) -> Report:
    """Make a report of the asker's with this title; raises EditRefused for none, or one that is too long."""
    title = " ".join(title.split())
    if not 0 < len(title) <= LONGEST_TITLE:
        raise EditRefused(f"a report needs a title of 1 to {LONGEST_TITLE} letters", remedy="change the title")
    return create_report(asker, title)
