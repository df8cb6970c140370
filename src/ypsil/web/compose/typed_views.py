"""Requests about tiles that start from typed numbers."""

from __future__ import annotations

import json
from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, JsonResponse
from django.views.decorators.http import require_POST

from ypsil.core.drawing import scene_to_svg
from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import asker
from ypsil.web.compose import typed_tiles
from ypsil.web.compose.actions.keep_numbers import keep_numbers
from ypsil.web.compose.actions.type_numbers import type_numbers
from ypsil.web.compose.services import report_for
from ypsil.web.compose.views import json_body, page_data
from ypsil.web.gather.services import address_of
from ypsil.web.middleware import message_data


def _text(request: HttpRequest) -> str:
    return str(json_body(request).get("text", ""))[:200_000]


def _refused(problem: YpsilError) -> JsonResponse:
    return JsonResponse(message_data(problem), status=422)


@login_required
@require_POST
def start(request: HttpRequest, uid: str, band_id: str) -> JsonResponse:
    """Make a table of typed numbers and answer with the edit that adds its tile."""
    report_for(asker(request), uid)
    try:
        visual = str(json_body(request).get("visual", ""))[:40]
        tile = type_numbers(asker(request), uid, band_id, _text(request), visual)
    except YpsilError as problem:
        return _refused(problem)
    made: dict[str, Any] = json.loads(tile.model_dump_json(exclude={"id", "place"}))
    return JsonResponse({"edit": {"type": "add_tile", "band": band_id, "tile": made}})


@login_required
@require_POST
def draw(request: HttpRequest, uid: str, tile_id: str) -> JsonResponse:
    """Answer with the tile drawn from what is being typed; nothing is kept."""
    report = report_for(asker(request), uid)
    tile, _ = typed_tiles.typed_tile(asker(request), report, tile_id)
    try:
        view = typed_tiles.drawn(report, tile, _text(request))
    except YpsilError as problem:
        return _refused(problem)
    return JsonResponse({"svg": scene_to_svg(view.scene, label_id=f"tile-{tile.id}", address_of=address_of)})


@login_required
@require_POST
def turn(request: HttpRequest, uid: str, tile_id: str) -> JsonResponse:
    """Answer with the typed text, its rows and columns swapped."""
    typed_tiles.typed_tile(asker(request), report_for(asker(request), uid), tile_id)
    try:
        return JsonResponse({"text": typed_tiles.turn(_text(request))})
    except YpsilError as problem:
        return _refused(problem)


@login_required
@require_POST
def keep(request: HttpRequest, uid: str, tile_id: str) -> JsonResponse:
    """Keep what was typed and answer with the page drawn anew."""
    report_for(asker(request), uid)
    try:
        kept = keep_numbers(asker(request), uid, tile_id, _text(request))
    except YpsilError as problem:
        return _refused(problem)
    return JsonResponse(page_data(request, kept))
