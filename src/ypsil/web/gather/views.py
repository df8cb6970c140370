"""Screens of Gather: taking data in, and the table."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.http import urlencode
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from ypsil.core.errors import YpsilError
from ypsil.core.tables.limits import MAX_UPLOAD_BYTES
from ypsil.core.tables.read import ENDINGS
from ypsil.web.accounts.services import asker, once
from ypsil.web.compose.services import reports_of, users_of
from ypsil.web.gather import arrivals, typed
from ypsil.web.gather.actions.cancel_arrival import cancel_arrival as cancelled
from ypsil.web.gather.actions.credit_table import credit_table
from ypsil.web.gather.actions.delete_table import delete_table as deleted
from ypsil.web.gather.actions.rename_table import rename_table as renamed
from ypsil.web.gather.actions.take_in import DataRequest, take_in
from ypsil.web.gather.models import Arrival, Table, Version
from ypsil.web.gather.preparing import columns_of, prepared
from ypsil.web.gather.services import table_for
from ypsil.web.gather.table_page import margin_context
from ypsil.web.middleware import sentence_of
from ypsil.web.whole_numbers import whole_number

PASTED_AS = (
    ("", "Find out by itself"),
    ("cells", "Cells copied from a spreadsheet"),
    ("lines", "Answers, one a line"),
    ("paragraphs", "Answers, with an empty line between them"),
)
WAYS = (("file", "From a file"), ("paste", "Pasted"), ("type", "Typed in"))


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
@once
def new_table(request: HttpRequest) -> HttpResponse:
    return _take_in(request, None)


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
@once
def newer_file(request: HttpRequest, uid: str) -> HttpResponse:
    return _take_in(request, table_for(asker(request), uid))


def _take_in(request: HttpRequest, table: Table | None) -> HttpResponse:
    problem = ""
    if request.method == "POST":
        try:
            arrival = _receive(request, table)
            if arrival.state != Arrival.State.DONE:
                return redirect(_for(request, reverse("arrival", args=[arrival.uid])))
            return _arrived(request, arrival)
        except YpsilError as found:
            problem = sentence_of(found)
    way = request.POST.get("way") or request.GET.get("way") or _usual_way(table)
    context = {
        "table": table,
        "problem": problem,
        "given": request.POST,
        "way": way,
        "ways": WAYS,
        "pasted_as": PASTED_AS,
        "for_report": request.POST.get("for") or request.GET.get("for", ""),
        "grid": typed.grid_of(table, request.POST.get("cells", "")),
        "endings": ",".join(ENDINGS),
        "limit_bytes": MAX_UPLOAD_BYTES,
        "limit_mb": MAX_UPLOAD_BYTES // 1024**2,
    }
    return render(request, "gather/new_table.html", context, status=422 if problem else 200)


def _usual_way(table: Table | None) -> str:
    return "type" if table is not None and table.current and table.current.file_name == typed.FILE_NAME else "file"


def _receive(request: HttpRequest, table: Table | None) -> Arrival:
    return take_in(asker(request), _sent(request, table.uid if table else ""))


def _sent(request: HttpRequest, table: str) -> DataRequest:
    """Return what a form holds in the way that was chosen."""
    data, name = request.POST, request.POST.get("name", "")
    way = data.get("way", "file")
    if way == "paste":
        asked = " ".join(data.get("asked", "").split())
        file_name, content, reading = typed.pasted(data.get("text", ""), data.get("text_is", ""), asked)
        usual = "Pasted table"
        if "text_rows" in reading:
            usual = asked or typed.question_in(data.get("text", "")) or "Pasted answers"
        return DataRequest(file_name, content, table, name or ("" if table else usual), reading=reading)
    if way == "type":
        content = typed.typed_rows(data.get("cells", ""))
        return DataRequest(typed.FILE_NAME, content, table, name or ("" if table else "Typed table"))
    file_name, content = arrivals.one_file(request.FILES.getlist("file"))
    return DataRequest(file_name, content, table, name, data.get("sheet", ""))


def _arrived(request: HttpRequest, arrival: Arrival) -> HttpResponse:
    """Show what came: a new table itself, a newer version beside the one before."""
    version, table = arrival.version, arrival.table
    assert version is not None
    assert table is not None
    messages.success(request, f"{version.file_name} arrived as version {version.number}.")
    table.refresh_from_db()
    if table.held_id == version.pk:
        return redirect("held", table.uid)
    if version.number > 1:
        return redirect("comparison", table.uid)
    return redirect(_for(request, reverse("table", args=[table.uid])))


def _for(request: HttpRequest, address: str) -> str:
    """Return an address that says which report a table was taken in for, where it was for one."""
    report = request.POST.get("for") or request.GET.get("for", "")
    return f"{address}?{urlencode({'for': report})}" if report else address


@login_required
@require_safe
def arrival(request: HttpRequest, uid: str) -> HttpResponse:
    found = get_object_or_404(Arrival, owner=asker(request), uid=uid)
    if found.state == Arrival.State.DONE and found.table is not None and not found.makes:
        if found.said or found.version is None:
            messages.success(request, f"{found.said or 'Done'}.")
            return redirect("table", found.table.uid)
        return _arrived(request, found)
    return render(request, "gather/arrival.html", {"arrival": found})


@login_required
@require_safe
def arrival_state(request: HttpRequest, uid: str) -> JsonResponse:
    found = get_object_or_404(Arrival, owner=asker(request), uid=uid)
    return JsonResponse({"state": found.state, "part": found.part_done, "message": found.message})


@login_required
@require_POST
def cancel_arrival(request: HttpRequest, uid: str) -> HttpResponse:
    found = cancelled(asker(request), uid)
    messages.info(request, "Stopped. Nothing was changed.")
    return redirect("table", found.table.uid) if found.table else redirect("desk")


@login_required
@require_safe
def table(request: HttpRequest, uid: str) -> HttpResponse:
    found = table_for(asker(request), uid)
    version = asked_version(request, found)
    if version is None:
        return redirect("newer-file", found.uid)
    try:
        preparation = prepared(found, version)
    except YpsilError as problem:
        messages.warning(request, f"Version {version.number} cannot be read this way: {sentence_of(problem)}")
        return redirect("table", found.uid)
    context = margin_context(found, version, preparation)
    context["columns"] = columns_of(preparation)
    context["for_report"] = reports_of(asker(request)).filter(uid=request.GET.get("for", "")).first()
    return render(request, "gather/table.html", context)


def asked_version(request: HttpRequest, found: Table) -> Version | None:
    """Return the version that the address names, else the current one."""
    number = whole_number(request.GET.get("version"))
    return found.current if number is None else get_object_or_404(Version, table=found, number=number)


@login_required
@require_POST
def keep_credits(request: HttpRequest, uid: str) -> HttpResponse:
    """Who made a table, where it comes from, its date, licence and a note: reports name these."""
    found = credit_table(asker(request), uid, request.POST.dict())
    messages.success(request, "Kept. Reports that use this table say so in their sources.")
    return redirect("table", found.uid)


@login_required
@require_POST
def rename_table(request: HttpRequest, uid: str) -> HttpResponse:
    try:
        renamed(asker(request), uid, request.POST.get("name", ""))
        messages.success(request, "Renamed. Reports follow.")
    except YpsilError as problem:
        messages.warning(request, sentence_of(problem))
    return redirect("table", uid)


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def delete_table(request: HttpRequest, uid: str) -> HttpResponse:
    """Deleting for good asks first, and says which reports use the table."""
    if request.method == "POST":
        messages.success(request, f"“{deleted(asker(request), uid).name}” is deleted.")
        return redirect("desk")
    found = table_for(asker(request), uid)
    context = {"table": found, "users": users_of(found.owner, uid), "versions": found.versions.count()}
    return render(request, "gather/delete.html", context)


def bad_request(problem: YpsilError) -> JsonResponse:
    """Return a refusal as the scripts of the page expect it, with the place in a calculation where there is one."""
    return JsonResponse({"message": sentence_of(problem), "place": getattr(problem, "place", None)}, status=422)
