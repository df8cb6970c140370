"""Words that are ticked beside a tile, put into themes of its table."""

from __future__ import annotations

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, JsonResponse
from django.shortcuts import get_object_or_404
from django.urls import reverse
from django.views.decorators.http import require_POST

from ypsil.core.errors import YpsilError
from ypsil.core.tiles import as_visual
from ypsil.web.compose import tile_themes
from ypsil.web.compose.services import reports_of
from ypsil.web.compose.views import json_body, page_data
from ypsil.web.gather.services import tables_of
from ypsil.web.middleware import message_data


@login_required
@require_POST
def put(request: HttpRequest, uid: str, tile_id: str) -> JsonResponse:
    """Put the ticked words into a theme and answer with the page drawn anew: charts of the themes follow."""
    found = get_object_or_404(reports_of(request.user), uid=uid)
    tile = as_visual(found.read().tile(tile_id))
    table = tables_of(request.user).filter(uid=tile.table).first() if tile else None
    if tile is None or table is None:
        raise Http404
    data = json_body(request)
    terms = [str(term) for term in data.get("terms") or []]
    try:
        said, work = tile_themes.put(tile, table, request.user, str(data.get("theme") or ""), terms)
    except YpsilError as problem:
        return JsonResponse(message_data(problem), status=422)
    if work is not None:
        return JsonResponse({"said": said, "arrival": reverse("arrival", args=[work.uid])})
    return JsonResponse(page_data(request, found) | {"said": f"{said}."})
