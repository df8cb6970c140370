"""That a published report has newer numbers: told to every page that is open within a second."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator

from asgiref.sync import sync_to_async
from django.db.models import Max

from ypsil.web.publish.models import Publication

# How often a publication that is read is asked for, whoever reads it.
_EVERY_S = 0.4
_STILL_S = 15
# A page asks anew after this: so connections do not stay for ever where somebody went away unheard.
_LONGEST_S = 300
_MOST_KNOWN = 1_000

_latest: dict[int, tuple[float, int | None]] = {}


def release_now(publication_id: int) -> int | None:
    """Return the number of the newest release; None where the link leads nowhere now."""
    found = Publication.objects.filter(pk=publication_id, report__rests_since=None)
    found = found.exclude(audience=Publication.Audience.ME)
    return found.annotate(newest=Max("releases__number")).values_list("newest", flat=True).first()


async def events(publication_id: int) -> AsyncIterator[str]:
    """Yield server-sent events (WHATWG, HTML, 9.2): the number of the newest release whenever there is another, and at
    last none where the link leads nowhere any more."""
    said: int | None = -1
    begun = heard = time.monotonic()
    while time.monotonic() - begun < _LONGEST_S:
        now = await _release(publication_id)
        if now != said:
            said, heard = now, time.monotonic()
            yield f"data: {json.dumps({'release': now})}\n\n"
            if now is None:
                return
        elif time.monotonic() - heard > _STILL_S:
            heard = time.monotonic()
            yield ": still here\n\n"
        await asyncio.sleep(_EVERY_S)


async def _release(publication_id: int) -> int | None:
    """Return the newest release; for all pages that this process serves it is asked for once in a while."""
    asked, known = _latest.get(publication_id, (0.0, None))
    if time.monotonic() - asked < _EVERY_S * 0.9:
        return known
    if publication_id in _latest:
        # Others of this moment take what is known.
        _latest[publication_id] = (time.monotonic(), known)
    now = await sync_to_async(release_now)(publication_id)
    if len(_latest) > _MOST_KNOWN:
        _latest.clear()
    _latest[publication_id] = (time.monotonic(), now)
    return now
