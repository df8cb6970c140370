"""Begin a report with a table: a page with its name, on which something of it can be shown right away."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.actions.make_report import LONGEST_TITLE, make_report
from ypsil.web.compose.models import Report
from ypsil.web.gather.services import table_for


def show_table(asker: User, table: str) -> Report:
    """Make a report that is called as a table of the asker's is."""
    return make_report(asker, table_for(asker, table).name[:LONGEST_TITLE])
