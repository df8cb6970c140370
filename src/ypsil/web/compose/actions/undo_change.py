"""Undo: take back the asker's latest change of a report that can be."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import Step, step_back
from ypsil.web.compose.services import report_for


def undo_change(asker: User, uid: str, times: int = 1) -> Step:
    """Take back the asker's latest change that is not undone; nothing happens where there is none."""
    return step_back(report_for(asker, uid).pk, asker, times)
