"""Make a copy of a report, without its history and its link."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import log
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for

_MOST_LETTERS = 200


def copy_report(asker: User, uid: str) -> Report:
    """Return a new report with the same document, called a copy."""
    report = report_for(asker, uid)
    document = report.read_document()
    title = f"Copy of {document.title}"[:_MOST_LETTERS]
    copy = log.create(report.owner, document.model_copy(update={"title": title}))
    copy.tags, copy.wears = report.tags, report.wears
    copy.save(update_fields=["tags", "wears"])
    return copy
