"""Screens of Publish."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods

from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import asker
from ypsil.web.compose.services import parts_of, report_for, sources_of
from ypsil.web.publish import openings
from ypsil.web.publish.changing import change
from ypsil.web.publish.embedding import can_embed, snippet
from ypsil.web.publish.files import made_lately
from ypsil.web.publish.orders import FILES, PAPERS, SIZES
from ypsil.web.publish.services import publication_of


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def publish(request: HttpRequest, uid: str) -> HttpResponse:
    report = report_for(asker(request), uid)
    problem = ""
    if request.method == "POST":
        try:
            messages.success(request, change(asker(request), uid, request.POST, site_of(request)))
            return redirect("publish", uid)
        except YpsilError as refused:
            problem = refused.line()
    publication = publication_of(report)
    shown = publication.latest() if publication.is_open else None
    part = request.GET.get("part", "")[:16]
    everything, lately = openings.openings_of(publication)
    context = {
        "report": report,
        "title": str(report),
        "stage": "publish",
        "problem": problem,
        "typed": request.POST if problem else {},
        "publication": publication,
        "address": request.build_absolute_uri(reverse("published", args=[publication.token])),
        "has_filters": any(tile.chooses() is not None for tile in report.read().tiles()),
        "invited": list(publication.invited.order_by("address")),
        "kept": list(publication.releases.exclude(kept_as="").defer("body", "document").order_by("-made")),
        "parts": parts_of(report),
        "part": part,
        "snippet": snippet(publication, site_of(request), part, str(report)) if can_embed(publication) else "",
        "opened": everything,
        "opened_lately": lately,
        "formats": FILES.values(),
        "sizes": SIZES,
        "papers": PAPERS,
        "made": made_lately(report),
        "held": sources_of(report).held,
        "shown": shown,
        "is_behind": shown is not None and shown.revision != report.revision,
    }
    return render(request, "publish/publish.html", context, status=422 if problem else 200)


def site_of(request: HttpRequest) -> str:
    """Return the address of this installation, as the request came to it."""
    return request.build_absolute_uri("/").rstrip("/")
