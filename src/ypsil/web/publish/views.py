"""Screens of Publish, the published page itself, its preview, and the files."""

from __future__ import annotations

from csp.constants import SELF
from django.conf import settings
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.db.models import QuerySet
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.safestring import mark_safe
from django.views.decorators.cache import cache_control
from django.views.decorators.http import require_http_methods, require_safe

from ypsil.core.reading import direction_of
from ypsil.web.accounts.services import asker
from ypsil.web.compose.services import bands_of, report_for, sources_of
from ypsil.web.conditional import is_unchanged
from ypsil.web.gather.services import picture_response, pictures_of
from ypsil.web.program import program_digest
from ypsil.web.publish import releases
from ypsil.web.publish.actions.choose_audience import choose_audience
from ypsil.web.publish.actions.show_at_once import show_at_once
from ypsil.web.publish.actions.show_changes import show_changes
from ypsil.web.publish.actions.withdraw_link import withdraw_link
from ypsil.web.publish.files import made_lately
from ypsil.web.publish.models import Publication, Release
from ypsil.web.publish.orders import FILES, PAPERS, SIZES
from ypsil.web.publish.releases import Made
from ypsil.web.publish.services import publication_of

# Named by what it says.
KEPT_FOR_GOOD = "public, max-age=31536000, immutable"
_WHO_SEES = {"me": "Only you can see the report now.", "link": "Anyone with the link can see the report now."}


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def publish(request: HttpRequest, uid: str) -> HttpResponse:
    report = report_for(asker(request), uid)
    if request.method == "POST":
        _change(request, uid)
        return redirect("publish", uid)
    publication = publication_of(report)
    address = request.build_absolute_uri(reverse("published", args=[publication.token]))
    shown = publication.latest() if publication.audience == Publication.Audience.LINK else None
    context = {
        "report": report,
        "title": str(report),
        "stage": "publish",
        "publication": publication,
        "address": address,
        "formats": FILES.values(),
        "sizes": SIZES,
        "papers": PAPERS,
        "bands": bands_of(report),
        "made": made_lately(report),
        "held": sources_of(report).held,
        "shown": shown,
        "is_behind": shown is not None and shown.revision != report.revision,
    }
    return render(request, "publish/publish.html", context)


def _change(request: HttpRequest, uid: str) -> None:
    if "withdraw" in request.POST:
        withdraw_link(asker(request), uid)
        messages.success(request, "The link was withdrawn. It leads nowhere now, and will not come back.")
        return
    if "show" in request.POST:
        show_changes(asker(request), uid)
        messages.success(request, "Readers see the report as it is now.")
        return
    if "at_once" in request.POST:
        wanted = request.POST["at_once"] == "1"
        show_at_once(asker(request), uid, wanted=wanted)
        said = "Readers see each change at once." if wanted else "Readers see changes when you say so."
        messages.success(request, said)
        return
    audience = request.POST.get("audience", "")
    if audience not in Publication.Audience.values:
        raise Http404
    choose_audience(asker(request), uid, audience)
    messages.success(request, _WHO_SEES[audience])


def _with_hosts(response: HttpResponse) -> HttpResponse:
    """Let a page of readers show what comes from the hosts that this installation allows."""
    allowed = {"media-src": settings.MEDIA_HOSTS, "frame-src": settings.FRAME_HOSTS}
    response._csp_update = {  # type: ignore[attr-defined]
        name: [SELF, *(f"https://{part}{host}" for host in hosts for part in ("", "*."))]
        for name, hosts in allowed.items()
        if hosts
    }
    return response


@require_safe
@cache_control(no_cache=True, private=True)
def published(request: HttpRequest, token: str) -> HttpResponse:
    """The page a stranger sees: the latest release. A link that was withdrawn and one that never was look the same."""
    publication = _open_publications().filter(token=token).first()
    if publication is None:
        return render(request, "publish/gone.html", status=404)
    found = publication.latest() or releases.release(publication, with_changes=True)
    releases.look_again(publication)
    tag = f'"{found.key[:32]}-{program_digest()[:8]}"'
    if is_unchanged(request.headers.get("If-None-Match"), tag):
        return HttpResponse(status=304, headers={"ETag": tag})
    language = getattr(found, "spoken", None) or found.document.get("language", "en")
    made = Made(found.title, found.body, [], found.layout, found.layout_digest, language)
    return _page(request, made, reverse("published-layout", args=[token, found.layout_digest]), tag)


@require_safe
def published_layout(request: HttpRequest, token: str, digest: str) -> HttpResponse:
    """The style sheet that puts the tiles of a release in their places."""
    releases_of = Release.objects.filter(publication__in=_open_publications().filter(token=token))
    text = releases_of.filter(layout_digest=digest).values_list("layout", flat=True).first()
    if text is None:
        raise Http404
    return HttpResponse(text, content_type="text/css", headers={"Cache-Control": KEPT_FOR_GOOD})


@require_safe
def published_picture(request: HttpRequest, token: str, digest: str) -> HttpResponse:
    """A picture of a published page, for whoever may see the page."""
    publication = _open_publications().filter(token=token).first()
    name = f"picture:{digest}"
    shown = publication and publication.latest()
    if not publication or not shown or name not in shown.pictures:
        raise Http404
    return picture_response(get_object_or_404(pictures_of(publication.report.owner), blob_id=digest))


def _open_publications() -> QuerySet[Publication]:
    shown = Publication.objects.filter(audience=Publication.Audience.LINK, report__rests_since=None)
    # The report's document is long, and readers are shown a release of it.
    return shown.select_related("report__owner").defer("report__document")


@login_required
@require_safe
def preview(request: HttpRequest, uid: str) -> HttpResponse:
    """The page as readers would see it now, for its author, published or not."""
    report = report_for(asker(request), uid)
    tag = f'"{sources_of(report).digest}"'
    if is_unchanged(request.headers.get("If-None-Match"), tag):
        return HttpResponse(status=304, headers={"ETag": tag})
    made = releases.make_page(report, report.read())
    return _page(request, made, reverse("layout", args=[uid, made.layout_digest]), tag)


def _page(request: HttpRequest, made: Made, layout: str, tag: str) -> HttpResponse:
    # The body was rendered by our own templates, which escape every text.
    context = {
        "title": made.title,
        "language": made.language,
        "direction": direction_of(made.language),
        "body": mark_safe(made.body),
        "layout": layout,
    }
    response = render(request, "publish/page.html", context)
    response.headers["ETag"] = tag
    return _with_hosts(response)
