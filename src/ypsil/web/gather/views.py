"""Screens of Gather."""

from __future__ import annotations

import datetime as dt
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.paginator import Paginator
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.http import content_disposition_header
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from ypsil.core.errors import YpsilError
from ypsil.core.figures import decimals_kept, format_number, format_period
from ypsil.core.tables import Column
from ypsil.core.tables.limits import MAX_UPLOAD_BYTES
from ypsil.web.gather import arrivals
from ypsil.web.gather.models import Arrival, Blob, Table, Version
from ypsil.web.gather.services import columns_of, frame_of, latest_version, tables_of, versions_of
from ypsil.web.middleware import sentence_of

ROWS_ON_A_PAGE = 50
SIGNS = {"number": "#", "category": "◇", "text": "¶", "date": "◔", "place": "⚲", "yesno": "±", "list": "≡"}


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
            arrival = arrivals.receive(
                request.user,
                request.FILES.get("file"),
                table=table,
                name=request.POST.get("name", ""),
                sheet=request.POST.get("sheet", ""),
            )
            if arrival.state != Arrival.State.DONE:
                return redirect("arrival", arrival.uid)
            messages.success(request, f"{arrival.file_name} arrived as version {arrival.version.number}.")
            return redirect("table", arrival.table.uid)
        except YpsilError as found:
            problem = sentence_of(found)
    context = {
        "table": table,
        "problem": problem,
        "given_name": request.POST.get("name", ""),
        "given_sheet": request.POST.get("sheet", ""),
        "limit_bytes": MAX_UPLOAD_BYTES,
        "limit_mb": MAX_UPLOAD_BYTES // 1024**2,
    }
    return render(request, "gather/new_table.html", context, status=422 if problem else 200)


@login_required
@require_GET
def arrival(request: HttpRequest, uid: str) -> HttpResponse:
    found = get_object_or_404(Arrival, owner=request.user, uid=uid)
    if found.state == Arrival.State.DONE and found.table is not None:
        return redirect("table", found.table.uid)
    return render(request, "gather/arrival.html", {"arrival": found})


@login_required
@require_GET
def arrival_state(request: HttpRequest, uid: str) -> JsonResponse:
    found = get_object_or_404(Arrival, owner=request.user, uid=uid)
    return JsonResponse({"state": found.state, "part": found.part_done, "message": found.message})


@login_required
@require_POST
def cancel_arrival(request: HttpRequest, uid: str) -> HttpResponse:
    arrivals.cancel(get_object_or_404(Arrival, owner=request.user, uid=uid))
    messages.info(request, "The file was not taken in. Nothing was stored.")
    return redirect("desk")


@login_required
@require_GET
def table(request: HttpRequest, uid: str) -> HttpResponse:
    found = get_object_or_404(tables_of(request.user), uid=uid)
    number = request.GET.get("version", "")
    version = get_object_or_404(Version, table=found, number=number) if number.isdigit() else latest_version(found)
    if version is None:
        return redirect("newer-file", found.uid)
    columns = columns_of(version)
    frame = frame_of(version.rows_blob_id)
    page = Paginator(range(frame.height), ROWS_ON_A_PAGE).get_page(request.GET.get("page"))
    start = page.start_index() - 1 if frame.height else 0
    shown = frame.slice(start, ROWS_ON_A_PAGE)
    decimals = [
        decimals_kept(shown[column.name].drop_nulls().to_list()) if column.kind == "number" else 0 for column in columns
    ]
    rows = [
        (start + offset + 1, [_cell(*parts) for parts in zip(row, columns, decimals, strict=True)])
        for offset, row in enumerate(shown.rows())
    ]
    context = {
        "table": found,
        "version": version,
        "versions": versions_of(found),
        "columns": [(column, SIGNS[column.kind], _unit_to_show(column)) for column in columns],
        "rows": rows,
        "page": page,
        "remarks": version.remarks,
    }
    return render(request, "gather/table.html", context)


def _unit_to_show(column: Column) -> str:
    """Return a column's unit, unless its name says it already or it stands with each number."""
    named = column.unit is not None and f"({column.unit})" in column.name
    return "" if column.unit is None or named or column.unit == "%" else column.unit


def _cell(value: Any, column: Column, decimals: int) -> dict[str, str | bool]:
    """Return a cell as it is shown; a missing one is marked as such."""
    if value is None:
        return {"text": "", "missing": True}
    return {"text": _cell_text(value, column, decimals), "number": column.kind == "number"}


def _cell_text(value: Any, column: Column, decimals: int) -> str:
    if column.kind == "number":
        # The unit stands once, in the heading; percent signs stand with their numbers, which they change.
        share = column.unit == "%"
        return format_number(value, decimals=max(0, decimals - 2 * share), unit="%" if share else None)
    if column.kind == "yesno":
        return "Yes" if value else "No"
    if column.kind == "list":
        return "; ".join(value)
    if isinstance(value, dt.datetime):
        return f"{format_period(value.date(), 'day')}, {value:%H:%M}"
    return format_period(value, "day") if isinstance(value, dt.date) else str(value)


@login_required
@require_GET
def original_file(request: HttpRequest, uid: str, number: int) -> HttpResponse:
    """The file as it was uploaded; always a download, never shown by the browser itself."""
    version = get_object_or_404(Version, table__uid=uid, table__owner=request.user, number=number)
    content = bytes(Blob.objects.get(pk=version.original_id).content)
    response = HttpResponse(content, content_type="application/octet-stream")
    response.headers["Content-Disposition"] = content_disposition_header(True, version.file_name)
    return response
