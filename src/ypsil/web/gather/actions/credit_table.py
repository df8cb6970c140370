"""Say who made a table, where it comes from, its date and licence."""

from __future__ import annotations

from collections.abc import Mapping

from ypsil.web.accounts.services import User
from ypsil.web.gather.models import Table
from ypsil.web.gather.services import table_for

CREDITS = (
    ("made_by", "Who made it"),
    ("origin", "Where it comes from"),
    ("dated", "Its date"),
    ("licence", "Licence"),
    ("note", "Note"),
)


def credit_table(asker: User, uid: str, given: Mapping[str, str]) -> Table:
    """Keep a table's credits, by the names of its fields; those that are not given become empty."""
    table = table_for(asker, uid)
    for name, _ in CREDITS:
        limit = getattr(Table._meta.get_field(name), "max_length", None)
        setattr(table, name, " ".join(given.get(name, "").split())[:limit])
    table.save(update_fields=[name for name, _ in CREDITS])
    return table
