"""Moments: a report as it once was, kept under a name with its picture, to look at and to go back to."""

from __future__ import annotations

from django.db import transaction
from django.db.models import BooleanField, ExpressionWrapper, Q
from django.shortcuts import get_object_or_404
from django.utils import timezone

from ypsil.core.document import apply, differences
from ypsil.core.errors import EditRefused, YpsilError
from ypsil.core.export import page_to_png
from ypsil.web.accounts.services import User
from ypsil.web.compose import log
from ypsil.web.compose.edits import Step
from ypsil.web.compose.log import Sent
from ypsil.web.compose.models import Moment, Report, Snapshot
from ypsil.web.compose.services import page_of

MOST_MOMENTS, MOST_LETTERS = 60, 80
_PICTURE_PX = 480.0
BROUGHT_BACK = "bring_back_moment"


def moments_of(report: Report) -> list[Moment]:
    """Return the moments of a report, the latest first, without their pictures."""
    # An empty page has none, and says so.
    has_picture = ~Q(picture=b"")
    return list(report.moments.defer("picture").annotate(has_picture=ExpressionWrapper(has_picture, BooleanField())))


def moment_of(report: Report, uid: str) -> Moment:
    """Return a moment of a report; there is no other (404)."""
    return get_object_or_404(report.moments, uid=uid)


def keep(report: Report, author: User, name: str) -> Moment:
    """Keep a report as it is now; raises EditRefused where there are as many moments as there may be."""
    if report.moments.count() >= MOST_MOMENTS:
        raise EditRefused(f"a report keeps at most {MOST_MOMENTS} moments", remedy="forget one first")
    name = " ".join(name.split())[:MOST_LETTERS] or f"{timezone.localtime():%d %B %Y, %H:%M}"
    # Drawn before anything is stored: nobody waits for that.
    picture = _drawn(report)
    with transaction.atomic():
        Snapshot.objects.get_or_create(report=report, number=report.revision, defaults={"document": report.document})
        return Moment.objects.create(report=report, author=author, number=report.revision, name=name, picture=picture)


def _drawn(report: Report) -> bytes:
    """Return the whole page as a small PNG; nothing where there is nothing to draw."""
    try:
        page = page_of(report)
        return page_to_png(page, scale=_PICTURE_PX / page.width)
    except YpsilError:
        return b""


@transaction.atomic
def bring_back(report_id: int, author: User, moment: Moment) -> Step:
    """Make a report what it was at a moment, as a change of its own that can be undone."""
    report = Report.objects.select_for_update().get(pk=report_id)
    now = report.read_document()
    then = log.document_at(report, moment.number)
    batch = differences(now, then, BROUGHT_BACK)
    if not batch.changes:
        return Step(report, did=f"The report is already as it was: {moment.name}")
    log.keep(report, apply(now, batch), batch, Sent(author))
    return Step(report, did=f"Brought back: {moment.name}")
