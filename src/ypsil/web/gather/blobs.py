"""Bytes kept once under their digest, and forgotten when nothing needs them any more."""

from __future__ import annotations

import polars as pl
from django.conf import settings
from django.db import transaction

from ypsil.core.cache import Cache
from ypsil.core.tables import frame_from_blob
from ypsil.core.tables.store import digest
from ypsil.web.full_disk import check_room
from ypsil.web.gather.models import Arrival, Blob, KeptPicture, Preparation, Table, Version


def keep(data: bytes) -> Blob:
    """Keep bytes under their digest; the same bytes are kept once. Raises DiskFull where there is no room for them."""
    check_room(len(data))
    blob, _ = Blob.objects.get_or_create(digest=digest(data), defaults={"content": data})
    return blob


def content(blob_digest: str) -> bytes:
    return bytes(Blob.objects.get(pk=blob_digest).content)


def forget_unused(digests: set[str]) -> None:
    """Delete those of some bytes that no version, preparation, arrival or picture needs."""
    for one in digests:
        # Nobody takes it up between the look and the deletion.
        with transaction.atomic():
            used = (
                Version.objects.filter(original_id=one).exists()
                or Preparation.objects.filter(rows_blob_id=one).exists()
                or Arrival.objects.filter(original_id=one).exists()
                or KeptPicture.objects.filter(blob_id=one).exists()
            )
            if not used:
                Blob.objects.filter(pk=one).delete()


def forget_table(table: Table) -> None:
    """Delete a table with its versions, and the bytes that nothing else needs."""
    with transaction.atomic():
        versions = Version.objects.filter(table=table)
        digests = set(versions.values_list("original_id", flat=True))
        digests |= set(Preparation.objects.filter(version__in=versions).values_list("rows_blob_id", flat=True))
        arrivals = Arrival.objects.filter(table=table, original__isnull=False)
        digests |= {str(digest) for digest in arrivals.values_list("original_id", flat=True)}
        table.delete()
        forget_unused(digests)


def forget_version(version: Version) -> None:
    """Delete a version, and the bytes that nothing else needs."""
    with transaction.atomic():
        digests = {str(version.original_id), *version.preparations.values_list("rows_blob_id", flat=True)}
        version.delete()
        forget_unused(digests)


def forget_orphans() -> None:
    """Delete all bytes that nothing needs: those of accounts that are gone."""
    forget_unused({str(digest) for digest in Blob.objects.values_list("pk", flat=True)})


def forget_oldest(table: Table) -> None:
    """Delete the versions beyond the newest that are kept, but for the one that reports show and one that waits."""
    beyond = list(table.versions.order_by("-number")[settings.KEPT_VERSIONS :])
    for version in beyond:
        if version.pk not in (table.current_id, table.held_id):
            forget_version(version)


_frames: Cache[str, pl.DataFrame] = Cache(
    "rows of tables", settings.ROWS_BYTES, lambda frame: int(frame.estimated_size())
)


def frame_of(blob_digest: str) -> pl.DataFrame:
    """Return the rows kept under a digest; frames are shared and never changed."""
    return _frames.get_or_make(blob_digest, lambda: frame_from_blob(content(blob_digest)))


def remember_frame(blob_digest: str, frame: pl.DataFrame) -> pl.DataFrame:
    """Remember rows under their digest."""
    return _frames.put(blob_digest, frame)
