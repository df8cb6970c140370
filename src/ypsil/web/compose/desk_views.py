"""The desk: reports and tables, a new report, and the end of one."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.exceptions import BadRequest
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from ypsil.core.errors import YpsilError
from ypsil.core.templates import templates
from ypsil.web.accounts.services import asker, once
from ypsil.web.compose.actions.bring_back_report import bring_back_report
from ypsil.web.compose.actions.copy_report import copy_report
from ypsil.web.compose.actions.delete_report import delete_report as deleted
from ypsil.web.compose.actions.make_report import make_report
from ypsil.web.compose.actions.rename_report import rename_report
from ypsil.web.compose.actions.tag_report import tag_report
from ypsil.web.compose.desk import ORDERS, Looked, last_visit
from ypsil.web.compose.miniatures import miniature_now, miniatures_of
from ypsil.web.compose.services import report_for, reports_of, resting_of
from ypsil.web.gather.services import (
    current_preparations,
    table_states,
    tables_of,
)
from ypsil.web.middleware import sentence_of


@login_required
@require_safe
def desk(request: HttpRequest) -> HttpResponse:
    person = asker(request)
    before = last_visit(person)
    tables = list(tables_of(person))
    names = {table.uid: table.name for table in tables}
    versions = current_preparations(tables)
    order = request.GET.get("order", "")
    looked = Looked(request.GET.get("q", "").strip(), order if order in ORDERS else "changed")
    every = list(reports_of(person).select_related("owner", "publication").prefetch_related("uses"))
    found = looked.among(every, names)
    miniatures = miniatures_of(found, table_states(tables))
    fresh = {uid for uid, version in versions.items() if version and version.version.created > before}
    reports = [
        {
            "report": report,
            "miniature": miniatures[report.pk],
            "audience": getattr(getattr(report, "publication", None), "audience", "me"),
            "fresh": sorted(names[use.table_uid] for use in report.uses.all() if use.table_uid in fresh),
        }
        for report in found
    ]
    context = {
        "reports": reports,
        "tables": [(table, versions.get(table.uid)) for table in tables],
        "looked": looked,
        "orders": ORDERS.items(),
        "count": len(every),
        "tags": sorted({tag for report in every for tag in report.tags}, key=str.casefold),
        "resting": list(resting_of(person).order_by("-rests_since")),
    }
    return render(request, "compose/desk.html", context)


@login_required
@require_safe
def miniature(request: HttpRequest, uid: str) -> HttpResponse:
    """The small picture of a report as it is now."""
    person = asker(request)
    found = report_for(person, uid)
    return HttpResponse(miniature_now(found, table_states(list(tables_of(person)))), content_type="image/svg+xml")


@login_required
@require_POST
def from_desk(request: HttpRequest, uid: str) -> HttpResponse:
    """What is done to a report from the desk: renamed, tagged, copied, deleted, brought back."""
    person, what = asker(request), request.POST.get("do", "")
    get_object_or_404(reports_of(person) | resting_of(person), uid=uid)
    try:
        if what == "rename":
            rename_report(person, uid, request.POST.get("title", ""))
        elif what == "tag":
            tag_report(person, uid, request.POST.get("tags", ""))
        elif what == "copy":
            messages.success(request, f"“{copy_report(person, uid)}” is there.")
        elif what == "bring_back":
            messages.success(request, f"“{bring_back_report(person, uid)}” is back.")
        else:
            raise BadRequest("nothing of that can be done here")
    except YpsilError as refused:
        messages.warning(request, sentence_of(refused))
    return redirect("desk")


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
@once
def new_report(request: HttpRequest) -> HttpResponse:
    problem = ""
    title = request.POST.get("title", "")
    if request.method == "POST":
        try:
            return redirect("report", make_report(asker(request), title).uid)
        except YpsilError as refused:
            problem = sentence_of(refused)
    tables = [table for table in tables_of(asker(request)) if table.current is not None]
    context = {"problem": problem, "title": title, "tables": tables, "template_count": len(templates())}
    return render(request, "compose/new_report.html", context, status=422 if problem else 200)


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def delete_report(request: HttpRequest, uid: str) -> HttpResponse:
    """A deleted report rests for a while; who would miss it is said before."""
    if request.method == "POST":
        messages.success(request, f"“{deleted(asker(request), uid)}” is deleted. It rests for 30 days, at the foot.")
        return redirect("desk")
    return render(request, "compose/delete_report.html", {"report": report_for(asker(request), uid)})
