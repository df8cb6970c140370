"""Screens of Compose: the desk, the page editor and what it asks for."""

from __future__ import annotations

import json
from typing import Any

from django.contrib.auth.decorators import login_required
from django.core.exceptions import BadRequest
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import timezone
from django.utils.http import content_disposition_header
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from ypsil.core.drawing.icons import find_icons
from ypsil.core.errors import YpsilError
from ypsil.core.report import ReportBody, VisualTile
from ypsil.core.report.suggest import PURPOSES, Suggestion, suggest
from ypsil.core.text.contexts import Side
from ypsil.core.text.repeats import repeats
from ypsil.core.tiles import as_visual, offered
from ypsil.core.visuals.shared.summary import numbers_csv
from ypsil.web.accounts.services import asker
from ypsil.web.compose import edits, margin
from ypsil.web.compose.actions.edit_report import EditRequest, edit_report
from ypsil.web.compose.actions.make_report import make_report
from ypsil.web.compose.actions.redo_change import redo_change
from ypsil.web.compose.actions.undo_change import undo_change
from ypsil.web.compose.layouts import layout_at_hand, layout_of
from ypsil.web.compose.log import reach_of
from ypsil.web.compose.miniatures import miniatures_of
from ypsil.web.compose.models import Report
from ypsil.web.compose.patches import page_patch
from ypsil.web.compose.render import SHOWN_NUMBERS, numbers_of, page_markup
from ypsil.web.compose.services import Sources, page_of, report_for, reports_of, sources_of
from ypsil.web.compose.thumbnails import suggestion_drawing
from ypsil.web.compose.tile_themes import themes_beside
from ypsil.web.compose.typed_tiles import EMPTY_CELLS, typed_cells, typed_text
from ypsil.web.compose.word_lists import term_list, term_panel
from ypsil.web.gather.services import (
    Table,
    current_preparation,
    current_preparations,
    pictures_of,
    profile_of,
    report_table,
    table_states,
    tables_of,
)
from ypsil.web.middleware import message_data, sentence_of

SHOWN_SUGGESTIONS = 9
# A survey has many questions, and each a few figures of its own.
SHOWN_ANSWERS = 36
SHOWN_UNFITTING = 3
# How much better a suggestion counts that is about a table in use, and how much less the next of the same table.
_IN_USE, _NEXT = 0.35, 0.05
SHOWN_ICONS = 60
KEPT_FOR_GOOD = "private, max-age=31536000, immutable"
SHOWN_PICTURES = 24


@login_required
@require_GET
def desk(request: HttpRequest) -> HttpResponse:
    person = asker(request)
    tables = list(tables_of(person))
    versions = current_preparations(tables)
    found = list(reports_of(person).select_related("owner", "publication", "miniature").prefetch_related("uses"))
    miniatures = miniatures_of(found, table_states(tables))
    reports = [
        {
            "report": report,
            "miniature": miniatures[report.pk],
            "audience": getattr(getattr(report, "publication", None), "audience", "me"),
        }
        for report in found
    ]
    shown = [(table, versions.get(table.uid)) for table in tables]
    return render(request, "compose/desk.html", {"reports": reports, "tables": shown})


@login_required
@require_http_methods(["GET", "POST"])
def new_report(request: HttpRequest) -> HttpResponse:
    problem = ""
    title = request.POST.get("title", "")
    if request.method == "POST":
        try:
            return redirect("report", make_report(asker(request), title).uid)
        except YpsilError as refused:
            problem = sentence_of(refused)
    context = {"problem": problem, "title": title}
    return render(request, "compose/new_report.html", context, status=422 if problem else 200)


def _report(request: HttpRequest, uid: str) -> Report:
    return report_for(asker(request), uid)


@login_required
@require_GET
def report(request: HttpRequest, uid: str) -> HttpResponse:
    context = _page_context(request, _report(request, uid))
    return render(request, "compose/report.html", context | {"bands": page_markup(context["composed"])})


def _page_context(request: HttpRequest, found: Report) -> dict[str, Any]:
    sources = sources_of(found)
    page = page_of(found, sources)
    reach = reach_of(found, asker(request))
    return {
        "report": found,
        "title": page.report.title,
        "composed": page,
        "rungs": page.bands,
        "layout": reverse("layout", args=[found.uid, layout_of(page)[0]]),
        "held": sources.held,
        "can_undo": bool(reach.undo),
        "can_redo": bool(reach.redo),
        "saved": _saved_at(found),
        "stage": "compose",
    }


def _saved_at(found: Report) -> str:
    return f"Saved {timezone.localtime(found.changed):%H:%M}"


@login_required
@require_GET
def layout(request: HttpRequest, uid: str, digest: str) -> HttpResponse:
    """The style sheet of a layout of a report. One that is no longer at hand is made anew, of the report as it is."""
    found = _report(request, uid)
    text = layout_at_hand(digest)
    if text is None:
        now, text = layout_of(page_of(found))
        if now != digest:
            return HttpResponse(text, content_type="text/css", headers={"Cache-Control": "no-store"})
    return HttpResponse(text, content_type="text/css", headers={"Cache-Control": KEPT_FOR_GOOD})


@login_required
@require_POST
def edit(request: HttpRequest, uid: str) -> JsonResponse:
    """Make one edit: ``{"base": revision, "edit": {...}, "id": "...", "spell": "..."}``; 409 when it is stale, 422 when
    it does not fit. What has an id is made once, however often it is sent."""
    # What is not there for somebody is not, whatever else is wrong with what they send.
    report_for(asker(request), uid)
    data = json_body(request)
    if not isinstance(data.get("base"), int):
        raise BadRequest("base is missing")
    client, spell = (str(data.get(name, ""))[:40] for name in ("id", "spell"))
    try:
        changed = edit_report(asker(request), uid, EditRequest(data.get("edit"), data["base"], client, spell))
    except edits.StaleEdit as problem:
        said = message_data(problem) | {"mine": problem.mine}
        return JsonResponse(said | page_data(request, _report(request, uid), data.get("known")), status=409)
    return JsonResponse(page_data(request, changed, data.get("known")))


@login_required
@require_GET
def token(request: HttpRequest, uid: str) -> JsonResponse:
    """The token that edits are sent with; it changes when somebody signs in again."""
    _report(request, uid)
    reply = JsonResponse({"token": get_token(request)})
    reply["Cache-Control"] = "no-store"
    return reply


def json_body(request: HttpRequest) -> dict[str, Any]:
    try:
        data = json.loads(request.body)
    except ValueError:
        raise BadRequest("the body is not JSON") from None
    if not isinstance(data, dict):
        raise BadRequest("the body is not an object")
    return data


@login_required
@require_POST
def undo(request: HttpRequest, uid: str) -> JsonResponse:
    return _stepped(request, undo_change(asker(request), uid))


@login_required
@require_POST
def redo(request: HttpRequest, uid: str) -> JsonResponse:
    return _stepped(request, redo_change(asker(request), uid))


def _stepped(request: HttpRequest, step: edits.Step) -> JsonResponse:
    known = json_body(request).get("known") if request.content_type == "application/json" else None
    return JsonResponse(page_data(request, step.report, known) | {"notice": step.notice})


def page_data(request: HttpRequest, found: Report, known: Any = None) -> dict[str, Any]:
    """Return the page after an edit: all of it, or for whoever tells which tiles they show what is new of it."""
    context = _page_context(request, found)
    if isinstance(known, dict):
        held = render_to_string("compose/_held.html", context, request)
        shown: dict[str, Any] = {"patch": page_patch(context["composed"], known, held)}
    else:
        context["bands"] = page_markup(context["composed"])
        shown = {"page": render_to_string("compose/_page.html", context, request)}
    return {
        "revision": found.revision,
        "saved": context["saved"],
        "can_undo": context["can_undo"],
        "can_redo": context["can_redo"],
        "title": context["title"],
        "language": context["composed"].report.language,
        "layout": context["layout"],
        **shown,
        "ladder": render_to_string("compose/_ladder.html", context, request),
    }


@login_required
@require_GET
def report_margin(request: HttpRequest, uid: str) -> HttpResponse:
    """The margin with nothing chosen: where the report's data comes from."""
    found = _report(request, uid)
    return render(request, "compose/_margin_report.html", _sources_context(found, sources_of(found)))


def _sources_context(found: Report, sources: Sources) -> dict[str, Any]:
    uids = set(found.read().tables())
    tables = [table for table in tables_of(found.owner) if table.uid in uids]
    said = [tile.writes("") for tile in found.read().tiles()]
    written = [one.text for one in said if one is not None and one.is_typed]
    body = found.read()
    return {
        "report": found,
        "fields": margin.report_fields(body),
        "used": [(table, current_preparation(table)) for table in tables],
        "held": sources.held,
        "repeated": repeats(written),
    }


@login_required
@require_GET
def tile_margin(request: HttpRequest, uid: str, tile_id: str) -> HttpResponse:
    """The margin of one tile."""
    found = _report(request, uid)
    document = found.read()
    tile = document.tile(tile_id)
    if tile is None:
        return report_margin(request, uid)
    context: dict[str, Any] = {"report": found, "tile": tile}
    if not tile.waits_for():
        context["duplicate"] = margin.duplicate_json(document, tile.id)
    shown = as_visual(tile)
    if shown is not None:
        return render(request, "compose/_margin_visual.html", context | _visual_context(found, document, shown))
    return render(request, "compose/_margin_tile.html", context | {"fields": margin.tile_fields(tile)})


def _visual_context(found: Report, document: ReportBody, tile: VisualTile) -> dict[str, Any]:
    sources = sources_of(found, document)
    page = page_of(found, sources)
    view = next(view for view in page.tiles() if view.tile.id == tile.id)
    table = tables_of(found.owner).filter(uid=tile.table).first()
    preparation = current_preparation(table) if table else None
    if table is None or preparation is None:
        return {"problem": view.drawn.problem}
    profile = profile_of(preparation)
    answer = view.drawn.answer
    return {
        "problem": view.drawn.problem,
        "terms": term_list(tile, sources.tables[table.uid]) if tile.question.words and answer else None,
        "themes": themes_beside(tile, table, document),
        "table": table,
        "words": margin.sentence_words(tile, profile, answer),
        "offers": margin.offered_words(tile, profile),
        "typed": typed_cells(table),
        "typed_text": typed_text(table),
        "groups": margin.grouped_fields(tile, {kept.name: kept.label for kept in pictures_of(found.owner)}),
        "names": margin.names_in(answer) if answer else [],
        "places": margin.groups_in(answer) if answer else [],
        "lost_note": margin.lost_note(tile, view.scene) if answer else "",
        "looks": margin.looks_for(tile, document),
        "more_rows": max(0, answer.height - SHOWN_NUMBERS) if answer else 0,
        "options_json": margin.all_options_json(tile),
        "description": view.scene.description,
        "hints": view.scene.hints,
        "numbers": numbers_of(answer),
        "notes": answer.notes if answer else (),
        "base": answer.base if answer else None,
    }


@login_required
@require_GET
def tile_term(request: HttpRequest, uid: str, tile_id: str) -> HttpResponse:
    """One term of a tile that asks per word: the answers with it, and what can be done with it."""
    found = _report(request, uid)
    document = found.read()
    tile = as_visual(document.tile(tile_id))
    if tile is None or not tile.question.words:
        raise Http404
    table = sources_of(found, document).tables.get(tile.table)
    if table is None:
        raise Http404
    by: Side = "before" if request.GET.get("by") == "before" else "after"
    try:
        panel = term_panel(tile, table, request.GET.get("term", ""), by, document.style)
    except YpsilError as problem:
        return render(request, "compose/_term.html", {"problem": problem.line()}, status=422)
    return render(request, "compose/_term.html", {"panel": panel, "tile": tile})


@login_required
@require_GET
def tile_numbers(request: HttpRequest, uid: str, tile_id: str) -> HttpResponse:
    """The numbers behind a tile as a CSV file."""
    found = _report(request, uid)
    view = next((view for view in page_of(found).tiles() if view.tile.id == tile_id), None)
    answer = view.drawn.answer if view else None
    if view is None or answer is None:
        raise Http404
    response = HttpResponse(numbers_csv(answer), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = content_disposition_header(
        True, f"{slugify(view.scene.name)[:60] or 'numbers'}.csv"
    )
    return response


@login_required
@require_GET
def choose(request: HttpRequest, uid: str, band_id: str) -> HttpResponse:
    """ "What should the reader see?": purposes, and for one of them the fitting visuals, of one table or all."""
    found = _report(request, uid)
    tables = [table for table in tables_of(asker(request)) if table.current is not None]
    chosen = next((table for table in tables if table.uid == request.GET.get("table")), None)
    purpose = request.GET.get("purpose", "")
    context: dict[str, Any] = {"report": found, "band_id": band_id, "purposes": PURPOSES, "purpose": purpose}
    if purpose == "explain in words":
        context["offers"] = [
            (offer, json.dumps({"type": "add_tile", "band": band_id, "tile": {"type": name, **offer.content}}))
            for name, offer in offered()
        ]
    elif purpose == "a few numbers":
        context["empty_cells"] = EMPTY_CELLS
    elif purpose in PURPOSES:
        used = set(found.read().tables())
        context["suggestions"] = _suggestions([chosen] if chosen else tables, used, band_id, purpose)
        context |= {"tables": tables, "chosen": chosen}
    context["has_tables"] = bool(tables)
    return render(request, "compose/_choose.html", context)


@login_required
@require_GET
def icons(request: HttpRequest) -> HttpResponse:
    """The shipped icons that a search finds, the first of very many; where asked, one's own pictures before them."""
    sought = request.GET.get("q", "").strip()
    found = find_icons(sought)
    own = pictures_of(asker(request)).filter(label__icontains=sought) if "pictures" in request.GET else None
    context = {
        "icons": found[:SHOWN_ICONS],
        "more": max(0, len(found) - SHOWN_ICONS),
        "none": "none" in request.GET,
        "pictures": [] if own is None else own[:SHOWN_PICTURES],
        "shapes": margin.plain_shapes(sought) if "shapes" in request.GET else [],
    }
    return render(request, "compose/_icons.html", context)


def _suggestions(tables: list[Table], used: set[str], band_id: str, purpose: Any) -> list[dict[str, Any]]:
    """Return what tables offer for a purpose: of several first those in use, where none is the one that came last."""
    found: list[tuple[Table, Suggestion, float]] = []
    if len(tables) > 1 and not used:
        used = {max(tables, key=lambda table: table.current.created if table.current else table.created).uid}
    for table in tables:
        preparation = current_preparation(table)
        if preparation is not None:
            found_table = report_table(table, preparation)
            suggested = suggest(purpose, table.uid, found_table, profile_of(preparation))
            in_use = _IN_USE if table.uid in used else 0.0
            # The first of another table says more than the ninth of one.
            found += [(table, one, one.score + in_use - _NEXT * rank) for rank, one in enumerate(suggested)]
    found.sort(key=lambda one: -one[2])
    most = SHOWN_ANSWERS if purpose == "what people answered" else SHOWN_SUGGESTIONS
    fitting = [one for one in found if one[1].fits][:most]
    unfitting = [one for one in found if not one[1].fits][:SHOWN_UNFITTING]
    return [
        {
            "table": table,
            "suggestion": one,
            "drawing": suggestion_drawing(one) if one.fits else "",
            "edit": json.dumps(
                {
                    "type": "add_tile",
                    "band": band_id,
                    "tile": one.tile.model_dump(mode="json", exclude={"id", "place"}),
                }
            ),
        }
        for table, one, _ in fitting + unfitting
    ]
