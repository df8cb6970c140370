"""Templates of one's own: kept from a report or a band, as a file, from a file, taken away."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.text import slugify
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from ypsil.core.errors import YpsilError
from ypsil.core.templates import Keeping, template_file, wordings
from ypsil.core.templates.files import MAX_BYTES
from ypsil.web.accounts.services import asker, once
from ypsil.web.compose.actions.bring_template import bring_template
from ypsil.web.compose.actions.forget_template import forget_template
from ypsil.web.compose.actions.keep_template import keep_template
from ypsil.web.compose.gallery import subjects_shown
from ypsil.web.compose.own_templates import own_template
from ypsil.web.compose.services import report_for
from ypsil.web.middleware import sentence_of

_LONGEST_TITLE, _LONGEST_SAID, _LONGEST_ASKED = 80, 300, 200
_STAYS, _ASKS = "stays-", "asks-"


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
@once
def as_template(request: HttpRequest, uid: str) -> HttpResponse:
    """What stays in every report of a template, and what is asked anew; and the keeping of it."""
    report = report_for(asker(request), uid)
    body = report.read()
    given = request.POST if request.method == "POST" else request.GET
    band = given.get("band", "")[:16]
    problem = ""
    try:
        found = wordings(body, subjects_shown(asker(request), body), band)
    except YpsilError as refused:
        messages.warning(request, sentence_of(refused))
        return redirect("report", uid)
    title = " ".join(given.get("title", "").split())[:_LONGEST_TITLE]
    says = " ".join(given.get("says", "").split())[:_LONGEST_SAID]
    if request.method == "POST":
        stays = frozenset(one.tile for one in found if f"{_STAYS}{one.tile}" in given)
        asks = {one.tile: given.get(f"{_ASKS}{one.tile}", "").strip()[:_LONGEST_ASKED] for one in found}
        try:
            if not title:
                raise YpsilError("the template has no name", remedy="say what it is called")
            kept, made = keep_template(asker(request), uid, Keeping(title, says, band, stays, asks))
            messages.success(request, " ".join(["It is kept.", *(f"{one}." for one in made.left)]))
            asked = f"?table={made.table}" if made.table else ""
            return redirect(f"{reverse('template', args=[kept.name])}{asked}")
        except YpsilError as refused:
            problem = sentence_of(refused)
    message = next((one.message for one in body.bands if one.id == band), "")
    context = {
        "report": report,
        "band": band,
        "message": message,
        "title": title or (message if band else body.title)[:_LONGEST_TITLE],
        "says": says,
        "problem": problem,
        "wordings": [
            {
                "tile": one.tile,
                "says": one.says,
                "stays": f"{_STAYS}{one.tile}" in given if request.method == "POST" else one.stays,
                "asks": given.get(f"{_ASKS}{one.tile}", one.asks),
            }
            for one in found
        ],
    }
    return render(request, "compose/as_template.html", context, status=422 if problem else 200)


@login_required
@require_safe
def template_as_file(request: HttpRequest, name: str) -> HttpResponse:
    """One of one's own templates as a file, to be given to others."""
    template = own_template(asker(request), name)
    response = HttpResponse(template_file(template), content_type="application/json; charset=utf-8")
    called = slugify(template.title)[:60] or "template"
    response["Content-Disposition"] = f'attachment; filename="{called}.template.json"'
    return response


@login_required
@require_POST
@once
def bring(request: HttpRequest) -> HttpResponse:
    """Take in a template that somebody gave."""
    brought = request.FILES.get("template")
    try:
        if brought is None or isinstance(brought, list):
            raise YpsilError("no file was chosen", remedy="choose one that was kept from a template's page")
        kept = bring_template(asker(request), brought.read(MAX_BYTES + 1))
    except YpsilError as refused:
        messages.warning(request, sentence_of(refused))
        return redirect("gallery")
    messages.success(request, f"“{kept}” is among your templates.")
    return redirect("template", kept.name)


@login_required
@require_POST
def forget(request: HttpRequest, name: str) -> HttpResponse:
    """Take one of one's own templates away."""
    messages.success(request, f"The template “{forget_template(asker(request), name)}” is gone. Its reports stay.")
    return redirect("gallery")
