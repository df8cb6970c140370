"""Who else looks at a report, and that it was changed: told to every open window within a second."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator
from typing import Any

from asgiref.sync import sync_to_async
from django.core.cache import cache

from ypsil.web.compose.models import Report

# How often a report that is looked at is asked for, whoever asks; how long a window is there after it was heard of.
_EVERY_S = 0.4
_HERE_S = 25
_STILL_S = 15
# A window asks anew after this: so connections do not stay for ever where somebody went away unheard.
_LONGEST_S = 300
MOST_WINDOWS = 20

_latest: dict[int, tuple[float, dict[str, Any]]] = {}


def note(report: Report, window: str, name: str, at: list[str]) -> None:
    """Note that somebody is at a report in a window, and what they have chosen."""
    here = _here(report.pk)
    here[window] = {"name": name, "at": at, "seen": time.time()}
    kept = dict(sorted(here.items(), key=lambda one: -one[1]["seen"])[:MOST_WINDOWS])
    cache.set(_key(report.pk), kept, _HERE_S)


def state_of(report_id: int) -> dict[str, Any]:
    """Return a report's revision and who is there; of one that is gone, no revision."""
    revision = Report.objects.filter(pk=report_id, rests_since=None).values_list("revision", flat=True).first()
    here = [{"window": name, "name": one["name"], "at": one["at"]} for name, one in _here(report_id).items()]
    return {"revision": revision, "here": here}


async def events(report_id: int) -> AsyncIterator[str]:
    """Yield server-sent events (WHATWG, HTML, 9.2): the state of a report whenever it is another one."""
    said: dict[str, Any] | None = None
    begun = heard = time.monotonic()
    while time.monotonic() - begun < _LONGEST_S:
        now = await _state(report_id)
        if now != said:
            said, heard = now, time.monotonic()
            yield f"data: {json.dumps(now)}\n\n"
        elif time.monotonic() - heard > _STILL_S:
            heard = time.monotonic()
            yield ": still here\n\n"
        await asyncio.sleep(_EVERY_S)


async def _state(report_id: int) -> dict[str, Any]:
    """Return the state of a report; for all windows of this process it is asked for once in a while."""
    asked, known = _latest.get(report_id, (0.0, {}))
    if time.monotonic() - asked < _EVERY_S * 0.9:
        return known
    _latest[report_id] = (time.monotonic(), known)
    now = await sync_to_async(state_of)(report_id)
    _latest[report_id] = (time.monotonic(), now)
    if len(_latest) > 1_000:
        _latest.clear()
    return now


def _here(report_id: int) -> dict[str, dict[str, Any]]:
    found: dict[str, dict[str, Any]] = cache.get(_key(report_id), {})
    return {name: one for name, one in found.items() if time.time() - one["seen"] < _HERE_S}


def _key(report_id: int) -> str:
    return f"here:{report_id}"
