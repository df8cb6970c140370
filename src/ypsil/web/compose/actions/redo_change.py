"""Redo: make the change again that the asker took back last."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import Step, step_forward
from ypsil.web.compose.services import report_for


def redo_change(asker: User, uid: str, times: int = 1) -> Step:
    """Make the change again that the asker took back last; nothing happens where there is none."""
    return step_forward(report_for(asker, uid).pk, asker, times)
