"""Let a state that was kept go."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import services


def forget_state(asker: User, uid: str, number: int) -> None:
    """Let a state that was kept go."""
    services.forget_state(report_for(asker, uid), number)
