"""What was done to a report, and the moments of it that were kept."""

from __future__ import annotations

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from ypsil.core.errors import EditRefused
from ypsil.web.accounts.services import asker
from ypsil.web.compose.actions.bring_back_moment import bring_back_moment
from ypsil.web.compose.actions.forget_moment import forget_moment
from ypsil.web.compose.actions.keep_moment import keep_moment
from ypsil.web.compose.log import reach_of
from ypsil.web.compose.models import Report
from ypsil.web.compose.moments import MOST_LETTERS, moment_of, moments_of
from ypsil.web.compose.said import done
from ypsil.web.compose.services import report_for
from ypsil.web.compose.views import KEPT_FOR_GOOD, json_body, stepped

SHOWN_CHANGES = 60


@login_required
@require_safe
def history(request: HttpRequest, uid: str) -> HttpResponse:
    """The moments that were kept, and what the asker did, the latest first: all of it can be gone back to."""
    return _history(request, report_for(asker(request), uid))


def _history(request: HttpRequest, found: Report, problem: str = "") -> HttpResponse:
    reach = reach_of(found, asker(request))
    shown = reach.undo[:SHOWN_CHANGES]
    entries = {entry.number: entry for entry in found.log.filter(number__in=[numbers[-1] for numbers in shown])}
    lines = [
        (times, done(entries[numbers[-1]].label), timezone.localtime(entries[numbers[-1]].made))
        for times, numbers in enumerate(shown, 1)
    ]
    context = {
        "report": found,
        "moments": moments_of(found),
        "letters": MOST_LETTERS,
        "problem": problem,
        "lines": lines,
        "more": len(reach.undo) - len(shown),
    }
    return render(request, "compose/_history.html", context)


@login_required
@require_POST
def moments(request: HttpRequest, uid: str) -> HttpResponse:
    """Keep the report as it is now, under the name that is sent; the list comes back with it."""
    found = report_for(asker(request), uid)
    try:
        name = json_body(request).get("name")
        keep_moment(asker(request), uid, name if isinstance(name, str) else "")
    except EditRefused as refused:
        return _history(request, found, refused.line())
    return _history(request, found)


@login_required
@require_safe
def moment_picture(request: HttpRequest, uid: str, moment: str) -> HttpResponse:
    """The page as it was seen then."""
    kept = moment_of(report_for(asker(request), uid), moment)
    if not kept.picture:
        raise Http404
    return HttpResponse(bytes(kept.picture), content_type="image/png", headers={"Cache-Control": KEPT_FOR_GOOD})


@login_required
@require_POST
def moment_back(request: HttpRequest, uid: str, moment: str) -> JsonResponse:
    return stepped(request, bring_back_moment(asker(request), uid, moment))


@login_required
@require_POST
def moment_forgotten(request: HttpRequest, uid: str, moment: str) -> HttpResponse:
    forget_moment(asker(request), uid, moment)
    return _history(request, report_for(asker(request), uid))
