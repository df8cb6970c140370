"""Let a house style be as a report looks."""

from __future__ import annotations

from ypsil.core.report.dress import dress_of
from ypsil.web.accounts.services import User
from ypsil.web.compose import dresses
from ypsil.web.compose.services import report_for, reports_of


def change_dress(asker: User, uid: str, style: str) -> int:
    """Let one of the asker's house styles be as a report of theirs looks, and put it on all that wear it; return how
    many of them look otherwise now."""
    report, shared = report_for(asker, uid), dresses.dress_for(asker, style)
    shared.content = dress_of(report.read(), str(shared)).model_dump(mode="json")
    shared.save(update_fields=["content"])
    dresses.follow(report, shared)
    return dresses.wear_all(shared, asker, reports_of(asker).filter(wears=shared))
