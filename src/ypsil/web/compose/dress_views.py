"""House styles: which there are, who wears them, and what is done to them and to a report with them."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.exceptions import BadRequest
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from ypsil.core.errors import YpsilError
from ypsil.core.report.dress import departures
from ypsil.web.accounts.services import User, asker
from ypsil.web.compose.actions.change_dress import change_dress
from ypsil.web.compose.actions.drop_dress import drop_dress
from ypsil.web.compose.actions.forget_dress import forget_dress
from ypsil.web.compose.actions.keep_dress import keep_dress
from ypsil.web.compose.actions.rename_dress import rename_dress
from ypsil.web.compose.actions.take_back_dress import take_back_dress
from ypsil.web.compose.actions.wear_dress import wear_dress
from ypsil.web.compose.actions.wear_everywhere import wear_everywhere
from ypsil.web.compose.dresses import dress_for, dresses_of
from ypsil.web.compose.services import report_for, reports_of
from ypsil.web.compose.standing import dress_context
from ypsil.web.middleware import sentence_of


@login_required
@require_safe
def styles(request: HttpRequest) -> HttpResponse:
    """The house styles, each as it looks, with the reports that wear it and where they depart from it."""
    person = asker(request)
    every = list(reports_of(person))
    shown = []
    for shared in dresses_of(person):
        dress = shared.read()
        wearing = [report for report in every if report.wears_id == shared.pk]
        shown.append(
            {
                "shared": shared,
                "looks": dress_context(dress),
                "wearing": [(report, departures(report.read(), dress)) for report in wearing],
            }
        )
    return render(request, "compose/styles.html", {"shown": shown, "reports": len(every)})


@login_required
@require_POST
def style(request: HttpRequest, uid: str) -> HttpResponse:
    """What is done to a house style: put on all reports, taken back, renamed, taken away."""
    person, what = asker(request), request.POST.get("do", "")
    dress_for(person, uid)
    try:
        messages.success(request, _done(person, uid, what, request.POST.get("name", "")))
    except YpsilError as refused:
        messages.warning(request, sentence_of(refused))
    return redirect("styles")


def _done(person: User, uid: str, what: str, name: str) -> str:
    if what == "everywhere":
        many = wear_everywhere(person, uid)
        return f"{_reports(many)} {'look' if many != 1 else 'looks'} otherwise now. You can take that back here."
    if what == "back":
        back, stayed = take_back_dress(person, uid)
        more = f" {_reports(stayed)} {'were' if stayed != 1 else 'was'} changed since, and stay so." if stayed else ""
        return f"{_reports(back)} {'look' if back != 1 else 'looks'} as before.{more}"
    if what == "rename":
        rename_dress(person, uid, name)
        return "It is renamed."
    if what == "forget":
        return f"The style “{forget_dress(person, uid)}” is gone. Reports that wore it look as before."
    raise BadRequest("nothing of that can be done here")


def _reports(many: int) -> str:
    return "1 report" if many == 1 else f"{many} reports"


@login_required
@require_POST
def report_style(request: HttpRequest, uid: str) -> HttpResponse:
    """What is done to a report with house styles: one is put on, kept of it, made as it is, or no longer followed."""
    person, what = asker(request), request.POST.get("do", "")
    report_for(person, uid)
    given = request.POST.get("style", "")
    try:
        if what == "keep":
            kept = keep_dress(person, uid, request.POST.get("name", ""))
            messages.success(request, f"“{kept}” is kept, and other reports can wear it.")
        elif what == "wear":
            wear_dress(person, uid, given)
            messages.success(request, "It wears the style; undo takes it off.")
        elif what == "change":
            many = change_dress(person, uid, given)
            messages.success(request, f"The style is as this page. {_reports(many)} followed.")
        elif what == "off":
            drop_dress(person, uid)
            messages.success(request, "It looks as before, and follows no style any longer.")
        else:
            raise BadRequest("nothing of that can be done here")
    except YpsilError as refused:
        messages.warning(request, sentence_of(refused))
    return redirect("report", uid)
