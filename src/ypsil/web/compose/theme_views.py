"""Words that are ticked beside a tile, put into themes of its table."""

from __future__ import annotations

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, JsonResponse
from django.urls import reverse
from django.views.decorators.http import require_POST

from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import asker
from ypsil.web.compose.actions.theme_words import WordsRequest, theme_words
from ypsil.web.compose.services import report_for
from ypsil.web.compose.views import json_body, page_data
from ypsil.web.middleware import message_data


@login_required
@require_POST
def put(request: HttpRequest, uid: str, tile_id: str) -> JsonResponse:
    """Put the ticked words into a theme and answer with the page drawn anew: charts of the themes follow."""
    report_for(asker(request), uid)
    data = json_body(request)
    terms = [str(term) for term in data.get("terms") or []]
    wanted = WordsRequest(tile_id, str(data.get("theme") or ""), terms)
    try:
        said, work = theme_words(asker(request), uid, wanted)
    except YpsilError as problem:
        return JsonResponse(message_data(problem), status=422)
    if work is not None:
        return JsonResponse({"said": said, "arrival": reverse("arrival", args=[work.uid])})
    return JsonResponse(page_data(request, report_for(asker(request), uid)) | {"said": f"{said}."})
