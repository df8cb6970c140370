"""A report out of a text that is pasted: looked at paragraph by paragraph, then made."""

from __future__ import annotations

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import asker, once
from ypsil.web.compose.actions.outline_text import outline_text
from ypsil.web.compose.outlines import MOST_LETTERS, NOTHING, Part, parts_of
from ypsil.web.middleware import sentence_of

_TAKEN = "take-"


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
@once
def from_text(request: HttpRequest) -> HttpResponse:
    """The text, its paragraphs with what could show each, and the report that is made of them."""
    text, title = request.POST.get("text", ""), request.POST.get("title", "")[:200]
    problem = ""
    parts: list[Part] = []
    if request.method == "POST":
        try:
            if request.POST.get("do") == "make":
                chosen = {
                    int(place): str(value)
                    for key, value in request.POST.items()
                    if key.startswith(_TAKEN) and (place := key.removeprefix(_TAKEN)).isdecimal() and len(place) < 5
                }
                return redirect("report", outline_text(asker(request), title, text, chosen).uid)
            parts = parts_of(text)
        except YpsilError as refused:
            problem = sentence_of(refused)
    context: dict[str, object] = {"text": text, "title": title, "parts": parts, "problem": problem, "nothing": NOTHING}
    context["most"] = MOST_LETTERS
    return render(request, "compose/from_text.html", context, status=422 if problem else 200)
