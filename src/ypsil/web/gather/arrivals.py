"""From an uploaded file to a version: all of it or nothing."""

from __future__ import annotations

import time
from dataclasses import asdict
from pathlib import PurePath

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import Max
from django_tasks import task

from ypsil.core.errors import UnreadableFile, YpsilError
from ypsil.core.tables import Table as CoreTable
from ypsil.core.tables import frame_to_blob, profile, read_table
from ypsil.core.tables.limits import MAX_UPLOAD_BYTES
from ypsil.core.tables.read import DELIMITED_ENDINGS, table_name
from ypsil.core.tables.store import digest
from ypsil.web.accounts.models import User
from ypsil.web.gather.models import Arrival, Blob, Table, Version
from ypsil.web.middleware import sentence_of

# A file of up to this size is read within the request: that takes well under a second.
READ_AT_ONCE_BYTES = 1_000_000
_PROGRESS_EVERY_S = 0.3


class Cancelled(YpsilError):
    """The person no longer wants the file."""


def receive(
    user: User, upload: UploadedFile | None, *, table: Table | None, name: str = "", sheet: str = ""
) -> Arrival:
    """Take in a file for a new table, or as the next version of one.

    A small file is a version when this returns; a larger one is read in the background. Raises
    UnreadableFile, with nothing stored, for a file that is missing, too large, of another type, or
    whose table's name is taken.
    """
    if upload is None or not upload.name:
        raise UnreadableFile("no file was chosen", remedy="choose a CSV or XLSX file")
    file_name = PurePath(upload.name).name[-255:]
    if (upload.size or 0) > MAX_UPLOAD_BYTES:
        raise UnreadableFile(
            f"the file has {(upload.size or 0) // 1024**2:,} MB; at most {MAX_UPLOAD_BYTES // 1024**2} MB are taken in",
            where=file_name,
            remedy="split it or leave out what you do not need",
        )
    if not file_name.lower().endswith((*DELIMITED_ENDINGS, ".xlsx", ".xlsm")):
        raise UnreadableFile(
            "only CSV and XLSX files are read so far", where=file_name, remedy="save the table as one of these"
        )
    name = " ".join((table.name if table else name or table_name(file_name)).split())[:200]
    if table is None and Table.objects.filter(owner=user, name=name).exists():
        raise _name_taken(name)
    data = upload.read()
    if len(data) <= READ_AT_ONCE_BYTES:
        core_table = read_table(data, file_name, sheet=sheet or None)
        version = store_version(user, core_table, data, file_name=file_name, table=table, name=name, sheet=sheet)
        return Arrival.objects.create(
            owner=user, table=version.table, name=name, file_name=file_name, state=Arrival.State.DONE, version=version
        )
    with transaction.atomic():
        arrival = Arrival.objects.create(
            owner=user, table=table, name=name, file_name=file_name, sheet=sheet, original=keep(data)
        )
        transaction.on_commit(lambda: read_arrival.enqueue(arrival.pk))
    return arrival


def _name_taken(name: str) -> UnreadableFile:
    return UnreadableFile(
        f"you already have a table called “{name}”",
        remedy="give this one another name, or open that table and add the file there as a newer version",
    )


def keep(data: bytes) -> Blob:
    """Keep bytes under their digest; the same bytes are kept once."""
    blob, _ = Blob.objects.get_or_create(digest=digest(data), defaults={"content": data})
    return blob


def store_version(
    user: User, read: CoreTable, data: bytes, *, file_name: str, table: Table | None, name: str, sheet: str
) -> Version:
    """Store a read table and its original file as the next version, in one transaction."""
    rows = frame_to_blob(read.frame)
    found = profile(read.frame, read.columns)
    with transaction.atomic():
        if table is None:
            table, made = Table.objects.get_or_create(owner=user, name=name)
            if not made:
                raise _name_taken(name)
        last = table.versions.aggregate(last=Max("number"))["last"] or 0
        return Version.objects.create(
            table=table,
            number=last + 1,
            file_name=file_name,
            sheet=sheet,
            original=keep(data),
            rows_blob=keep(rows),
            row_count=read.rows,
            columns=[asdict(column) for column in read.columns],
            values=found.values,
            grains=found.grains,
            remarks=[remark.as_json() for remark in read.remarks],
        )


@task()
def read_arrival(arrival_id: int) -> None:
    """Read a waiting file in the background; it ends as a version, or with a message and nothing stored."""
    waiting = Arrival.objects.filter(pk=arrival_id, state=Arrival.State.WAITING, original__isnull=False)
    # One worker takes it, however often it was put in the queue.
    if not waiting.update(state=Arrival.State.READING, part_done=0.05):
        return
    arrival = Arrival.objects.select_related("table", "owner").get(pk=arrival_id)
    data = bytes(Blob.objects.get(pk=arrival.original_id).content)
    try:
        core_table = read_table(data, arrival.file_name, sheet=arrival.sheet or None, progress=_reporter(arrival))
        with transaction.atomic():
            if Arrival.objects.get(pk=arrival.pk).state == Arrival.State.CANCELLED:
                raise Cancelled("cancelled")
            version = store_version(
                arrival.owner,
                core_table,
                data,
                file_name=arrival.file_name,
                table=arrival.table,
                name=arrival.name,
                sheet=arrival.sheet,
            )
            _finish(arrival, Arrival.State.DONE, table=version.table, version=version, part_done=1)
    except Cancelled:
        _finish(arrival, Arrival.State.CANCELLED)
    except YpsilError as problem:
        _finish(arrival, Arrival.State.FAILED, message=sentence_of(problem))
    except Exception:
        _finish(arrival, Arrival.State.FAILED, message="The file could not be read. Nothing was stored.")
        raise


def resume() -> None:
    """Take up again what was being read when the application was last ended, however that came about."""
    unfinished = Arrival.objects.filter(state__in=[Arrival.State.WAITING, Arrival.State.READING])
    for pk in list(unfinished.values_list("pk", flat=True)):
        Arrival.objects.filter(pk=pk).update(state=Arrival.State.WAITING)
        read_arrival.enqueue(pk)


def _reporter(arrival: Arrival):  # type: ignore[no-untyped-def]
    """Return a function that notes the part done, and stops the reading once it is cancelled."""
    noted = 0.0

    def report(part: float) -> None:
        nonlocal noted
        if time.monotonic() - noted < _PROGRESS_EVERY_S:
            return
        noted = time.monotonic()
        running = Arrival.objects.filter(pk=arrival.pk, state=Arrival.State.READING)
        if not running.update(part_done=part):
            raise Cancelled("cancelled")

    return report


def _finish(arrival: Arrival, state: str, **fields: object) -> None:
    """End an arrival; its copy of the file goes unless a version keeps it."""
    with transaction.atomic():
        digest_kept = arrival.original_id
        Arrival.objects.filter(pk=arrival.pk).update(state=state, original=None, **fields)
        still_used = (
            Version.objects.filter(original_id=digest_kept).exists()
            or Version.objects.filter(rows_blob_id=digest_kept).exists()
            or Arrival.objects.filter(original_id=digest_kept).exists()
        )
        if digest_kept and not still_used:
            Blob.objects.filter(pk=digest_kept).delete()


def cancel(arrival: Arrival) -> None:
    """Stop an arrival that has not ended; nothing of it is stored."""
    waiting = Arrival.objects.filter(pk=arrival.pk, state__in=[Arrival.State.WAITING, Arrival.State.READING])
    if waiting.update(state=Arrival.State.CANCELLED) and arrival.state == Arrival.State.WAITING:
        _finish(arrival, Arrival.State.CANCELLED)
