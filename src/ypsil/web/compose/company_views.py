"""Requests of windows that look at the same report."""

from __future__ import annotations

from typing import Any

from asgiref.sync import sync_to_async
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse, JsonResponse, StreamingHttpResponse
from django.views.decorators.http import require_POST, require_safe

from ypsil.web.accounts.services import asker
from ypsil.web.compose import company
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for
from ypsil.web.compose.views import json_body, page_data
from ypsil.web.events import event_stream

MOST_CHOSEN = 50


def _asked(request: HttpRequest, uid: str) -> Report:
    return report_for(asker(request), uid)


@login_required
@require_safe
async def live(request: HttpRequest, uid: str) -> StreamingHttpResponse:
    """Server-sent events: who is at the report, and its revision, whenever that changes."""
    found = await sync_to_async(_asked)(request, uid)
    return event_stream(company.watch.events(found.pk))


@login_required
@require_POST
def here(request: HttpRequest, uid: str) -> HttpResponse:
    """Note what somebody has chosen in a window: ``{"window": "...", "at": [ids]}``."""
    found = _asked(request, uid)
    said = json_body(request)
    at = said.get("at")
    chosen = [str(one)[:16] for one in at[:MOST_CHOSEN]] if isinstance(at, list) else []
    company.note(found, str(said.get("window", ""))[:32], asker(request).get_username(), chosen)
    return HttpResponse(status=204)


@login_required
@require_POST
def state(request: HttpRequest, uid: str) -> JsonResponse:
    """The page as it is now, for a window that was told of a change: what it does not know of it yet."""
    found = _asked(request, uid)
    known: Any = json_body(request).get("known")
    return JsonResponse(page_data(request, found, known))
