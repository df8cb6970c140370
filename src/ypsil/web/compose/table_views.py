"""The way between tables and reports: the tables of a report, and a report begun with a table."""

from __future__ import annotations

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from ypsil.web.accounts.services import asker, once
from ypsil.web.compose.actions.draw_page import draw_page
from ypsil.web.compose.actions.show_table import show_table
from ypsil.web.compose.services import report_for, sources_of
from ypsil.web.gather.services import current_preparations, tables_of


@login_required
@require_POST
@once
def show(request: HttpRequest, table: str) -> HttpResponse:
    """Begin a report with a table, and open what can be shown of it; where a whole page of it is wanted, that."""
    if request.POST.get("what") == "page":
        return redirect("report", draw_page(asker(request), table).uid)
    made = show_table(asker(request), table)
    return redirect(f"{reverse('report', args=[made.uid])}?table={table}")


@login_required
@require_safe
def report_tables(request: HttpRequest, uid: str) -> HttpResponse:
    """The tables of a report, those it could use, and the way to a new one for it."""
    found = report_for(asker(request), uid)
    body = found.read()
    used = set(body.tables())
    tables = [table for table in tables_of(asker(request)) if table.current is not None]
    versions = current_preparations(tables)
    context = {
        "report": found,
        "title": body.title,
        "stage": "gather",
        "used": [(table, versions.get(table.uid)) for table in tables if table.uid in used],
        "others": [(table, versions.get(table.uid)) for table in tables if table.uid not in used],
        "held": sources_of(found, body).held,
    }
    return render(request, "compose/tables.html", context)
