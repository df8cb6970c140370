"""The table page's own addresses: its rows, its recipe, the forms of steps, completion while typing."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from django.contrib.auth.decorators import login_required
from django.core.exceptions import BadRequest
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from ypsil.core.errors import YpsilError
from ypsil.core.survey import SurveyItem, survey_items
from ypsil.core.tables.calculation import complete
from ypsil.core.tables.model import KINDS
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.steps.texts import WRITTEN
from ypsil.web.accounts.services import asker
from ypsil.web.gather import recipes
from ypsil.web.gather.actions.change_recipe import change_recipe as changed
from ypsil.web.gather.grid import COLUMNS_AT_ONCE, order, page, page_size
from ypsil.web.gather.models import Preparation, Table, Version
from ypsil.web.gather.preparing import base, columns_of, prepared, rows_after, rows_of
from ypsil.web.gather.services import table_for, tables_of
from ypsil.web.gather.step_forms import step_form
from ypsil.web.gather.table_page import KIND_WORDS, column_heads, margin_context
from ypsil.web.gather.views import asked_version, bad_request
from ypsil.web.json_bodies import json_object
from ypsil.web.whole_numbers import whole_number

_MOST_FILTERS = 40
LONGEST_SURVEY = 100_000


@login_required
@require_safe
def rows(request: HttpRequest, uid: str) -> JsonResponse:
    """Some rows of a version, in the order asked for; ``after`` shows the table after so many steps."""
    found = table_for(asker(request), uid)
    version = asked_version(request, found)
    if version is None:
        return JsonResponse({"total": 0, "rows": [], "columns": []})
    try:
        key, shown, heads = _shown(found, version, request.GET.get("after", ""))
    except YpsilError as problem:
        return bad_request(problem)
    names = shown.names
    asked = ((_column(field, names), value) for field, value in request.GET.dict().items())
    filters = [(name, value) for name, value in asked if name]
    positions = order(
        key,
        shown,
        sort=_column(request.GET.get("sort", ""), names),
        descending=request.GET.get("dir") == "desc",
        find=request.GET.get("find", "")[:200],
        filters=tuple(filters[:_MOST_FILTERS]),
    )
    start = _number(request.GET.get("start"), 0, len(positions))
    size = page_size(min(len(names), COLUMNS_AT_ONCE))
    count = _number(request.GET.get("count"), size, size)
    first = _number(request.GET.get("first"), 0, len(names))
    shown_rows = page(shown, positions, start, count, first)
    data: dict[str, Any] = {"total": len(positions), "of": shown.frame.height, "rows": shown_rows}
    if request.GET.get("columns"):
        data |= {"columns": heads[first : first + COLUMNS_AT_ONCE], "first": first, "column_count": len(names)}
    return JsonResponse(data)


def _number(text: str | None, default: int, most: int) -> int:
    number = whole_number(text)
    return default if number is None else min(number, most)


def _column(field: str, names: Sequence[str]) -> str:
    """Return the column that a field such as ``c3`` speaks of, or nothing."""
    place = whole_number(field[1:]) if field[:1] == "c" else None
    return names[place] if place is not None and place < len(names) else ""


def _shown(found: Table, version: Version, after: str) -> tuple[str, Rows, list[dict[str, Any]]]:
    recipe = found.read_recipe()
    place = whole_number(after)
    if place is not None and place < len(recipe.steps):
        shown, _ = rows_after(found, version, recipe, place)
        upto = recipe.model_copy(update={"steps": recipe.steps[:place]})
        heads = [
            {
                "name": name,
                "kind": field.kind,
                "kind_word": KIND_WORDS[field.kind],
                "unit": field.unit or "",
                "plain": True,
            }
            for name, field in shown.fields.items()
        ]
        return f"{base(version, recipe.reading).rows_blob_id}:{upto.digest()}", shown, heads
    preparation = prepared(found, version, recipe)
    return preparation.rows_blob_id, rows_of(preparation), column_heads(preparation)


@login_required
@require_POST
def change_recipe(request: HttpRequest, uid: str) -> JsonResponse:
    """One change of the recipe, as JSON; the reply holds the margin as it is then."""
    found = table_for(asker(request), uid)
    try:
        wanted = json_object(request.body)
    except BadRequest:
        wanted = None
    if wanted is None or found.current is None:
        return JsonResponse({"message": "That could not be understood. Load the page again."}, status=400)
    if wanted.pop("number", found.recipe_number) != found.recipe_number:
        said = "The steps were changed in another window; they are shown as they are now. Do it again if it still fits."
        return JsonResponse({"message": said, **_margin(request, found)}, status=409)
    try:
        said, work = changed(asker(request), uid, wanted)
    except YpsilError as problem:
        return bad_request(problem)
    if work is not None:
        return JsonResponse({"said": said, "arrival": reverse("arrival", args=[work.uid])})
    return JsonResponse({"said": said, **_margin(request, found)})


def _margin(request: HttpRequest, found: Table) -> dict[str, Any]:
    """Return the margin as it is now, for the page's script to put in."""
    found.refresh_from_db()
    assert found.current is not None
    preparation = prepared(found)
    context = margin_context(found, found.current, preparation)
    margin = render_to_string("gather/_margin.html", context, request)
    return {"margin": margin, "rows": preparation.row_count, "number": found.recipe_number}


@login_required
@require_safe
def form(request: HttpRequest, uid: str) -> HttpResponse:
    """The form of a step: a new one of a type, or the one that stands at a place."""
    found = table_for(asker(request), uid)
    assert found.current is not None
    recipe = found.read_recipe()
    at = request.GET.get("at", "")
    place = _number(at, len(recipe.steps), len(recipe.steps))
    rows_before, _ = rows_after(found, found.current, recipe, place)
    others = [one for one in tables_of(asker(request)) if one.pk != found.pk and one.current]
    given = {name: value for name, value in request.GET.dict().items() if name not in ("at", "type")}
    step = recipe.steps[place] if place < len(recipe.steps) else None
    try:
        context = step_form(step, request.GET.get("type", ""), rows_before, others, _columns_in, given)
    except YpsilError as problem:
        return HttpResponse(problem.line(), status=404)
    return render(request, "gather/_step_form.html", {**context, "table": found, "at": at})


def _columns_in(table: Table) -> list[str]:
    return [one.name for one in columns_of(prepared(table))]


@login_required
@require_safe
def completions(request: HttpRequest, uid: str) -> JsonResponse:
    """What could stand at the cursor of a calculation."""
    found = table_for(asker(request), uid)
    assert found.current is not None
    recipe = found.read_recipe()
    at = _number(request.GET.get("at"), len(recipe.steps), len(recipe.steps))
    before, _ = rows_after(found, found.current, recipe, at)
    text = request.GET.get("text", "")[:2000]
    cursor = _number(request.GET.get("cursor"), len(text), len(text))
    proposals = [
        {"insert": one.insert, "label": one.label, "what": one.what, "start": one.start, "end": one.end}
        for one in complete(text, cursor, before.fields)
    ]
    return JsonResponse({"proposals": proposals})


def _as_question(preparation: Preparation, name: str) -> SurveyItem | None:
    """Return what a column is as a question of a survey; nothing for tables longer than surveys are."""
    if preparation.row_count > LONGEST_SURVEY:
        return None
    items = survey_items(rows_of(preparation).frame, columns_of(preparation))
    return next((item for item in items if name in item.columns), None)


@login_required
@require_safe
def column(request: HttpRequest, uid: str) -> HttpResponse:
    """A column looked at closely: its facts, its commonest values, and what another kind would lose."""
    found = table_for(asker(request), uid)
    version = asked_version(request, found)
    assert version is not None
    preparation = prepared(found, version)
    chosen = next((one for one in columns_of(preparation) if one.name == request.GET.get("name")), None)
    if chosen is None:
        return HttpResponse("There is no such column any more.", status=404)
    kind = request.GET.get("kind", "")
    context: dict[str, Any] = {
        "column": chosen,
        "spread": preparation.spreads.get(chosen.name, {}),
        "head": next(head for head in column_heads(preparation) if head["name"] == chosen.name),
        "kinds": [(one, KIND_WORDS[one]) for one in KINDS],
        "kind": kind if kind in KINDS else chosen.kind,
        "row_count": preparation.row_count,
        "is_current": version.pk == found.current_id,
        "question": _as_question(preparation, chosen.name),
        "table": found,
        "is_written": chosen.kind in WRITTEN,
    }
    if context["kind"] != chosen.kind:
        unfit = recipes.kind_change(found, chosen.name, kind)
        step = {"type": "change_kind", "column": chosen.name, "kind": kind}
        context |= {
            "unfit": unfit[:30],
            "unfit_rows": sum(count for _, count in unfit),
            "unfit_more": max(0, len(unfit) - 30),
            "change": json.dumps({"action": "add", "step": step}),
        }
    return render(request, "gather/_column.html", context)
