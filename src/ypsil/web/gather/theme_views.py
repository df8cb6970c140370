"""The page on which themes are made, and answers are read and coded."""

from __future__ import annotations

from functools import partial
from typing import Any

from django.contrib.auth.decorators import login_required
from django.core.exceptions import BadRequest
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_safe

from ypsil.core.errors import YpsilError
from ypsil.core.tables.theme_changes import theme_steps
from ypsil.web.accounts.services import asker
from ypsil.web.gather import themes
from ypsil.web.gather.actions.change_themes import change_themes
from ypsil.web.gather.models import Table
from ypsil.web.gather.recipe_log import can_step
from ypsil.web.gather.services import table_for
from ypsil.web.gather.views import bad_request
from ypsil.web.json_bodies import json_object
from ypsil.web.whole_numbers import whole_number

# Parts of the page that a change draws anew; what is being read stays where it is while answers are coded.
_PARTS = ("lists", "words", "queue", "answer")
LENGTHS = {"1": "Words", "2": "Of two words", "3": "Of three"}
_WHILE_CODING = ("lists", "words", "answer")


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def table_themes(request: HttpRequest, uid: str) -> HttpResponse:
    found = table_for(asker(request), uid)
    if found.current is None:
        return HttpResponse("This table has no rows yet.", status=404)
    if request.method == "POST":
        return _change(request, found)
    try:
        context = _context(found, request.GET.dict())
    except YpsilError as problem:
        return render(request, "message.html", {"problem": problem}, status=404)
    return render(request, "gather/themes.html", context)


@login_required
@require_safe
def part(request: HttpRequest, uid: str) -> HttpResponse:
    """The reading list, one answer of it, or the words of answers without a theme."""
    found = table_for(asker(request), uid)
    try:
        context = _context(found, request.GET.dict())
    except YpsilError as problem:
        return bad_request(problem)
    names = ("words",) if "words" in request.GET else ("answer",) if "key" in request.GET else ("queue", "answer")
    return JsonResponse(_parts(request, context, names))


def _context(found: Table, wanted: dict[str, str]) -> dict[str, Any]:
    desk = themes.ThemeDesk(found, of=wanted.get("of", ""), column=wanted.get("column", ""))
    carrying = desk.carrying
    lists = {themes.READ, themes.ALL, *(f"{themes.ABOUT}{theme.name}" for theme in desk.rules.themes)}
    show = wanted.get("show", "") if wanted.get("show") in lists else themes.UNREAD
    start = whole_number(wanted.get("start")) or 0
    listed, of_all = desk.listed(show, carrying, start)
    key = wanted.get("key") or (listed[0].key if listed else "")
    length = int(wanted["length"]) if wanted.get("length") in LENGTHS else 1
    undo, redo = can_step(found)
    return {
        "table": found,
        "desk": desk,
        "lines": desk.lines(carrying),
        "uncoded": desk.uncoded(carrying),
        # Counted only where the template lists them.
        "words": partial(desk.words, carrying, length),
        "length": length,
        "lengths": [(int(number), label) for number, label in LENGTHS.items()],
        "show": show,
        "about": show.removeprefix(themes.ABOUT) if show.startswith(themes.ABOUT) else "",
        "listed": listed,
        "of_all": of_all,
        "first": start + 1,
        "last": start + len(listed),
        "more_from": start + len(listed) if start + len(listed) < of_all else None,
        "answer": desk.answer(key) if key else None,
        "can_undo": undo,
        "can_redo": redo,
    }


def _parts(request: HttpRequest, context: dict[str, Any], names: tuple[str, ...]) -> dict[str, Any]:
    drawn = {name: render_to_string(f"gather/_theme_{name}.html", context, request) for name in names}
    return {"parts": drawn, "can_undo": context["can_undo"], "can_redo": context["can_redo"]}


def _change(request: HttpRequest, found: Table) -> JsonResponse:
    """One change of the themes, as JSON; the reply holds the parts of the page that changed."""
    try:
        wanted = json_object(request.body)
    except BadRequest:
        return JsonResponse({"message": "That could not be understood. Load the page again."}, status=400)
    try:
        said, work = change_themes(asker(request), found.uid, wanted)
        if work is not None:
            return JsonResponse({"said": said, "arrival": reverse("arrival", args=[work.uid])})
        found.refresh_from_db()
        seen = {name: str(wanted[name]) for name in ("of", "column", "show", "key", "length") if wanted.get(name)}
        if seen.get("of") not in [step.into for _, step in theme_steps(found.read_recipe())]:
            # The step is new, or was just taken back.
            seen.pop("of", None)
        context = _context(found, seen)
    except YpsilError as problem:
        return bad_request(problem)
    coding = wanted.get("do") in ("decide", "read", "unread")
    data = _parts(request, context, _WHILE_CODING if coding else _PARTS)
    return JsonResponse({"said": said, "of": context["desk"].of, **data})
