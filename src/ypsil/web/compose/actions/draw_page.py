"""Make a report with a first draft of a table."""

from __future__ import annotations

from ypsil.core.draft import draft
from ypsil.core.report import ReportBody
from ypsil.web.accounts.services import User
from ypsil.web.compose.actions.make_report import LONGEST_TITLE
from ypsil.web.compose.edits import keep_report
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import subject_of
from ypsil.web.gather.services import table_for


def draw_page(asker: User, table: str) -> Report:
    """Make a report that is called as a table of the asker's is, with a page of what it has to say."""
    found = table_for(asker, table)
    name = " ".join(found.name.split())[:LONGEST_TITLE]
    title = name[:1].upper() + name[1:]
    subject = subject_of(found)
    return keep_report(asker, draft([subject] if subject else [], ReportBody(title=title)).body)
