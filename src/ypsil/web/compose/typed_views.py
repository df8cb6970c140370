"""Requests about tiles that start from typed numbers."""

from __future__ import annotations

import json
from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, JsonResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_POST

from ypsil.core.drawing import scene_to_svg
from ypsil.core.errors import YpsilError
from ypsil.core.report import VisualTile
from ypsil.core.tiles import as_visual
from ypsil.web.compose import typed_tiles
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import reports_of
from ypsil.web.compose.views import json_body, page_data
from ypsil.web.gather.models import Table
from ypsil.web.gather.pictures import address_of
from ypsil.web.gather.services import tables_of
from ypsil.web.middleware import message_data


def _report(request: HttpRequest, uid: str) -> Report:
    return get_object_or_404(reports_of(request.user), uid=uid)


def _text(request: HttpRequest) -> str:
    return str(json_body(request).get("text", ""))[:200_000]


def _typed(request: HttpRequest, report: Report, tile_id: str) -> tuple[VisualTile, Table]:
    tile = as_visual(report.read().tile(tile_id))
    if tile is None:
        raise Http404
    table = get_object_or_404(tables_of(request.user), uid=tile.table)
    if typed_tiles.typed_text(table) is None:
        raise Http404
    return tile, table


def _refused(problem: YpsilError) -> JsonResponse:
    return JsonResponse(message_data(problem), status=422)


@login_required
@require_POST
def start(request: HttpRequest, uid: str, band_id: str) -> JsonResponse:
    """Make a table of typed numbers and answer with the edit that adds its tile."""
    report = _report(request, uid)
    if report.read().band(band_id) is None:
        raise Http404
    try:
        tile = typed_tiles.start(request.user, report, _text(request))  # type: ignore[arg-type]
    except YpsilError as problem:
        return _refused(problem)
    made: dict[str, Any] = json.loads(tile.model_dump_json(exclude={"id", "place"}))
    return JsonResponse({"edit": {"type": "add_tile", "band": band_id, "tile": made}})


@login_required
@require_POST
def draw(request: HttpRequest, uid: str, tile_id: str) -> JsonResponse:
    """Answer with the tile drawn from what is being typed; nothing is kept."""
    report = _report(request, uid)
    tile, _ = _typed(request, report, tile_id)
    try:
        view = typed_tiles.drawn(report, tile, _text(request))
    except YpsilError as problem:
        return _refused(problem)
    return JsonResponse({"svg": scene_to_svg(view.scene, label_id=f"tile-{tile.id}", address_of=address_of)})


@login_required
@require_POST
def turn(request: HttpRequest, uid: str, tile_id: str) -> JsonResponse:
    """Answer with the typed text, its rows and columns swapped."""
    _typed(request, _report(request, uid), tile_id)
    try:
        return JsonResponse({"text": typed_tiles.turn(_text(request))})
    except YpsilError as problem:
        return _refused(problem)


@login_required
@require_POST
def keep(request: HttpRequest, uid: str, tile_id: str) -> JsonResponse:
    """Keep what was typed and answer with the page drawn anew."""
    report = _report(request, uid)
    tile, table = _typed(request, report, tile_id)
    try:
        kept = typed_tiles.keep(request.user, report, tile, table, _text(request))  # type: ignore[arg-type]
    except YpsilError as problem:
        return _refused(problem)
    return JsonResponse(page_data(request, kept))
