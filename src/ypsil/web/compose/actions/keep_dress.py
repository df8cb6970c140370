"""Keep how a report looks as a house style."""

from __future__ import annotations

from ypsil.core.report.dress import dress_of
from ypsil.web.accounts.services import User
from ypsil.web.compose import dresses
from ypsil.web.compose.models import SharedStyle
from ypsil.web.compose.services import report_for


def keep_dress(asker: User, uid: str, name: str) -> SharedStyle:
    """Keep how the asker's report looks as a house style, which it wears from now on. Raises EditRefused without a
    name."""
    report = report_for(asker, uid)
    shared = dresses.keep(asker, dresses.named(name, lambda called: dress_of(report.read(), called)))
    dresses.follow(report, shared)
    return shared
