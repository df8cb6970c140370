"""Dress a report in the style that design tokens say."""

from __future__ import annotations

from ypsil.core.report import ReportBody
from ypsil.core.style.tokens import style_from
from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import take_body
from ypsil.web.compose.services import report_for


def take_tokens(asker: User, uid: str, data: bytes) -> tuple[str, ...]:
    """Dress the asker's report in the style of a file; return what was passed over, in words. Raises YpsilError for a
    file that holds no tokens."""
    report = report_for(asker, uid)
    found = style_from(data, report.read().style)

    def dressed(body: ReportBody) -> ReportBody:
        corner = body.cards.corner if found.corner is None else found.corner
        cards = body.cards.model_copy(update={"corner": corner})
        return body.model_copy(update={"style": found.style, "cards": cards})

    take_body(report.pk, asker, dressed, "restyle")
    return found.notes
