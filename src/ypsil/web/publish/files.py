"""Files of reports, made one after the other beside the requests: whoever was served longest ago comes next."""

from __future__ import annotations

import datetime as dt
import hashlib
import io
import json
import logging
import zipfile
from collections.abc import Callable

from django.db import transaction
from django.db.models import Max
from django.utils import timezone
from django_tasks import task

from ypsil.core.errors import YpsilError
from ypsil.core.render import Page
from ypsil.web.accounts.services import User
from ypsil.web.compose.services import Report, compose_view, sources_of
from ypsil.web.publish.models import MadeFile
from ypsil.web.publish.orders import Order

KEPT_FOR = dt.timedelta(days=1)
KEPT_FILES = 20
MOST_WAITING = 200
_NO_DAY = (1980, 1, 1, 0, 0, 0)
_BROKEN = "This file could not be made, because of a fault of the program. Another kind of file may do."
_log = logging.getLogger(__name__)


def order_file(asker: User, report: Report, order: Order) -> MadeFile:
    """Ask for a file of a report; one that was made of the same before is there at once.

    Raises YpsilError for a band or a tile that is not there, and where too many wait already.
    """
    body = report.read()
    part = order.part(body)
    order.choices(body, sources_of(report, body).tables)
    key = _key(report, order)
    found = MadeFile.objects.filter(owner=asker, key=key).exclude(state=MadeFile.State.REFUSED).first()
    if found is not None:
        return found
    if MadeFile.objects.filter(owner=asker, state=MadeFile.State.WAITING).count() >= MOST_WAITING:
        raise YpsilError(f"{MOST_WAITING} files are waiting already", remedy="let some of them be made first")
    if not any(True for _ in part.tiles()):
        raise YpsilError("there is nothing in it yet", remedy="add something to it first")
    with transaction.atomic():
        made = MadeFile.objects.create(
            owner=asker,
            report=report,
            name=order.name(body),
            media_type=order.media_type,
            wanted=order.as_json(),
            key=key,
        )
        transaction.on_commit(lambda: make_next.enqueue())
    return made


def waiting_before(made: MadeFile) -> int:
    """Return how many files of other people and of one's own were asked for before, and are not made yet."""
    going_on = (MadeFile.State.WAITING, MadeFile.State.MAKING)
    return MadeFile.objects.filter(state__in=going_on, asked__lt=made.asked).count()


def made_lately(report: Report) -> list[MadeFile]:
    """Return the files of a report that are kept, and those that are being made, the newest first."""
    found = MadeFile.objects.filter(report=report).exclude(state=MadeFile.State.REFUSED)
    return list(found.defer("content").order_by("-asked")[:KEPT_FILES])


@task()
def make_next() -> None:
    """Make the file whose turn it is, if any waits."""
    made = _next()
    if made is None:
        return
    try:
        made.content = _content(made, lambda part: _has_done(made, part))
        made.state, made.part_done = MadeFile.State.READY, 1.0
    except YpsilError as problem:
        made.state, made.said = MadeFile.State.REFUSED, problem.line()
    except Exception:
        _log.exception("a file could not be made")
        made.state, made.said = MadeFile.State.REFUSED, _BROKEN
    made.save(update_fields=["content", "state", "part_done", "said"])
    forget_files(made.owner)


def _next() -> MadeFile | None:
    """Take the oldest order of the person whose last file was begun longest ago."""
    with transaction.atomic():
        waiting = list(MadeFile.objects.filter(state=MadeFile.State.WAITING).order_by("asked", "pk"))
        if not waiting:
            return None
        owners = {one.owner_id for one in waiting}
        served = (
            MadeFile.objects.filter(owner__in=owners, begun__isnull=False).values("owner").annotate(last=Max("begun"))
        )
        last = {row["owner"]: row["last"] for row in served}
        never = dt.datetime.min.replace(tzinfo=dt.UTC)
        chosen = min(waiting, key=lambda one: (last.get(one.owner_id, never), one.asked, one.pk))
        chosen.state, chosen.begun = MadeFile.State.MAKING, timezone.now()
        chosen.save(update_fields=["state", "begun"])
    return chosen


def _content(made: MadeFile, has_done: Callable[[float], None]) -> bytes:
    order = Order.of_json(made.wanted)
    page = page_for(made.report, order)
    if not order.is_several:
        return order.format.page(page, order.delivery(order.sizes[0]))
    buffer = io.BytesIO()
    stem = made.name.removesuffix(".zip")
    with zipfile.ZipFile(buffer, "w") as found:
        for number, size in enumerate(order.sizes, 1):
            content = order.format.page(page, order.delivery(size))
            found.writestr(zipfile.ZipInfo(f"{stem}-{size.replace(' ', '')}.{order.ending}", _NO_DAY), content)
            has_done(number / len(order.sizes))
    return buffer.getvalue()


def page_for(report: Report, order: Order) -> Page:
    """Compose what of a report is wanted; what cannot be drawn says to readers only that it is being updated."""
    body = report.read()
    part = order.part(body)
    # What is chosen may stand elsewhere than in the part that is wanted.
    sources = sources_of(report, body)
    choices = order.choices(body, sources.tables)
    page = compose_view(part, sources, is_opened=True, choices=choices)
    if page.problems():
        page = compose_view(part, sources, for_readers=True, is_opened=True, choices=choices)
    return page


def _has_done(made: MadeFile, part: float) -> None:
    MadeFile.objects.filter(pk=made.pk).update(part_done=part)


def _key(report: Report, order: Order) -> str:
    said = json.dumps(order.as_json(), sort_keys=True)
    return hashlib.sha256(f"{report.pk}\n{sources_of(report).digest}\n{said}".encode()).hexdigest()


def forget_files(owner: User | None = None) -> None:
    """Delete files that were made more than a day ago, and of one person all but the newest."""
    MadeFile.objects.filter(asked__lt=timezone.now() - KEPT_FOR).delete()
    if owner is not None:
        ended = MadeFile.objects.filter(owner=owner, state__in=(MadeFile.State.READY, MadeFile.State.REFUSED))
        kept = list(ended.order_by("-asked").values_list("pk", flat=True)[:KEPT_FILES])
        ended.exclude(pk__in=kept).delete()


def resume_files() -> None:
    """Take up what was being made when a worker ended."""
    MadeFile.objects.filter(state=MadeFile.State.MAKING).update(state=MadeFile.State.WAITING)
    for _ in range(MadeFile.objects.filter(state=MadeFile.State.WAITING).count()):
        make_next.enqueue()
