"""Delete a table for good."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.gather.blobs import forget_table
from ypsil.web.gather.models import Table
from ypsil.web.gather.services import table_for


def delete_table(asker: User, uid: str) -> Table:
    """Delete a table with all its versions; return what it was."""
    table = table_for(asker, uid)
    forget_table(table)
    return table
