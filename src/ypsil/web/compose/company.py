"""Who else looks at a report, and that it was changed: told to every open window within a second."""

from __future__ import annotations

import time
from typing import Any

from django.core.cache import cache

from ypsil.web.compose.models import Report
from ypsil.web.events import Watch

# How long a window is there after it was heard of.
_HERE_S = 25
MOST_WINDOWS = 20


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


def _here(report_id: int) -> dict[str, dict[str, Any]]:
    found: dict[str, dict[str, Any]] = cache.get(_key(report_id), {})
    return {name: one for name, one in found.items() if time.time() - one["seen"] < _HERE_S}


def _key(report_id: int) -> str:
    return f"here:{report_id}"


# Tells whoever looks at a report.
watch: Watch[dict[str, Any]] = Watch(state_of)
