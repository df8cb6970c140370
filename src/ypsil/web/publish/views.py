"""Screens of Publish, the published page itself, its preview, and the files."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.db.models import QuerySet
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.http import content_disposition_header
from django.utils.text import slugify
from django.views.decorators.cache import cache_control
from django.views.decorators.http import require_GET, require_http_methods

from ypsil.core.drawing.fills import AddressOf
from ypsil.core.export import page_to_pdf, page_to_png, page_to_svg
from ypsil.core.export.page import heading_levels
from ypsil.web.compose.models import Report
from ypsil.web.compose.render import page_markup
from ypsil.web.compose.services import narrow_drawings, page_of, picture_in, reports_of, sources_of
from ypsil.web.gather.picture_views import picture_response
from ypsil.web.gather.pictures import address_of as own_address
from ypsil.web.publish.models import Publication
from ypsil.web.publish.services import publication_of, set_audience, withdraw_link

MAKERS = {
    "svg": ("image/svg+xml", lambda page: page_to_svg(page).encode()),
    "png": ("image/png", page_to_png),
    "pdf": ("application/pdf", page_to_pdf),
}


@login_required
@require_http_methods(["GET", "POST"])
def publish(request: HttpRequest, uid: str) -> HttpResponse:
    report = get_object_or_404(reports_of(request.user), uid=uid)
    if request.method == "POST":
        _change(request, report)
        return redirect("publish", uid)
    publication = publication_of(report)
    address = request.build_absolute_uri(reverse("published", args=[publication.token]))
    context = {
        "report": report,
        "title": str(report),
        "stage": "publish",
        "publication": publication,
        "address": address,
        "formats": [("pdf", "PDF, tagged, one page"), ("png", "PNG, for slides and messages"), ("svg", "SVG, vector")],
        "held": sources_of(report).held,
    }
    return render(request, "publish/publish.html", context)


def _change(request: HttpRequest, report: Report) -> None:
    if "withdraw" in request.POST:
        withdraw_link(report)
        messages.success(request, "The link was withdrawn. It leads nowhere now, and will not come back.")
        return
    audience = request.POST.get("audience", "")
    if audience not in Publication.Audience.values:
        raise Http404
    set_audience(report, audience)
    said = {"me": "Only you can see the report now.", "link": "Anyone with the link can see the report now."}
    messages.success(request, said[audience])


@require_GET
@cache_control(no_cache=True, private=True)
def published(request: HttpRequest, token: str) -> HttpResponse:
    """The page a stranger sees. A link that was withdrawn and one that never was look the same."""
    publication = _open_publications().filter(token=token).first()
    if publication is None:
        return render(request, "publish/gone.html", status=404)
    return _page_response(
        request,
        publication.report,
        address_of=lambda picture: reverse("published-picture", args=[token, picture.digest]),
    )


@require_GET
def published_picture(request: HttpRequest, token: str, digest: str) -> HttpResponse:
    """A picture of a published page, for whoever may see the page."""
    publication = _open_publications().filter(token=token).first()
    found = publication and picture_in(publication.report, f"picture:{digest}")
    if not found:
        raise Http404
    return picture_response(found)


def _open_publications() -> QuerySet[Publication]:
    return Publication.objects.select_related("report").filter(audience=Publication.Audience.LINK)


@login_required
@require_GET
def preview(request: HttpRequest, uid: str) -> HttpResponse:
    """The same page, for its author, published or not."""
    return _page_response(request, get_object_or_404(reports_of(request.user), uid=uid))


def _page_response(request: HttpRequest, report: Report, *, address_of: AddressOf = own_address) -> HttpResponse:
    """The page; an unchanged one is answered with 304, without drawing anything."""
    sources = sources_of(report)
    tag = f'"{sources.digest}"'
    if request.headers.get("If-None-Match") == tag:
        return HttpResponse(status=304, headers={"ETag": tag})
    page = page_of(report, sources)
    context = {
        "title": page.report.title,
        "bands": page_markup(page, narrow_drawings(page, sources), address_of=address_of),
        "has_title": bool(heading_levels(page)),
    }
    response = render(request, "publish/page.html", context)
    response.headers["ETag"] = tag
    return response


@login_required
@require_GET
def report_file(request: HttpRequest, uid: str, ending: str) -> HttpResponse:
    """The whole report as one file."""
    report = get_object_or_404(reports_of(request.user), uid=uid)
    if ending not in MAKERS:
        raise Http404
    content_type, make = MAKERS[ending]
    response = HttpResponse(make(page_of(report)), content_type=content_type)
    name = f"{slugify(str(report)) or 'report'}.{ending}"
    response.headers["Content-Disposition"] = content_disposition_header(True, name) or "attachment"
    return response
