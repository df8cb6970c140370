"""Give a table another name."""

from __future__ import annotations

from ypsil.core.errors import EditRefused
from ypsil.web.accounts.services import User
from ypsil.web.gather.models import Table
from ypsil.web.gather.services import table_for, tables_of

_LONGEST_NAME = 200


def rename_table(asker: User, uid: str, name: str) -> Table:
    """Rename a table; raises EditRefused for no name, or one that another table of the asker's has."""
    table = table_for(asker, uid)
    name = " ".join(name.split())[:_LONGEST_NAME]
    if not name:
        raise EditRefused("a table needs a name", remedy="type one")
    if tables_of(asker).filter(name=name).exclude(pk=table.pk).exists():
        raise EditRefused(
            f"you already have a table called “{name}”; nothing was changed", remedy="choose another name"
        )
    table.name = name
    table.save(update_fields=["name"])
    return table
