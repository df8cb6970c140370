"""The outbox of the demonstration: what a mail server would have sent."""

from __future__ import annotations

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from ypsil.web.outbox.services import is_mail_kept, kept_letters


@require_safe
def outbox(request: HttpRequest) -> HttpResponse:
    """Show the letters that were written. Whoever reads them can open other people's accounts, so that there is such a
    page only in the demonstration; elsewhere nothing is there."""
    if not (settings.DEMO and is_mail_kept()):
        raise Http404
    reply = render(request, "outbox/outbox.html", {"letters": kept_letters()})
    reply["Cache-Control"] = "no-store"
    return reply
