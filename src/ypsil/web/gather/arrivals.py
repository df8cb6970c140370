"""From uploaded files or pasted text to a version: all of it or nothing."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import PurePath
from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import F, Max
from django_tasks import task

from ypsil.core.apart import TooLong
from ypsil.core.errors import UnreadableFile, YpsilError
from ypsil.core.tables.bundle import MAX_FILES, bundle
from ypsil.core.tables.limits import MAX_UPLOAD_BYTES
from ypsil.core.tables.read import ENDINGS, NAMED, WORKBOOK_ENDINGS, table_name
from ypsil.core.tables.recipe import Recipe, parse_recipe
from ypsil.core.tables.write import write_table
from ypsil.web.accounts.services import User
from ypsil.web.full_disk import SAID, give_back, is_disk_full
from ypsil.web.gather import holding
from ypsil.web.gather.blobs import content, forget_oldest, forget_unused, keep
from ypsil.web.gather.models import Arrival, RecipeEdit, Table, Version
from ypsil.web.gather.preparing import Arrived, keep_arrived, prepared, rows_of, work_out
from ypsil.web.gather.read_apart import read_apart
from ypsil.web.gather.recipe_log import refuse_new_problems, save_recipe
from ypsil.web.middleware import sentence_of

# A file of up to this size is read within the request: that takes well under a second.
READ_AT_ONCE_BYTES = 1_000_000
_PROGRESS_EVERY_S = 0.3
_WIDE_COLUMNS = 200
MOST_BEGUN = 2
_NOT_DONE = "That could not be done. Nothing was changed."
_ASIDE = "Nothing was changed. Give less at once: split the file, or leave out columns."


class Cancelled(YpsilError):
    """The person no longer wants the file."""


class TakenUp(YpsilError):
    """Another worker has taken the work up in the meantime, and goes on with it."""


def one_file(uploads: Sequence[UploadedFile[Any]]) -> tuple[str, bytes]:
    """Return what was uploaded as one file: itself, or several of one shape as a bundle.

    Raises UnreadableFile for a file that is missing, too large or of another type.
    """
    if not uploads or not uploads[0].name:
        raise UnreadableFile("no file was chosen", remedy=f"choose one: {NAMED}")
    if len(uploads) > MAX_FILES:
        what = f"{len(uploads):,} files were chosen; at most {MAX_FILES} are taken in at once"
        raise UnreadableFile(what, remedy="take them in in parts")
    size = sum(upload.size or 0 for upload in uploads)
    names = [PurePath(upload.name or "").name[-255:] for upload in uploads]
    if size > MAX_UPLOAD_BYTES:
        raise UnreadableFile(
            f"{'the file has' if len(uploads) == 1 else 'together the files have'} {size // 1024**2:,} MB; at most "
            f"{MAX_UPLOAD_BYTES // 1024**2} MB are taken in",
            where=names[0],
            remedy="split it or leave out what you do not need",
        )
    for name in names:
        if not name.lower().endswith(ENDINGS):
            raise UnreadableFile("files of this kind are not read", where=name, remedy=f"give {NAMED}")
    if len(uploads) == 1:
        return names[0], uploads[0].read()
    made = bundle([(name, upload.read()) for name, upload in zip(names, uploads, strict=True)])
    return f"{table_name(names[0])} and {len(names) - 1} more.zip"[-255:], made


def receive(
    user: User,
    file_name: str,
    data: bytes,
    *,
    table: Table | None,
    name: str = "",
    sheet: str = "",
    reading: dict[str, Any] | None = None,
) -> Arrival:
    """Take in a file for a new table, or as the next version of one; ``reading`` is how a new one is read.

    A small file is a version when this returns; a larger one is read in the background. Raises
    UnreadableFile, with nothing stored, for a file that cannot be read or whose table's name is taken.
    """
    recipe = table.read_recipe() if table else parse_recipe({"reading": reading or {}})
    name = " ".join((table.name if table else name or table_name(file_name)).split())[:200]
    if table is None and Table.objects.filter(owner=user, name=name).exists():
        raise _name_taken(name)
    if not sheet and table is not None and table.current is not None and file_name.lower().endswith(WORKBOOK_ENDINGS):
        # The sheet that was chosen before is meant again; a workbook without it is refused with those it has.
        sheet = table.current.sheet
    arrival = Arrival(owner=user, table=table, name=name, file_name=file_name, sheet=sheet)
    arrival.recipe = None if table else recipe.model_dump(mode="json")
    if len(data) <= READ_AT_ONCE_BYTES and not _is_wide(data):
        # What takes longer than somebody should wait for is read in the background as well.
        with suppress(TooLong):
            read, way = read_apart(data, file_name, sheet=sheet or None, reading=recipe.reading, at_once=True)
            arrived = work_out(read, way, recipe, table)
            with transaction.atomic():
                version = store_version(arrival, arrived, data, recipe)
                arrival.table, arrival.version, arrival.state = version.table, version, Arrival.State.DONE
                arrival.save()
            return arrival
    with transaction.atomic():
        arrival.original = keep(data)
        arrival.save()
        transaction.on_commit(lambda: work_on.enqueue(arrival.pk))
    return arrival


def _is_wide(data: bytes) -> bool:
    """Tell whether a text file seems to have so many columns that reading them takes more than a moment."""
    start = data[:65_536].split(b"\n", 1)[0]
    return max(start.count(separator) for separator in (b",", b";", b"\t", b"|")) > _WIDE_COLUMNS


def _name_taken(name: str) -> UnreadableFile:
    return UnreadableFile(
        f"you already have a table called “{name}”",
        remedy="give this one another name, or open that table and add the file there as a newer version",
    )


def store_version(arrival: Arrival, arrived: Arrived, data: bytes, recipe: Recipe) -> Version:
    """Store a read table and its original file as the next version, prepared, in one transaction; what takes long has
    been worked out before.

    It becomes the current one, unless it lacks what reports or steps need: then the table is held.
    """
    with transaction.atomic():
        table = arrival.table
        if table is None:
            data_of_recipe = recipe.model_dump(mode="json")
            table, made = Table.objects.get_or_create(
                owner=arrival.owner, name=arrival.name, defaults={"recipe": data_of_recipe}
            )
            if not made:
                raise _name_taken(arrival.name)
            RecipeEdit.objects.create(table=table, number=0, recipe=data_of_recipe, author=arrival.owner)
        last = table.versions.aggregate(last=Max("number"))["last"] or 0
        version = Version.objects.create(
            table=table, number=last + 1, file_name=arrival.file_name, sheet=arrival.sheet, original=keep(data)
        )
        keep_arrived(version, recipe, arrived)
        prepared(table, version, recipe)
        holding.show_or_hold(table, version)
        table.refresh_from_db()
        forget_oldest(table)
        return version


def apply_in_background(table: Table, user: User, recipe: Recipe, said: str) -> Arrival:
    """Apply a changed recipe to a large table in the background; the change counts once it is done."""
    with transaction.atomic():
        arrival = Arrival.objects.create(
            owner=user,
            table=table,
            name=table.name,
            file_name=table.name,
            recipe=recipe.model_dump(mode="json"),
            said=said,
        )
        transaction.on_commit(lambda: work_on.enqueue(arrival.pk))
    return arrival


def write_in_background(table: Table, user: User, version: Version, ending: str) -> Arrival:
    """Make a large file of a version's prepared rows in the background; files made before are forgotten."""
    for older in Arrival.objects.filter(owner=user, state=Arrival.State.DONE).exclude(makes=""):
        _finish(older, Arrival.State.DONE)
        older.delete()
    with transaction.atomic():
        arrival = Arrival.objects.create(
            owner=user, table=table, version=version, name=table.name, file_name=f"{table.name}.{ending}", makes=ending
        )
        transaction.on_commit(lambda: work_on.enqueue(arrival.pk))
    return arrival


@task()
def work_on(arrival_id: int) -> None:
    """Do an arrival's work in the background; it ends done, or with a message and nothing changed."""
    waiting = Arrival.objects.filter(pk=arrival_id, state=Arrival.State.WAITING)
    # One worker takes it, however often it was put in the queue.
    if not waiting.update(state=Arrival.State.READING, part_done=0.05, begun=F("begun") + 1):
        return
    arrival = Arrival.objects.select_related("table", "version", "owner").get(pk=arrival_id)
    try:
        work = _write_file if arrival.makes else _read_file if arrival.original_id else _apply_recipe
        work(arrival, _reporter(arrival))
    except TakenUp:
        return
    except Cancelled:
        _finish(arrival, Arrival.State.CANCELLED)
    except YpsilError as problem:
        _finish(arrival, Arrival.State.FAILED, message=sentence_of(problem))
    except Exception as problem:
        is_full = is_disk_full(problem)
        if is_full:
            give_back()
        _finish(arrival, Arrival.State.FAILED, message=SAID if is_full else _NOT_DONE)
        raise


def _read_file(arrival: Arrival, report: Callable[[float], None]) -> None:
    data = content(str(arrival.original_id))
    recipe = arrival.table.read_recipe() if arrival.table else parse_recipe(arrival.recipe or {})
    sheet = arrival.sheet or None
    read, way = read_apart(data, arrival.file_name, sheet=sheet, reading=recipe.reading, progress=report)
    arrived = work_out(read, way, recipe, arrival.table)
    with transaction.atomic():
        _stop_if_cancelled(arrival)
        version = store_version(arrival, arrived, data, recipe)
        _finish(arrival, Arrival.State.DONE, table=version.table, version=version, part_done=1)


def _apply_recipe(arrival: Arrival, report: Callable[[float], None]) -> None:
    table = arrival.table
    assert table is not None
    assert table.current is not None
    recipe = parse_recipe(arrival.recipe)
    refuse_new_problems(table, recipe, prepared(table, recipe=recipe, progress=report))
    with transaction.atomic():
        _stop_if_cancelled(arrival)
        save_recipe(table, arrival.owner, recipe, arrival.said)
        _finish(arrival, Arrival.State.DONE, version=table.current, part_done=1)


def _write_file(arrival: Arrival, report: Callable[[float], None]) -> None:
    assert arrival.table is not None
    rows = rows_of(prepared(arrival.table, arrival.version))
    made = write_table(rows, arrival.makes, sheet=arrival.name, progress=report)
    with transaction.atomic():
        _stop_if_cancelled(arrival)
        Arrival.objects.filter(pk=arrival.pk).update(state=Arrival.State.DONE, original=keep(made), part_done=1)


def _stop_if_cancelled(arrival: Arrival) -> None:
    """Raise Cancelled, or TakenUp, where this worker has the work no longer in hand."""
    found = Arrival.objects.filter(pk=arrival.pk).values_list("state", "begun").first()
    if found == (Arrival.State.READING, arrival.begun):
        return
    raise Cancelled("cancelled") if found is None or found[0] == Arrival.State.CANCELLED else TakenUp("taken up")


def resume() -> None:
    """Take up again what was being done when the worker last ended, however that came about.

    What was in hand when it ended twice is set aside, so that what waits behind it is done.
    """
    interrupted = Arrival.objects.filter(state=Arrival.State.READING)
    for arrival in interrupted.filter(begun__gte=MOST_BEGUN):
        what = "Reading it" if arrival.original_id else "Making it" if arrival.makes else "Applying it"
        times = "twice" if arrival.begun == MOST_BEGUN else f"{arrival.begun} times"
        _finish(
            arrival, Arrival.State.FAILED, message=f"{what} ended the program {times}, so it was set aside. {_ASIDE}"
        )
    interrupted.update(state=Arrival.State.WAITING)
    for pk in list(Arrival.objects.filter(state=Arrival.State.WAITING).order_by("pk").values_list("pk", flat=True)):
        work_on.enqueue(pk)


def _reporter(arrival: Arrival) -> Callable[[float], None]:
    """Return a function that notes the part done, and stops the work once somebody else has it, or nobody wants it."""
    noted = 0.0

    def report(part: float) -> None:
        nonlocal noted
        if time.monotonic() - noted < _PROGRESS_EVERY_S:
            return
        noted = time.monotonic()
        mine = Arrival.objects.filter(pk=arrival.pk, state=Arrival.State.READING, begun=arrival.begun)
        if not mine.update(part_done=part):
            _stop_if_cancelled(arrival)

    return report


def _finish(arrival: Arrival, state: str, **fields: object) -> None:
    """End an arrival; its copy of the file goes unless a version keeps it."""
    with transaction.atomic():
        kept = arrival.original_id
        Arrival.objects.filter(pk=arrival.pk).update(state=state, original=None, **fields)
        if kept:
            forget_unused({kept})


def cancel(arrival: Arrival) -> None:
    """Stop an arrival that has not ended; nothing of it is stored."""
    waiting = Arrival.objects.filter(pk=arrival.pk, state__in=[Arrival.State.WAITING, Arrival.State.READING])
    if waiting.update(state=Arrival.State.CANCELLED) and arrival.state == Arrival.State.WAITING:
        _finish(arrival, Arrival.State.CANCELLED)
