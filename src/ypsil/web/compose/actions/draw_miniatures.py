"""Draw the small pictures of somebody's reports."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.miniatures import miniature_now
from ypsil.web.compose.services import reports_of
from ypsil.web.gather.services import table_states, tables_of


def draw_miniatures(asker: User) -> None:
    """Draw those that are not current, so that the asker's desk shows all of them at once."""
    states = table_states(list(tables_of(asker)))
    for report in reports_of(asker).select_related("miniature").prefetch_related("uses"):
        miniature_now(report, states)
