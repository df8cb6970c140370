"""The desk: reports and tables, a new report, and the end of one."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_safe

from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import asker, once
from ypsil.web.compose.actions.delete_report import delete_report as deleted
from ypsil.web.compose.actions.make_report import make_report
from ypsil.web.compose.miniatures import miniatures_of
from ypsil.web.compose.services import report_for, reports_of
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
    tables = list(tables_of(person))
    versions = current_preparations(tables)
    found = list(reports_of(person).select_related("owner", "publication", "miniature").prefetch_related("uses"))
    miniatures = miniatures_of(found, table_states(tables))
    reports = [
        {
            "report": report,
            "miniature": miniatures[report.pk],
            "audience": getattr(getattr(report, "publication", None), "audience", "me"),
        }
        for report in found
    ]
    shown = [(table, versions.get(table.uid)) for table in tables]
    return render(request, "compose/desk.html", {"reports": reports, "tables": shown})


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
    context = {"problem": problem, "title": title}
    return render(request, "compose/new_report.html", context, status=422 if problem else 200)


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def delete_report(request: HttpRequest, uid: str) -> HttpResponse:
    """Deleting for good asks first, and says who would miss it."""
    if request.method == "POST":
        messages.success(request, f"“{deleted(asker(request), uid)}” is deleted.")
        return redirect("desk")
    return render(request, "compose/delete_report.html", {"report": report_for(asker(request), uid)})
