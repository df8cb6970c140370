"""How often reports are opened: a count a day, and nothing of who it was."""

from __future__ import annotations

import datetime as dt
import threading
from collections import Counter

from django.db import DatabaseError, connection, transaction
from django.db.models import F, Sum
from django.utils import timezone

from ypsil.web.publish.models import Openings, Publication

_SHOWN_DAYS = 30
_lock = threading.Lock()
_counted: Counter[int] = Counter()


def is_opening(destination: str | None) -> bool:
    """Tell whether a request opens a page, and does not only look for newer numbers on one that is open (W3C, Fetch
    Metadata Request Headers, 2.1: its destination is empty where a script asks)."""
    return destination != "empty"


def count(publication_id: int) -> None:
    """Count an opening; it is written down by ``write_down``."""
    with _lock:
        _counted[publication_id] += 1


def write_down() -> None:
    """Write what was counted to the database; what cannot be written is counted on."""
    with _lock:
        found = dict(_counted)
        _counted.clear()
    if not found:
        return
    try:
        with transaction.atomic():
            day = timezone.localdate()
            there = set(Publication.objects.filter(pk__in=found).values_list("pk", flat=True))
            for publication_id in there:
                row, _ = Openings.objects.get_or_create(publication_id=publication_id, day=day)
                Openings.objects.filter(pk=row.pk).update(count=F("count") + found[publication_id])
    except DatabaseError:
        connection.close()
        with _lock:
            _counted.update(found)


def openings_of(publication: Publication) -> tuple[int, int]:
    """Return how often a report was opened in all, and in the last 30 days."""
    since = timezone.localdate() - dt.timedelta(days=_SHOWN_DAYS)
    rows = Openings.objects.filter(publication=publication)
    everything = rows.aggregate(all=Sum("count"))["all"] or 0
    lately = rows.filter(day__gt=since).aggregate(all=Sum("count"))["all"] or 0
    return everything, lately
