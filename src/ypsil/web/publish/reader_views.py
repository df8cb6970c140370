"""The published page itself, the doors before it, and its author's previews."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from urllib.parse import urlencode

from asgiref.sync import sync_to_async
from csp.constants import SELF
from django.conf import settings
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, HttpResponse, QueryDict, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.safestring import mark_safe
from django.views.decorators.http import require_POST, require_safe

from ypsil.core.reading import direction_of, has_control, heard, stilled
from ypsil.web.accounts.services import asker
from ypsil.web.compose.services import compose_view, layout_at_hand, report_for, sources_of
from ypsil.web.conditional import is_unchanged
from ypsil.web.events import event_stream
from ypsil.web.gather.services import picture_response, pictures_of
from ypsil.web.program import program_digest
from ypsil.web.publish import live, openings, releases
from ypsil.web.publish.access import Verdict, is_barred, is_right, knows_password, let_in, verdict_on
from ypsil.web.publish.choosing import LONGEST_QUERY, as_chosen, chosen_by, view_asked
from ypsil.web.publish.embedding import can_embed
from ypsil.web.publish.inviting import write_again
from ypsil.web.publish.models import Publication, Release
from ypsil.web.publish.releases import Made
from ypsil.web.publish.services import publication_of

_STATUSES = {Verdict.ENDED: 410, Verdict.PASSWORD: 403, Verdict.NAMED: 403}
# Named by what it says.
KEPT_FOR_GOOD = "public, max-age=31536000, immutable"


def with_hosts(response: HttpResponse) -> HttpResponse:
    """Let a page of readers show what comes from the hosts that this installation allows."""
    allowed = {"media-src": settings.MEDIA_HOSTS, "frame-src": settings.FRAME_HOSTS}
    response._csp_update = {  # type: ignore[attr-defined]
        name: [SELF, *(f"https://{part}{host}" for host in hosts for part in ("", "*."))]
        for name, hosts in allowed.items()
        if hosts
    }
    return response


def asked_for(token: str) -> Publication | None:
    """Return the publication of a link. The report's document is long, and readers are shown a release of it."""
    shown = Publication.objects.filter(token=token, report__rests_since=None).select_related("report__owner")
    return shown.defer("report__document").first()


def _shown(request: HttpRequest, token: str) -> Publication:
    """Return the publication of a link for whoever may read it; for others nothing is there (404)."""
    publication = asked_for(token)
    if publication is None or verdict_on(request, publication) is not Verdict.SHOWN:
        raise Http404
    return publication


def _door(request: HttpRequest, status: int, *, retry_after: str = "", **context: Any) -> HttpResponse:
    """Return what somebody sees who may not read a report, or not yet; ``retry_after`` is in seconds."""
    response = render(request, "publish/door.html", context, status=status)
    response.headers["Cache-Control"] = "no-store"
    if retry_after:
        response.headers["Retry-After"] = retry_after
    return response


def _nothing(request: HttpRequest) -> HttpResponse:
    return render(request, "publish/gone.html", status=404)


def _read(request: HttpRequest, token: str, show: Callable[[Publication], HttpResponse | None]) -> HttpResponse:
    """Show a publication to whoever may read it, and to others why they may not; a link that was withdrawn, one that
    never was, and what is not there look the same."""
    publication = asked_for(token)
    verdict = Verdict.GONE if publication is None else verdict_on(request, publication)
    if publication is None or verdict is Verdict.GONE:
        return _nothing(request)
    if verdict is not Verdict.SHOWN:
        return _door(
            request,
            _STATUSES[verdict],
            token=token,
            last_day=publication.last_day,
            verdict=verdict.name.lower(),
            view=view_asked(request.GET),
        )
    return _cached(shown, publication) if (shown := show(publication)) is not None else _nothing(request)


@require_safe
def published(request: HttpRequest, token: str) -> HttpResponse:
    """The page a reader sees: the latest release."""

    def show(publication: Publication) -> HttpResponse:
        if openings.is_opening(request.headers.get("Sec-Fetch-Dest")):
            openings.count(publication.pk)
        return _latest(request, publication)

    return _read(request, token, show)


def _cached(response: HttpResponse, publication: Publication) -> HttpResponse:
    """Let a page for everybody be asked for anew each time; one that is not for everybody be kept nowhere."""
    is_for_all = publication.audience == Publication.Audience.LINK and not publication.password
    response.headers["Cache-Control"] = "no-cache, private" if is_for_all else "no-store, private"
    return response


def _latest(request: HttpRequest, publication: Publication) -> HttpResponse:
    token = publication.token
    found = publication.latest() or releases.release(publication, with_changes=True)
    releases.look_again(publication)
    # Said by the page's script, which asks again should the window become narrow.
    is_wide = request.headers.get("X-Window") == "wide"
    chosen = as_chosen(publication, found, request.GET, is_wide=is_wide)
    tag = f'"{found.key[:32]}-{program_digest()[:8]}{f"-{chosen.digest}" if chosen else ""}"'
    if is_unchanged(request.headers.get("If-None-Match"), tag):
        return HttpResponse(status=304, headers={"ETag": tag})
    made = releases.made_of(found)
    layout = reverse("published-layout", args=[token, found.layout_digest])
    if chosen is not None:
        made = chosen.page()
        if made.layout_digest != found.layout_digest:
            layout = f"{reverse('published-layout', args=[token, made.layout_digest])}?{chosen.query}"
    site = request.build_absolute_uri("/").rstrip("/")
    more = {
        "live": reverse("live-page", args=[token]),
        "release": found.number,
        "said": found.said,
        "moves": publication.moves,
    }
    more |= {"address": site + reverse("published", args=[token])}
    if publication.audience == Publication.Audience.LINK and not publication.password:
        more |= {"picture": site + reverse("published-preview", args=[token])}
    if can_embed(publication):
        more |= {"oembed": f"{site}{reverse('oembed')}?{urlencode({'url': more['address']})}"}
    return _page(request, made, layout, tag, **more)


@require_safe
def published_layout(request: HttpRequest, token: str, digest: str) -> HttpResponse:
    """The style sheet that puts the tiles of a release in their places."""
    publication = _shown(request, token)
    releases_of = Release.objects.filter(publication=publication)
    text = releases_of.filter(layout_digest=digest).values_list("layout", flat=True).first()
    if text is None:
        text = layout_at_hand(digest) or _layout_as_chosen(publication, request, digest)
    return HttpResponse(text, content_type="text/css", headers={"Cache-Control": KEPT_FOR_GOOD})


def _layout_as_chosen(publication: Publication, request: HttpRequest, digest: str) -> str:
    """Return the style sheet of a page as somebody chose to see it (404)."""
    latest = publication.latest()
    chosen = latest and as_chosen(publication, latest, request.GET)
    made = chosen.page() if chosen else None
    if made is None or made.layout_digest != digest:
        raise Http404
    return made.layout


@require_safe
def published_picture(request: HttpRequest, token: str, digest: str) -> HttpResponse:
    """A picture of a published page, for whoever may see the page."""
    publication = _shown(request, token)
    name = f"picture:{digest}"
    # Only which pictures they have: the pages themselves are long.
    releases_of = publication.releases.order_by("-number").values_list("pictures", "kept_as")
    if not any(name in pictures for place, (pictures, kept_as) in enumerate(releases_of) if not place or kept_as):
        raise Http404
    kept = get_object_or_404(pictures_of(publication.report.owner), blob_id=digest)
    return picture_response(kept, is_small="small" in request.GET)


@require_safe
async def live_page(request: HttpRequest, token: str) -> StreamingHttpResponse:
    """Server-sent events: the number of the newest release, whenever there is another."""
    publication = await sync_to_async(_shown)(request, token)
    return event_stream(live.releases.events(publication.pk))


@require_safe
def kept_state(request: HttpRequest, token: str, number: int) -> HttpResponse:
    """A state of a report that its author kept, for whoever may read the report."""

    def show(publication: Publication) -> HttpResponse | None:
        found = publication.releases.filter(number=number).exclude(kept_as="").first()
        if found is None:
            return None
        # Its pictures are found at the link that there is now. Its numbers stay as they are, whatever is chosen.
        body = stilled(found.body.replace(f"/r/{found.kept_token}/", f"/r/{token}/"))
        made = replace(releases.made_of(found), title=f"{found.title}: {found.kept_as}", body=body)
        layout = reverse("published-layout", args=[token, found.layout_digest])
        tag = f'"{found.key[:32]}-{program_digest()[:8]}-kept"'
        return _page(request, made, layout, tag, kept_as=found.kept_as)

    return _read(request, token, show)


@require_safe
def come(request: HttpRequest, token: str, key: str) -> HttpResponse:
    """Let somebody in who comes by the link that only they were sent."""
    publication = asked_for(token)
    invited = publication and publication.invited.filter(key=key).first()
    if publication is None or not publication.is_open or not invited:
        return _nothing(request)
    response = redirect("published", token)
    let_in(response, request, invited)
    response.headers["Cache-Control"] = "no-store"
    return response


@require_POST
def ask_for_link(request: HttpRequest, token: str) -> HttpResponse:
    """Send somebody who is named their link again; whether anybody is named is said to nobody."""
    publication = asked_for(token)
    if publication is None or publication.audience != Publication.Audience.NAMED:
        return _nothing(request)
    write_again(publication, request.POST.get("address", "")[:254], request.build_absolute_uri("/").rstrip("/"))
    return _door(request, 200, token=token, verdict="sent")


@require_POST
def give_password(request: HttpRequest, token: str) -> HttpResponse:
    """Let somebody in who knows the password; who gives many wrong ones has to wait."""
    publication = asked_for(token)
    if publication is None or not publication.is_open or not publication.password:
        return _nothing(request)
    if is_barred(request, publication):
        return _door(request, 429, retry_after="900", token=token, verdict="password", is_barred=True)
    view = view_asked(QueryDict(request.POST.get("view", "")[:LONGEST_QUERY]))
    if not is_right(request, publication, request.POST.get("password", "")[:200]):
        return _door(request, 403, token=token, verdict="password", is_wrong=True, view=view)
    response = redirect(reverse("published", args=[token]) + (f"?{view}" if view else ""))
    knows_password(response, request, publication)
    response.headers["Cache-Control"] = "no-store"
    return response


@login_required
@require_safe
def preview(request: HttpRequest, uid: str) -> HttpResponse:
    """The page as readers would see it now, for its author, published or not."""
    report = report_for(asker(request), uid)
    view = report.read()
    sources = sources_of(report, view)
    choices = chosen_by(request.GET, view, sources)
    said = f"{sources.digest} {choices.query()} {sorted(choices.problems.items())}"
    tag = f'"{hashlib.sha256(said.encode()).hexdigest()}"'
    if is_unchanged(request.headers.get("If-None-Match"), tag):
        return HttpResponse(status=304, headers={"ETag": tag})
    lets_copy = publication_of(report).lets_copy
    made = releases.make_page(view, sources, has_numbers=lets_copy, choices=choices)
    return _page(request, made, reverse("layout", args=[uid, made.layout_digest]), tag)


@login_required
@require_safe
def as_others(request: HttpRequest, uid: str) -> HttpResponse:
    """What others get of a report: strangers, people who are named, a phone, paper, and those who listen."""
    report = report_for(asker(request), uid)
    publication = publication_of(report)
    page = compose_view(report.read(), sources_of(report), for_readers=True)
    context = {
        "report": report,
        "title": str(report),
        "stage": "publish",
        "publication": publication,
        "heard": [one for one in heard(page) if publication.lets_copy or one.kind != "Button"],
    }
    return render(request, "publish/as_others.html", context)


def _page(request: HttpRequest, made: Made, layout: str, tag: str, **more: Any) -> HttpResponse:
    # The body was rendered by our own templates, which escape every text.
    context = {
        "title": made.title,
        "language": made.language,
        "direction": direction_of(made.language),
        "body": mark_safe(made.body),
        "has_filters": has_control(made.body),
        "layout": layout,
        **more,
    }
    response = render(request, "publish/page.html", context)
    response.headers["ETag"] = tag
    return with_hosts(response)
