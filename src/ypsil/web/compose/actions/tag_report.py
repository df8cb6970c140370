"""Say under which words a report is found."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for

MOST_TAGS, MOST_LETTERS = 12, 40


def tag_report(asker: User, uid: str, said: str) -> Report:
    """Give a report the tags that are said, with commas between them, in place of those it has."""
    report = report_for(asker, uid)
    tags = (" ".join(one.split())[:MOST_LETTERS] for one in said.split(","))
    report.tags = list(dict.fromkeys(filter(None, tags)))[:MOST_TAGS]
    report.save(update_fields=["tags"])
    return report
