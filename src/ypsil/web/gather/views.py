"""Screens of Gather: taking data in, and the table."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from ypsil.core.errors import YpsilError
from ypsil.core.tables.limits import MAX_UPLOAD_BYTES
from ypsil.core.tables.read import ENDINGS
from ypsil.web.compose.services import users_of
from ypsil.web.gather import arrivals, typed
from ypsil.web.gather.blobs import forget_table
from ypsil.web.gather.models import Arrival, Table, Version
from ypsil.web.gather.preparing import columns_of, prepared
from ypsil.web.gather.services import tables_of
from ypsil.web.gather.table_page import margin_context
from ypsil.web.middleware import sentence_of

WAYS = (("file", "From a file"), ("paste", "Pasted"), ("type", "Typed in"))
CREDITS = (
    ("made_by", "Who made it"),
    ("origin", "Where it comes from"),
    ("dated", "Its date"),
    ("licence", "Licence"),
    ("note", "Note"),
)


@login_required
@require_http_methods(["GET", "POST"])
def new_table(request: HttpRequest) -> HttpResponse:
    return _take_in(request, None)


@login_required
@require_http_methods(["GET", "POST"])
def newer_file(request: HttpRequest, uid: str) -> HttpResponse:
    return _take_in(request, get_object_or_404(tables_of(request.user), uid=uid))


def _take_in(request: HttpRequest, table: Table | None) -> HttpResponse:
    problem = ""
    if request.method == "POST":
        try:
            arrival = _receive(request, table)
            if arrival.state != Arrival.State.DONE:
                return redirect("arrival", arrival.uid)
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
        "grid": typed.grid_of(table, request.POST.get("cells", "")),
        "endings": ",".join(ENDINGS),
        "limit_bytes": MAX_UPLOAD_BYTES,
        "limit_mb": MAX_UPLOAD_BYTES // 1024**2,
    }
    return render(request, "gather/new_table.html", context, status=422 if problem else 200)


def _usual_way(table: Table | None) -> str:
    return "type" if table is not None and table.current and table.current.file_name == typed.FILE_NAME else "file"


def _receive(request: HttpRequest, table: Table | None) -> Arrival:
    data, name = request.POST, request.POST.get("name", "")
    way = data.get("way", "file")
    if way == "paste":
        file_name, content, reading = typed.pasted(data.get("text", ""), data.get("text_is", "cells"))
        made = name or ("Pasted table" if table is None else "")
        return arrivals.receive(request.user, file_name, content, table=table, name=made, reading=reading)
    if way == "type":
        made = name or ("Typed table" if table is None else "")
        return arrivals.receive(
            request.user, typed.FILE_NAME, typed.typed_rows(data.get("cells", "")), table=table, name=made
        )
    file_name, content = arrivals.one_file(request.FILES.getlist("file"))
    return arrivals.receive(request.user, file_name, content, table=table, name=name, sheet=data.get("sheet", ""))


def _arrived(request: HttpRequest, arrival: Arrival) -> HttpResponse:
    """Show what came: a new table itself, a newer version beside the one before."""
    version, table = arrival.version, arrival.table
    assert version is not None
    assert table is not None
    messages.success(request, f"{version.file_name} arrived as version {version.number}.")
    table.refresh_from_db()
    if table.held_id == version.pk:
        return redirect("held", table.uid)
    return redirect("comparison", table.uid) if version.number > 1 else redirect("table", table.uid)


@login_required
@require_GET
def arrival(request: HttpRequest, uid: str) -> HttpResponse:
    found = get_object_or_404(Arrival, owner=request.user, uid=uid)
    if found.state == Arrival.State.DONE and found.table is not None and not found.makes:
        if found.said or found.version is None:
            messages.success(request, f"{found.said or 'Done'}.")
            return redirect("table", found.table.uid)
        return _arrived(request, found)
    return render(request, "gather/arrival.html", {"arrival": found})


@login_required
@require_GET
def arrival_state(request: HttpRequest, uid: str) -> JsonResponse:
    found = get_object_or_404(Arrival, owner=request.user, uid=uid)
    return JsonResponse({"state": found.state, "part": found.part_done, "message": found.message})


@login_required
@require_POST
def cancel_arrival(request: HttpRequest, uid: str) -> HttpResponse:
    found = get_object_or_404(Arrival, owner=request.user, uid=uid)
    arrivals.cancel(found)
    messages.info(request, "Stopped. Nothing was changed.")
    return redirect("table", found.table.uid) if found.table else redirect("desk")


@login_required
@require_GET
def table(request: HttpRequest, uid: str) -> HttpResponse:
    found = get_object_or_404(tables_of(request.user), uid=uid)
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
    return render(request, "gather/table.html", context)


def asked_version(request: HttpRequest, found: Table) -> Version | None:
    """Return the version that the address names, else the current one."""
    number = request.GET.get("version", "")
    return get_object_or_404(Version, table=found, number=number) if number.isdigit() else found.current


@login_required
@require_POST
def keep_credits(request: HttpRequest, uid: str) -> HttpResponse:
    """Who made a table, where it comes from, its date, licence and a note: reports name these."""
    found = get_object_or_404(tables_of(request.user), uid=uid)
    for name, _ in CREDITS:
        limit = Table._meta.get_field(name).max_length
        setattr(found, name, " ".join(request.POST.get(name, "").split())[:limit])
    found.save(update_fields=[name for name, _ in CREDITS])
    messages.success(request, "Kept. Reports that use this table say so in their sources.")
    return redirect("table", found.uid)


@login_required
@require_POST
def rename_table(request: HttpRequest, uid: str) -> HttpResponse:
    found = get_object_or_404(tables_of(request.user), uid=uid)
    name = " ".join(request.POST.get("name", "").split())[:200]
    if not name or tables_of(request.user).filter(name=name).exclude(pk=found.pk).exists():
        taken = f"You already have a table called “{name}”. Nothing was changed." if name else "A table needs a name."
        messages.warning(request, taken)
    else:
        found.name = name
        found.save(update_fields=["name"])
        messages.success(request, "Renamed. Reports follow.")
    return redirect("table", uid)


@login_required
@require_http_methods(["GET", "POST"])
def delete_table(request: HttpRequest, uid: str) -> HttpResponse:
    """Deleting for good asks first, and says which reports use the table."""
    found = get_object_or_404(tables_of(request.user), uid=uid)
    if request.method == "POST":
        forget_table(found)
        messages.success(request, f"“{found.name}” is deleted.")
        return redirect("desk")
    context = {"table": found, "users": users_of(found.owner, uid), "versions": found.versions.count()}
    return render(request, "gather/delete.html", context)


def bad_request(problem: YpsilError) -> JsonResponse:
    """Return a refusal as the scripts of the page expect it, with the place in a calculation where there is one."""
    return JsonResponse({"message": sentence_of(problem), "place": getattr(problem, "place", None)}, status=422)
