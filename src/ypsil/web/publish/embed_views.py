"""A report within the pages of other sites, and what these are told of it."""

from __future__ import annotations

import re
from urllib.parse import urlsplit

from csp.constants import NONE
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.urls import reverse
from django.utils.safestring import mark_safe
from django.views.decorators.clickjacking import xframe_options_exempt
from django.views.decorators.http import require_safe

from ypsil.core.reading import direction_of, has_control
from ypsil.web.conditional import is_unchanged
from ypsil.web.program import program_digest
from ypsil.web.publish.access import Verdict, verdict_on
from ypsil.web.publish.choosing import as_chosen
from ypsil.web.publish.embedding import ANY, can_embed, piece_of, snippet
from ypsil.web.publish.models import Publication, Release
from ypsil.web.publish.reader_views import asked_for, with_hosts
from ypsil.web.publish.releases import made_of

_PREVIEW_SIZE = (1200, 630)
_LINK = re.compile(r"/r/([\w-]{1,40})/")


def _open_to_all(request: HttpRequest, token: str) -> tuple[Publication, Release]:
    """Return a publication that anybody may read without showing anything of themselves, with what they see (404)."""
    publication = asked_for(token)
    is_shown = publication is not None and verdict_on(request, publication) is Verdict.SHOWN
    if publication is None or not is_shown or publication.audience != Publication.Audience.LINK or publication.password:
        raise Http404
    latest = publication.latest()
    if latest is None:
        raise Http404
    return publication, latest


@require_safe
@xframe_options_exempt
def embedded(request: HttpRequest, token: str, part: str = "") -> HttpResponse:
    """The report, or a band or a tile of it, for the sites that its author chose."""
    publication, found = _open_to_all(request, token)
    chosen = as_chosen(publication, found, request.GET)
    made = made_of(found) if chosen is None else chosen.page()
    piece = piece_of(made.body, part)
    if piece is None or not can_embed(publication):
        raise Http404
    tag = f'"{found.key[:32]}-{program_digest()[:8]}-{part}{f"-{chosen.digest}" if chosen else ""}"'
    if is_unchanged(request.headers.get("If-None-Match"), tag):
        return HttpResponse(status=304, headers={"ETag": tag})
    layout = reverse("published-layout", args=[token, made.layout_digest])
    context = {
        "title": found.title,
        "language": found.spoken,
        "direction": direction_of(found.spoken),
        "body": mark_safe(piece.body),
        "has_filters": has_control(piece.body),
        "layout": layout + (f"?{chosen.query}" if chosen and made.layout_digest != found.layout_digest else ""),
        "place": reverse("embedded-css", args=[token, part]) if piece.css else "",
        "live": reverse("live-page", args=[token]),
        "release": found.number,
        "address": reverse("published", args=[token]),
    }
    response = with_hosts(render(request, "publish/embedded.html", context))
    ancestors = ["*"] if ANY in publication.sites else publication.sites or [NONE]
    response._csp_update = {**getattr(response, "_csp_update", {}), "frame-ancestors": ancestors}  # type: ignore[attr-defined]
    response.headers["ETag"] = tag
    response.headers["Cache-Control"] = "no-cache, private"
    return response


@require_safe
def embedded_css(request: HttpRequest, token: str, part: str) -> HttpResponse:
    """The style sheet of a tile that stands alone."""
    piece = piece_of(_open_to_all(request, token)[1].body, part)
    if piece is None:
        raise Http404
    return HttpResponse(piece.css, content_type="text/css", headers={"Cache-Control": "no-cache"})


@require_safe
def published_preview(request: HttpRequest, token: str) -> HttpResponse:
    """The upper part of a report as a picture, as others show it who name its link."""
    _, found = _open_to_all(request, token)
    picture = Release.objects.values_list("picture", flat=True).get(pk=found.pk)
    if picture is None:
        raise Http404
    headers = {"Cache-Control": "public, max-age=300", "X-Content-Type-Options": "nosniff"}
    headers["Cross-Origin-Resource-Policy"] = "cross-origin"
    return HttpResponse(bytes(picture), content_type="image/jpeg", headers=headers)


@require_safe
def oembed(request: HttpRequest) -> HttpResponse:
    """Tell a site how a report is shown within its pages (oEmbed 1.0, 2.3.4.4)."""
    if request.GET.get("format", "json") != "json":
        return HttpResponse("Only format=json is answered.", status=501, content_type="text/plain; charset=utf-8")
    link = _LINK.fullmatch(urlsplit(request.GET.get("url", "")[:2_000]).path)
    if link is None:
        raise Http404
    publication, found = _open_to_all(request, link[1])
    if not can_embed(publication):
        raise Http404
    site = request.build_absolute_uri("/").rstrip("/")
    most = request.GET.get("maxwidth", "")
    wide = min(int(most[:5]) if most.isascii() and most.isdigit() and int(most[:5]) else 800, 1200)
    said = {
        "version": "1.0",
        "type": "rich",
        "title": found.title,
        "provider_name": "Ypsil",
        "provider_url": site,
        "html": snippet(publication, site, "", found.title),
        "width": wide,
        "height": round(wide * _PREVIEW_SIZE[1] / _PREVIEW_SIZE[0]),
        "thumbnail_url": site + reverse("published-preview", args=[publication.token]),
        "thumbnail_width": _PREVIEW_SIZE[0],
        "thumbnail_height": _PREVIEW_SIZE[1],
    }
    return JsonResponse(said, headers={"Access-Control-Allow-Origin": "*"})
