"""What the other stages may ask of Gather."""

from __future__ import annotations

from django.db.models import QuerySet
from django.utils import timezone
from django.utils.formats import date_format

from ypsil.core.report import ReportTable
from ypsil.core.tables import Profile
from ypsil.web.accounts.models import User
from ypsil.web.gather.blobs import frame_of
from ypsil.web.gather.models import Preparation, Table
from ypsil.web.gather.preparing import columns_of, prepared

__all__ = [
    "columns_of", "current_preparation", "frame_of", "prepared", "profile_of", "report_table", "tables_of",
]  # fmt: skip


def tables_of(user: User) -> QuerySet[Table]:
    return Table.objects.filter(owner=user).select_related("current", "held")


def current_preparation(table: Table) -> Preparation | None:
    """Return the rows that reports show: the current version, prepared."""
    return prepared(table) if table.current is not None else None


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
    )


def source_line(table: Table, preparation: Preparation) -> str:
    """Return the line that a report's sources give a table: who made it, where it comes from, its licence."""
    version = preparation.version
    read = date_format(timezone.localtime(version.created), "j M Y")
    named = [table.made_by, table.origin, table.dated, table.licence and f"licence {table.licence}"]
    read_from = f"{version.file_name}, {preparation.row_count:,} rows, read {read}"
    line = f"{table.name} ({'; '.join([*filter(None, named), read_from])})"
    return f"{line}. {table.note}" if table.note else line
