"""A report shown band by band on a screen, with notes for whoever speaks in a second window."""

from __future__ import annotations

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import reverse
from django.utils.safestring import mark_safe
from django.views.decorators.http import require_safe

from ypsil.core.reading import direction_of, has_control
from ypsil.web.accounts.services import asker
from ypsil.web.compose.services import compose_view, report_for, sources_of
from ypsil.web.publish import releases
from ypsil.web.publish.choosing import chosen_by
from ypsil.web.publish.reader_views import with_hosts


@login_required
@require_safe
def present(request: HttpRequest, uid: str) -> HttpResponse:
    """The bands of a report as slides in the browser, as readers would see them now."""
    report = report_for(asker(request), uid)
    view = report.read()
    sources = sources_of(report, view)
    choices = chosen_by(request.GET, view, sources)
    made = releases.make_page(view, sources, has_numbers=False, choices=choices)
    context = {
        "report": report,
        "title": made.title,
        "language": made.language,
        "direction": direction_of(made.language),
        # The body was made by the core, which escapes every text.
        "body": mark_safe(made.body),
        "has_filters": has_control(made.body),
        "layout": reverse("layout", args=[uid, made.layout_digest]),
    }
    return with_hosts(render(request, "publish/present.html", context))


@login_required
@require_safe
def present_notes(request: HttpRequest, uid: str) -> HttpResponse:
    """What somebody who shows a report has before them: what each band says, and what its drawings show, as chosen."""
    report = report_for(asker(request), uid)
    view = report.read()
    sources = sources_of(report, view)
    page = compose_view(view, sources, for_readers=True, choices=chosen_by(request.GET, view, sources))
    bands = [
        {
            "id": band.band.id,
            "says": band.band.message or f"Part {number}",
            "shows": [one.scene.description for one in band.tiles if one.drawn.answer is not None and one.scene.name],
        }
        for number, band in enumerate(page.bands, 1)
        if band.tiles
    ]
    return render(request, "publish/notes.html", {"report": report, "title": str(report), "bands": bands})
