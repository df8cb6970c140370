"""Files of a report: small ones at once, others made in turn, with how far they are."""

from __future__ import annotations

from django.contrib.auth.decorators import login_required
from django.db.models import QuerySet
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.http import content_disposition_header
from django.views.decorators.http import require_POST, require_safe

from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import asker
from ypsil.web.compose.services import report_for
from ypsil.web.publish.actions.order_file import order_file
from ypsil.web.publish.files import page_for, waiting_before
from ypsil.web.publish.models import MadeFile
from ypsil.web.publish.orders import FILES, Order


@login_required
@require_safe
def report_file(request: HttpRequest, uid: str, ending: str) -> HttpResponse:
    """The whole report, or a band or a tile of it, as one file, as is usual for its kind."""
    report = report_for(asker(request), uid)
    if ending not in FILES:
        raise Http404
    order = Order(ending, request.GET.get("band", "")[:16], request.GET.get("tile", "")[:16])
    try:
        content = order.format.page(page_for(report, order), order.delivery("2x"))
    except YpsilError:
        if order.band or order.tile:
            raise Http404 from None
        raise
    return _sent(content, order.format.media_type, order.name(report.read()))


def _sent(content: bytes, media_type: str, name: str) -> HttpResponse:
    response = HttpResponse(content, content_type=media_type)
    response.headers["Content-Disposition"] = content_disposition_header(True, name) or "attachment"
    # A file with a script of its own is never run as a page of this site.
    response.headers["X-Content-Type-Options"] = "nosniff"
    return response


@login_required
@require_POST
def ask_file(request: HttpRequest, uid: str) -> HttpResponse:
    """Take in how a file is wanted."""
    report = report_for(asker(request), uid)
    try:
        made = order_file(asker(request), uid, Order.of_form(request.POST, request.POST.getlist("sizes")))
    except YpsilError as problem:
        context = {"report": report, "title": str(report), "stage": "publish", "problem": problem.line()}
        return render(request, "publish/refused_file.html", context, status=422)
    return redirect("ordered", made.uid)


def _ordered(request: HttpRequest) -> QuerySet[MadeFile]:
    return MadeFile.objects.filter(owner=asker(request)).select_related("report")


@login_required
@require_safe
def ordered(request: HttpRequest, uid: str) -> HttpResponse:
    """How far a file is, and where it is got."""
    made = get_object_or_404(_ordered(request).defer("content"), uid=uid)
    context = {"made": made, "title": str(made.report), "report": made.report, "stage": "publish"}
    return render(request, "publish/ordered.html", context | {"before": waiting_before(made)})


@login_required
@require_safe
def ordered_state(request: HttpRequest, uid: str) -> JsonResponse:
    """How far a file is, for the page that waits for it."""
    made = get_object_or_404(_ordered(request).defer("content"), uid=uid)
    state = "reading" if made.state == MadeFile.State.MAKING else made.state
    return JsonResponse({"state": state, "part": made.part_done})


@login_required
@require_safe
def ordered_file(request: HttpRequest, uid: str) -> HttpResponse:
    """The file itself."""
    made = get_object_or_404(_ordered(request), uid=uid)
    if made.content is None:
        raise Http404
    return _sent(bytes(made.content), made.media_type, made.name)
