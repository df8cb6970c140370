"""Say whether each change of a report reaches readers at once."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import services
from ypsil.web.publish.models import Publication


def show_at_once(asker: User, uid: str, *, wanted: bool) -> Publication:
    """Let each change reach readers at once, or only when the author says so."""
    return services.show_at_once(report_for(asker, uid), wanted)
