"""What the other stages may ask of Gather."""

from __future__ import annotations

from functools import lru_cache

import polars as pl
from django.db.models import QuerySet
from django.utils import timezone
from django.utils.formats import date_format

from ypsil.core.report import ReportTable
from ypsil.core.tables import Column, Profile, frame_from_blob
from ypsil.web.accounts.models import User
from ypsil.web.gather.models import Blob, Table, Version

# The bytes of versions are fetched on their own, never with lists of them.
_LIGHT = ("original", "rows_blob")


def tables_of(user: User) -> QuerySet[Table]:
    return Table.objects.filter(owner=user)


def versions_of(table: Table) -> list[Version]:
    """Return a table's versions, the newest first, without their bytes."""
    return list(table.versions.all())


def latest_version(table: Table) -> Version | None:
    return table.versions.first()


def columns_of(version: Version) -> tuple[Column, ...]:
    return tuple(Column(**data) for data in version.columns)


def profile_of(version: Version) -> Profile:
    values = {name: tuple(found) for name, found in version.values.items()}
    return Profile(columns_of(version), values, version.row_count, version.grains)


@lru_cache(maxsize=16)
def frame_of(digest: str) -> pl.DataFrame:
    """Return the rows kept under a digest; frames are shared and never changed."""
    return frame_from_blob(bytes(Blob.objects.get(pk=digest).content))


def report_table(version: Version) -> ReportTable:
    """Return a version as a report sees it."""
    digest = version.rows_blob_id
    read = date_format(timezone.localtime(version.created), "j M Y")
    return ReportTable(
        name=version.table.name,
        columns=columns_of(version),
        frame=lambda: frame_of(digest),
        digest=digest,
        source=f"{version.table.name} ({version.file_name}, {version.row_count:,} rows, read {read})",
    )
