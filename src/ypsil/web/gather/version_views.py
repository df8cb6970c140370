"""Versions: beside each other, held, current again, and as files."""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.http import content_disposition_header
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from ypsil.core.errors import YpsilError
from ypsil.core.figures import decimals_kept, format_number
from ypsil.core.tables.compare import Total, compare
from ypsil.core.tables.write import MEDIA_TYPES, WRITERS, takes_long, write_table
from ypsil.web.accounts.services import asker, once
from ypsil.web.compose.services import users_of
from ypsil.web.gather import holding
from ypsil.web.gather.actions.delete_version import delete_version as deleted
from ypsil.web.gather.actions.keep_older import keep_older
from ypsil.web.gather.actions.name_columns import name_columns
from ypsil.web.gather.actions.show_version import show_version
from ypsil.web.gather.actions.take_other_sheet import take_other_sheet
from ypsil.web.gather.actions.write_file import write_file
from ypsil.web.gather.blobs import content
from ypsil.web.gather.models import Arrival, Table, Version
from ypsil.web.gather.preparing import prepared, rows_of
from ypsil.web.gather.services import table_for
from ypsil.web.gather.views import asked_version
from ypsil.web.middleware import sentence_of
from ypsil.web.whole_numbers import whole_number


def _table(request: HttpRequest, uid: str) -> Table:
    return table_for(asker(request), uid)


@login_required
@require_safe
def comparison(request: HttpRequest, uid: str) -> HttpResponse:
    """Two versions side by side, both under the table's steps; without numbers, the newest and the one before."""
    found = _table(request, uid)
    versions = list(found.versions.all())
    if len(versions) < 2:
        return redirect("table", uid)
    after = _numbered(request, found, "after") or versions[0]
    before = _numbered(request, found, "before") or _one_before(versions, after)
    context: dict[str, Any] = {"table": found, "versions": versions, "before": before, "after": after}
    try:
        made = compare(rows_of(prepared(found, before)), rows_of(prepared(found, after)))
        context |= {"found": made, "totals": [_total(one) for one in made.totals], "key": " and ".join(made.key)}
    except YpsilError as problem:
        context["problem"] = sentence_of(problem)
    context["users"] = users_of(found.owner, found.uid)
    return render(request, "gather/comparison.html", context)


def _numbered(request: HttpRequest, found: Table, name: str) -> Version | None:
    number = whole_number(request.GET.get(name))
    return None if number is None else get_object_or_404(Version, table=found, number=number)


def _one_before(versions: list[Version], after: Version) -> Version:
    older = [one for one in versions if one.number < after.number]
    return older[0] if older else next(one for one in versions if one.pk != after.pk)


def _total(total: Total) -> dict[str, str]:
    """Return a total as people read it: before, after, and the difference."""
    decimals = min(2, decimals_kept([total.before, total.after]))

    def said(value: float) -> str:
        return format_number(value, decimals=decimals, unit=total.unit)

    change = total.after - total.before
    part = format_number(change / abs(total.before), decimals=1, unit="%") if total.before else ""
    sign = "+" if change > 0 else ""
    return {
        "column": total.column,
        "before": said(total.before),
        "after": said(total.after),
        "change": f"{sign}{said(change)}" if change else "no change",
        "part": f"{sign}{part}" if change and part else "",
    }


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def held(request: HttpRequest, uid: str) -> HttpResponse:
    """The one screen for a version that waits: say what its columns are called here, or accept it as it is."""
    found = _table(request, uid)
    if found.held is None or found.current is None:
        return redirect("table", uid)
    problem = ""
    if request.method == "POST":
        try:
            reply = _decide(request, found)
            if reply is not None:
                return reply
            problem = "The version still lacks something; see below."
        except YpsilError as refused:
            problem = sentence_of(refused)
    gone, fresh = holding.gone_columns(found, found.held)
    context = {
        "table": found,
        "groups": holding.by_report(holding.lacks(found, found.held)),
        "gone": gone,
        "fresh": fresh,
        "problem": problem,
    }
    return render(request, "gather/held.html", context, status=422 if problem else 200)


def _decide(request: HttpRequest, found: Table) -> HttpResponse | None:
    waiting = found.held
    assert waiting is not None
    if "accept" in request.POST:
        show_version(asker(request), found.uid, waiting.number)
        messages.success(request, f"Version {waiting.number} is shown now, without what it lacks.")
        return redirect("table", found.uid)
    if "discard" in request.POST:
        keep_older(asker(request), found.uid)
        shown = found.current.number if found.current else ""
        messages.success(request, f"Reports stay with version {shown}; version {waiting.number} is kept.")
        return redirect("table", found.uid)
    gone, fresh = holding.gone_columns(found, waiting)
    renames = {
        new: column.name
        for place, column in enumerate(gone)
        if (new := request.POST.get(f"column-{place}", "")) in fresh
    }
    if not renames:
        return None
    work = name_columns(asker(request), found.uid, renames)
    if work is not None:
        return redirect("arrival", work.uid)
    found.refresh_from_db()
    if found.held is not None:
        return None
    said = "; ".join(f"“{old}” is now called “{new}” in the file" for new, old in renames.items())
    messages.success(request, f"{said}. Version {waiting.number} is shown now.")
    return redirect("table", found.uid)


@login_required
@require_POST
def make_current(request: HttpRequest, uid: str, number: int) -> HttpResponse:
    """Let reports show an older version again."""
    try:
        show_version(asker(request), uid, number)
        messages.success(request, f"Version {number} is the current one now; reports show it.")
    except YpsilError as problem:
        messages.warning(request, sentence_of(problem))
    return redirect("table", uid)


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def delete_version(request: HttpRequest, uid: str, number: int) -> HttpResponse:
    """Deleting for good asks first."""
    found = get_object_or_404(Version, table=_table(request, uid), number=number)
    if request.method == "POST":
        try:
            deleted(asker(request), uid, number)
            messages.success(request, f"Version {number} is deleted.")
        except YpsilError as problem:
            messages.warning(request, sentence_of(problem))
        return redirect("table", uid)
    return render(request, "gather/delete_version.html", {"table": found.table, "version": found})


@login_required
@require_POST
@once
def other_sheet(request: HttpRequest, uid: str, number: int) -> HttpResponse:
    """Take another sheet of a version's workbook in, as the next version."""
    try:
        arrival = take_other_sheet(asker(request), uid, number, request.POST.get("sheet", ""))
    except YpsilError as problem:
        messages.warning(request, sentence_of(problem))
        return redirect("table", uid)
    return redirect("arrival", arrival.uid)


@login_required
@require_safe
def original_file(request: HttpRequest, uid: str, number: int) -> HttpResponse:
    """The file as it was uploaded; always a download, never shown by the browser itself."""
    version = get_object_or_404(Version, table__uid=uid, table__owner=asker(request), number=number)
    return _download(content(version.original_id), version.file_name, "application/octet-stream")


@login_required
@require_safe
def prepared_file(request: HttpRequest, uid: str, ending: str) -> HttpResponse:
    """The prepared rows of a version as a file."""
    found = _table(request, uid)
    version = asked_version(request, found)
    if ending not in WRITERS or version is None:
        raise Http404
    preparation = prepared(found, version)
    if takes_long(preparation.row_count, len(preparation.columns), ending):
        return redirect("arrival", write_file(asker(request), uid, version.number, ending).uid)
    data = write_table(rows_of(preparation), ending, sheet=found.name)
    return _download(data, f"{found.name}.{ending}", MEDIA_TYPES[ending])


@login_required
@require_safe
def made_file(request: HttpRequest, uid: str) -> HttpResponse:
    """A file of prepared rows that was made in the background."""
    found = get_object_or_404(Arrival, owner=asker(request), uid=uid, state=Arrival.State.DONE, original__isnull=False)
    return _download(content(str(found.original_id)), found.file_name, MEDIA_TYPES[found.makes])


def _download(data: bytes, name: str, media_type: str) -> HttpResponse:
    response = HttpResponse(data, content_type=media_type)
    response.headers["Content-Disposition"] = content_disposition_header(True, name)
    return response
