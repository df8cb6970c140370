"""The page editor: the page, edits of it, and steps back and forward."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.decorators import login_required
from django.core.exceptions import BadRequest
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from ypsil.web.accounts.services import asker
from ypsil.web.compose import edits
from ypsil.web.compose.actions.edit_report import EditRequest, edit_report
from ypsil.web.compose.actions.redo_change import redo_change
from ypsil.web.compose.actions.undo_change import undo_change
from ypsil.web.compose.layouts import layout_at_hand, layout_of
from ypsil.web.compose.log import reach_of
from ypsil.web.compose.models import Report
from ypsil.web.compose.patches import page_patch
from ypsil.web.compose.render import page_markup
from ypsil.web.compose.services import page_of, report_for, sources_of
from ypsil.web.json_bodies import json_object
from ypsil.web.middleware import message_data

KEPT_FOR_GOOD = "private, max-age=31536000, immutable"


@login_required
@require_safe
def report(request: HttpRequest, uid: str) -> HttpResponse:
    context = _page_context(request, report_for(asker(request), uid))
    return render(request, "compose/report.html", context | {"bands": page_markup(context["composed"])})


def _page_context(request: HttpRequest, found: Report) -> dict[str, Any]:
    sources = sources_of(found)
    page = page_of(found, sources)
    reach = reach_of(found, asker(request))
    return {
        "report": found,
        "title": page.report.title,
        "composed": page,
        "rungs": page.bands,
        "layout": reverse("layout", args=[found.uid, layout_of(page)[0]]),
        "held": sources.held,
        "can_undo": bool(reach.undo),
        "can_redo": bool(reach.redo),
        "saved": _saved_at(found),
        "stage": "compose",
    }


def _saved_at(found: Report) -> str:
    return f"Saved {timezone.localtime(found.changed):%H:%M}"


@login_required
@require_safe
def layout(request: HttpRequest, uid: str, digest: str) -> HttpResponse:
    """The style sheet of a layout of a report. One that is no longer at hand is made anew, of the report as it is."""
    found = report_for(asker(request), uid)
    text = layout_at_hand(digest)
    if text is None:
        now, text = layout_of(page_of(found))
        if now != digest:
            return HttpResponse(text, content_type="text/css", headers={"Cache-Control": "no-store"})
    return HttpResponse(text, content_type="text/css", headers={"Cache-Control": KEPT_FOR_GOOD})


@login_required
@require_POST
def edit(request: HttpRequest, uid: str) -> JsonResponse:
    """Make one edit: ``{"base": revision, "edit": {...}, "id": "...", "spell": "..."}``; 409 when it is stale, 422 when
    it does not fit. What has an id is made once, however often it is sent."""
    # What is not there for somebody is not, whatever else is wrong with what they send.
    report_for(asker(request), uid)
    data = json_body(request)
    if not isinstance(data.get("base"), int):
        raise BadRequest("base is missing")
    client, spell = (str(data.get(name, ""))[:40] for name in ("id", "spell"))
    try:
        changed = edit_report(asker(request), uid, EditRequest(data.get("edit"), data["base"], client, spell))
    except edits.StaleEdit as problem:
        said = message_data(problem) | {"mine": problem.mine}
        return JsonResponse(said | page_data(request, report_for(asker(request), uid), data.get("known")), status=409)
    return JsonResponse(page_data(request, changed, data.get("known")))


@login_required
@require_safe
def token(request: HttpRequest, uid: str) -> JsonResponse:
    """The token that edits are sent with; it changes when somebody signs in again."""
    report_for(asker(request), uid)
    reply = JsonResponse({"token": get_token(request)})
    reply["Cache-Control"] = "no-store"
    return reply


def json_body(request: HttpRequest) -> dict[str, Any]:
    return json_object(request.body)


@login_required
@require_POST
def undo(request: HttpRequest, uid: str) -> JsonResponse:
    return stepped(request, undo_change(asker(request), uid, _times(request)))


@login_required
@require_POST
def redo(request: HttpRequest, uid: str) -> JsonResponse:
    return stepped(request, redo_change(asker(request), uid, _times(request)))


def _said_with(request: HttpRequest) -> dict[str, Any]:
    return json_body(request) if request.content_type == "application/json" else {}


def _times(request: HttpRequest) -> int:
    times = _said_with(request).get("times", 1)
    return times if isinstance(times, int) and not isinstance(times, bool) else 1


def stepped(request: HttpRequest, step: edits.Step) -> JsonResponse:
    """The page after a step, with what is said of it."""
    known = _said_with(request).get("known")
    return JsonResponse(
        page_data(request, step.report, known) | {"notice": step.notice, "did": step.did, "about": step.about}
    )


def page_data(request: HttpRequest, found: Report, known: Any = None) -> dict[str, Any]:
    """Return the page after an edit: all of it, or for whoever tells which tiles they show what is new of it."""
    context = _page_context(request, found)
    if isinstance(known, dict):
        held = render_to_string("compose/_held.html", context, request)
        shown: dict[str, Any] = {"patch": page_patch(context["composed"], known, held)}
    else:
        context["bands"] = page_markup(context["composed"])
        shown = {"page": render_to_string("compose/_page.html", context, request)}
    return {
        "revision": found.revision,
        "saved": context["saved"],
        "can_undo": context["can_undo"],
        "can_redo": context["can_redo"],
        "title": context["title"],
        "language": context["composed"].report.language,
        "layout": context["layout"],
        **shown,
        "ladder": render_to_string("compose/_ladder.html", context, request),
    }
