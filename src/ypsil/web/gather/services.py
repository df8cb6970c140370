"""What the other stages may ask of Gather."""

from __future__ import annotations

import hashlib
from collections.abc import Collection, Sequence
from typing import Any

from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone
from django.utils.formats import date_format

from ypsil.core.report import ReportTable
from ypsil.core.tables.profile import Profile
from ypsil.web.accounts.services import User
from ypsil.web.gather.blobs import content, forget_orphans, frame_of
from ypsil.web.gather.models import Arrival, KeptPicture, Preparation, Table, Version
from ypsil.web.gather.pictures import (
    address_of,
    keep_picture,
    picture_response,
    pictures_named,
    pictures_of,
    size_asked,
)
from ypsil.web.gather.preparing import base, columns_of, prepared
from ypsil.web.gather.typed import FILE_NAME as TYPED_FILE

__all__ = [
    "TYPED_FILE",
    "Arrival",
    "KeptPicture",
    "Table",
    "Version",
    "address_of",
    "columns_of",
    "content",
    "current_preparation",
    "current_preparations",
    "forget_orphans",
    "frame_of",
    "keep_picture",
    "picture_response",
    "pictures_named",
    "pictures_of",
    "prepared",
    "profile_of",
    "remarks_of",
    "report_table",
    "size_asked",
    "states_of",
    "table_for",
    "table_states",
    "tables_of",
]  # fmt: skip


def tables_of(user: User) -> QuerySet[Table]:
    return Table.objects.filter(owner=user).select_related("current", "held")


def table_for(asker: User, uid: str) -> Table:
    """Return a table of the asker's; there is no other (404)."""
    return get_object_or_404(tables_of(asker), uid=uid)


def remarks_of(table: Table) -> list[dict[str, Any]]:
    """Return what was noticed when a table's current version was read."""
    return [] if table.current is None else list(base(table.current, table.read_recipe().reading).remarks)


def current_preparation(table: Table) -> Preparation | None:
    """Return the rows that reports show: the current version, prepared."""
    return prepared(table) if table.current is not None else None


def current_preparations(tables: Sequence[Table]) -> dict[str, Preparation]:
    """Return the rows that reports show of many tables, by their uid: those that are at hand with one query."""
    wanted = {table.uid: _digest_at_hand(table) for table in tables if table.current is not None}
    versions = [table.current.pk for table in tables if table.current is not None]
    kept = Preparation.objects.filter(version__in=versions, digest__in=filter(None, wanted.values()))
    light = kept.select_related("version").defer("values", "grains", "ends", "spreads", "remarks", "results")
    at_hand = {(one.version_id, one.digest): one for one in light}
    found = {}
    for table in tables:
        if table.current is not None:
            one = at_hand.get((table.current.pk, wanted[table.uid]))
            found[table.uid] = prepared(table) if one is None else one
    return found


def _digest_at_hand(table: Table) -> str:
    """Return the digest of a table's current preparation, where it follows from the recipe alone."""
    recipe = table.read_recipe()
    if not any(step.on for step in recipe.steps):
        return recipe.reading.digest()
    return "" if recipe.uses_today() or recipe.other_tables() else recipe.digest()


def table_states(tables: Sequence[Table]) -> dict[str, str]:
    """Return for each table, by its uid, a digest of all that decides what reports show of it."""
    recipes = {table.uid: table.read_recipe() for table in tables}
    own = {
        table.uid: "\n".join(
            [str(table.current_id), recipes[table.uid].digest(), *_told(table)]
            + ([timezone.localdate().isoformat()] if recipes[table.uid].uses_today() else [])
        )
        for table in tables
    }
    states = {}
    for table in tables:
        seen: dict[str, None] = {}
        waiting = [table.uid]
        while waiting:
            uid = waiting.pop()
            if uid in own and uid not in seen:
                seen[uid] = None
                waiting += recipes[uid].other_tables()
        states[table.uid] = hashlib.sha256("\n\n".join(own[uid] for uid in seen).encode()).hexdigest()
    return states


def states_of(user: User, uids: Collection[str]) -> dict[str, str]:
    """Return the states of some of somebody's tables, by their uids; of those alone that there are."""
    asked = list(tables_of(user).filter(uid__in=uids))
    if any(table.read_recipe().other_tables() for table in asked):
        asked = list(tables_of(user))
    return {uid: state for uid, state in table_states(asked).items() if uid in uids}


def _told(table: Table) -> list[str]:
    """Return what a table says of itself."""
    return [table.name, table.made_by, table.origin, table.dated, table.licence, table.note]


def profile_of(preparation: Preparation) -> Profile:
    values = {name: tuple(found) for name, found in preparation.values.items()}
    ends = {name: (low, high) for name, (low, high) in preparation.ends.items()}
    return Profile(columns_of(preparation), values, preparation.row_count, preparation.grains, ends=ends)


def report_table(table: Table, preparation: Preparation) -> ReportTable:
    """Return a prepared table as a report sees it."""
    digest = preparation.rows_blob_id
    return ReportTable(
        name=table.name,
        columns=columns_of(preparation),
        frame=lambda: frame_of(digest),
        digest=digest,
        source=source_line(table, preparation),
        read=timezone.localtime(preparation.version.created).date(),
    )


def source_line(table: Table, preparation: Preparation) -> str:
    """Return the line that a report's sources give a table: who made it, where it comes from, its licence."""
    version = preparation.version
    read = date_format(timezone.localtime(version.created), "j M Y")
    named = [table.made_by, table.origin, table.dated, table.licence and f"licence {table.licence}"]
    read_from = f"{version.file_name}, {preparation.row_count:,} rows, read {read}"
    line = f"{table.name} ({'; '.join([*filter(None, named), read_from])})"
    return f"{line}. {table.note}" if table.note else line
