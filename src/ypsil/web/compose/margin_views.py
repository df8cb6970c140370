"""The margin beside the page: the report's, a tile's, and what stands behind a tile."""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.urls import reverse
from django.utils.http import content_disposition_header
from django.utils.text import slugify
from django.views.decorators.http import require_safe

from ypsil.core.drawing.faces import lacking
from ypsil.core.drawing.signs import CATEGORIES
from ypsil.core.errors import YpsilError
from ypsil.core.proof.checks.missing_letters import said_of
from ypsil.core.reading import SHOWN_NUMBERS
from ypsil.core.render import context_of
from ypsil.core.report import ReportBody, VisualTile
from ypsil.core.report.amounts import lacks_unit
from ypsil.core.report.document import walk
from ypsil.core.report.dress import departures
from ypsil.core.report.sources import named_sources
from ypsil.core.tables.model import Column
from ypsil.core.tables.shown_names import in_words
from ypsil.core.text.contexts import Side
from ypsil.core.text.repeats import repeats
from ypsil.core.tiles import AnyTile, Context, TypedTile, as_picture, as_shape, as_text, as_told, as_visual
from ypsil.core.visuals.shared.summary import numbers_csv
from ypsil.web.accounts.services import asker
from ypsil.web.compose import figures, margin, standing
from ypsil.web.compose.dresses import dresses_of
from ypsil.web.compose.filtering import filter_context
from ypsil.web.compose.models import Report
from ypsil.web.compose.numbers_in_texts import numbers_shown, told_in
from ypsil.web.compose.pressed import not_shown
from ypsil.web.compose.render import numbers_of
from ypsil.web.compose.services import Sources, page_of, report_for, sources_of
from ypsil.web.compose.signs import sign_markup
from ypsil.web.compose.tile_themes import themes_beside
from ypsil.web.compose.told import told_context
from ypsil.web.compose.typed_tiles import typed_cells, typed_text
from ypsil.web.compose.word_lists import term_list, term_panel
from ypsil.web.gather.services import (
    current_preparation,
    pictures_of,
    profile_of,
    tables_of,
)

MOST_PICTURES = 60


@login_required
@require_safe
def report_margin(request: HttpRequest, uid: str) -> HttpResponse:
    """The margin with nothing chosen: where the report's data comes from."""
    found = report_for(asker(request), uid)
    return render(request, "compose/_margin_report.html", _sources_context(found, sources_of(found)))


def _sources_context(found: Report, sources: Sources) -> dict[str, Any]:
    uids = set(found.read().tables())
    tables = [table for table in tables_of(found.owner) if table.uid in uids]
    said = [tile.writes(Context()) for tile in found.read().tiles()]
    written = [one.text for one in said if one is not None and one.is_typed]
    body = found.read()
    versions = [(table, current_preparation(table)) for table in tables]
    return {
        "report": found,
        "fields": margin.report_fields(body),
        "page": standing.page_context(body),
        "own_pictures": [(kept.name, kept.label) for kept in pictures_of(found.owner)[:MOST_PICTURES]],
        **_dress_context(found, body),
        "used": [
            (table, version, _lacking(body, table.uid, profile_of(version).columns if version else ()))
            for table, version in versions
        ],
        "held": sources.held,
        "repeated": repeats(written),
    }


def _lacking(body: ReportBody, table: str, columns: Iterable[Column]) -> list[tuple[str, str]]:
    """Return the columns of a table that the page shows without their unit, each with what readers see it called."""
    asked = {
        part.column
        for tile in body.tiles()
        for one in tile.questions()
        if one.table == table
        for measure in one.question.measures
        for part in measure.parts()
        if part.stat not in ("count", "distinct")
    }
    return [(one.name, one.shown or in_words(one.name)) for one in columns if one.name in asked and lacks_unit(one)]


def _dress_context(found: Report, body: ReportBody) -> dict[str, Any]:
    """Return the house style that a report wears and where it departs from it; without one, those that it could."""
    shared = found.wears
    if shared is None:
        return {"dresses": [{"uid": one.uid, "name": str(one)} for one in dresses_of(found.owner)]}
    return {"dress": {"uid": shared.uid, "name": str(shared)}, "departs": departures(body, shared.read())}


@login_required
@require_safe
def tile_margin(request: HttpRequest, uid: str, tile_id: str) -> HttpResponse:
    """The margin of one tile."""
    found = report_for(asker(request), uid)
    document = found.read()
    tile = document.tile(tile_id)
    if tile is None:
        return report_margin(request, uid)
    sources = sources_of(found, document)
    context: dict[str, Any] = {
        "report": found,
        "tile": tile,
        "standing": standing.standing_of(document, [tile_id]),
        "to_point_to": pointed_to(sources, document, tile),
        "not_shown": not_shown(tile),
    }
    shown = as_visual(tile)
    if shown is not None:
        context |= _visual_context(found, document, shown, sources)
        return render(request, "compose/_margin_visual.html", context)
    typed = as_text(tile)
    if typed is not None:
        context |= _text_context(found, document, typed)
    labels = (
        {kept.name: kept.label for kept in pictures_of(found.owner)[:MOST_PICTURES]}
        if tile.names_sources or "picture" in tile.settings
        else {}
    )
    context["fields"], context["topics"] = margin.tile_fields(tile, labels)
    context |= _focus_context(tile) | _sign_context(tile) | _corners_context(tile)
    context |= filter_context(found, document, tile)
    told = as_told(tile)
    if told is not None:
        context |= told_context(found, document, told)
    return render(request, "compose/_margin_tile.html", context)


def _sign_context(tile: AnyTile) -> dict[str, Any]:
    """What a tile's icon looks like on its button, and the categories that others are found in."""
    return {"sign_drawing": sign_markup(getattr(tile, "sign", "")), "categories": CATEGORIES}


def _corners_context(tile: AnyTile) -> dict[str, Any]:
    """Where the corners of a polygon of one's own stand, in hundredths of its width and height."""
    shape = as_shape(tile)
    if shape is None or not shape.polygon():
        return {}
    points = [(round(x * 100, 1), round(y * 100, 1)) for x, y in shape.polygon()]
    return {"corners_json": json.dumps(shape.polygon()), "corner_points": points}


def _focus_context(tile: AnyTile) -> dict[str, Any]:
    """What is pressed to say which point of a picture stays in sight."""
    shown = as_picture(tile)
    if shown is None:
        return {}
    address = reverse("picture", args=[shown.picture.removeprefix("picture:")])
    return {"picture_address": address, "focus": (round(shown.across * 100), round(shown.down * 100))}


def _text_context(found: Report, document: ReportBody, tile: TypedTile) -> dict[str, Any]:
    """What its margin says of a text: its live figures, and the numbers in it that could be some."""
    tables = figures.tables_at_hand(found, document)
    context = context_of(document, {at_hand.uid: table for at_hand, table in tables})
    names = {at_hand.uid: at_hand.name for at_hand, _ in tables}
    font = context.font(tile.role)
    shown, more = numbers_shown(tile.plain)
    told = told_in(tile.plain)
    band_id = next((band.id for band in document.bands if tile.id in {one.id for one in walk(band.tiles)}), "")
    missing = lacking(tile.plain, font.family, font.weight).strip()
    return {
        "missing": said_of(missing) if missing else "",
        "figures": figures.figures_in(tile, context, names),
        "numbers": figures.numbers_typed(tile, tables, context.locale),
        "band_id": band_id,
        "told_in_text": [
            {
                "says": one.says,
                "label": f"Add {one.label}",
                "drawing": one.drawing,
                "edit": json.dumps({"type": "add_tile", "band": band_id, "tile": one.content}),
            }
            for one in told
        ],
        "told_count": len(told),
        "in_text": shown,
        "more_in_text": more,
    }


def pointed_to(sources: Sources, document: ReportBody, tile: AnyTile) -> list[tuple[int, str, bool, str]]:
    """Return the sources that a tile can point to: the number of each, what it is, whether it does, and the edit that
    changes that."""
    if tile.names_sources or tile.holds or tile.joins():
        return []
    offered = []
    for number, source in enumerate(named_sources(document, sources.tables), 1):
        if source.cite is not None:
            points = source.cite in tile.cites
            cites = [one for one in tile.cites if one != source.cite] if points else [*tile.cites, source.cite]
            changes = {"cites": [one.model_dump(exclude_defaults=True) for one in cites]}
            edit = {"type": "change_tile", "tile": tile.id, "changes": changes}
            offered.append((number, source.words, points, json.dumps(edit)))
    return offered


@login_required
@require_safe
def several_margin(request: HttpRequest, uid: str) -> HttpResponse:
    """The margin of several tiles."""
    found = report_for(asker(request), uid)
    document = found.read()
    ids = [one for one in request.GET.getlist("tile") if document.tile(one) is not None]
    if not ids:
        return report_margin(request, uid)
    return render(request, "compose/_margin_several.html", {"standing": standing.standing_of(document, ids)})


@login_required
@require_safe
def band_margin(request: HttpRequest, uid: str, band_id: str) -> HttpResponse:
    """The margin of a band: what it says, what it stands on, how much room it has."""
    found = report_for(asker(request), uid)
    document = found.read()
    band = document.band(band_id)
    if band is None:
        return report_margin(request, uid)
    pictures = {kept.name: kept.label for kept in pictures_of(found.owner)[:MOST_PICTURES]}
    context = standing.band_context(document, band, pictures)
    return render(request, "compose/_margin_band.html", {"report": found, **context})


@login_required
@require_safe
def tidied(request: HttpRequest, uid: str, band_id: str) -> HttpResponse:
    """Where the tiles of a band would stand if it were tidied, and how many of them would move."""
    document = report_for(asker(request), uid).read()
    band = document.band(band_id)
    if band is None:
        raise Http404
    frames = standing.tidied(document, band)
    return JsonResponse({"frames": [frame.model_dump() for frame, _ in frames], "moves": sum(has for _, has in frames)})


def _visual_context(found: Report, document: ReportBody, tile: VisualTile, sources: Sources) -> dict[str, Any]:
    page = page_of(found, sources)
    view = next(view for view in page.tiles() if view.tile.id == tile.id)
    table = tables_of(found.owner).filter(uid=tile.table).first()
    preparation = current_preparation(table) if table else None
    if table is None or preparation is None:
        return {"problem": view.drawn.problem}
    profile = profile_of(preparation)
    answer = view.drawn.answer
    asked = set(tile.question.columns())
    pictures = {kept.name: kept.label for kept in pictures_of(found.owner)}
    return {
        "problem": view.drawn.problem,
        "terms": term_list(tile, sources.tables[table.uid]) if tile.question.words and answer else None,
        "themes": themes_beside(tile, table, document),
        "table": table,
        "words": margin.sentence_words(tile, profile, answer),
        "offers": margin.offered_words(tile, profile),
        "typed": typed_cells(table),
        "typed_text": typed_text(table),
        "first_fields": margin.first_fields(tile, pictures),
        "topics": margin.topics(tile, pictures),
        "measured": [
            (one.name, one.shown or in_words(one.name), one.unit or "")
            for one in profile.columns
            if one.name in asked and one.kind == "number"
        ],
        "called": [(one.name, one.shown or in_words(one.name)) for one in profile.columns if one.name in asked],
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
@require_safe
def tile_term(request: HttpRequest, uid: str, tile_id: str) -> HttpResponse:
    """One term of a tile that asks per word: the answers with it, and what can be done with it."""
    found = report_for(asker(request), uid)
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
@require_safe
def tile_numbers(request: HttpRequest, uid: str, tile_id: str) -> HttpResponse:
    """The numbers behind a tile as a CSV file."""
    found = report_for(asker(request), uid)
    view = next((view for view in page_of(found).tiles() if view.tile.id == tile_id), None)
    answer = view.drawn.answer if view else None
    if view is None or answer is None:
        raise Http404
    response = HttpResponse(numbers_csv(answer), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = content_disposition_header(
        True, f"{slugify(view.scene.name)[:60] or 'numbers'}.csv"
    )
    return response
