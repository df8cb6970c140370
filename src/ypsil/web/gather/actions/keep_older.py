"""Let reports stay with the version they show, though a newer one waits."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.gather.models import Table
from ypsil.web.gather.services import table_for


def keep_older(asker: User, uid: str) -> Table:
    """Hold no version of a table any longer; the one that waited is kept, and not shown."""
    table = table_for(asker, uid)
    table.held = None
    table.save(update_fields=["held"])
    return table
