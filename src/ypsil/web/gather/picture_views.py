"""Requests about pictures that people bring."""

from __future__ import annotations

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_POST, require_safe

from ypsil.core.errors import UnreadableFile, YpsilError
from ypsil.web.accounts.services import asker
from ypsil.web.gather.actions.bring_picture import bring_picture
from ypsil.web.gather.pictures import picture_response, pictures_of
from ypsil.web.middleware import message_data


@login_required
@require_POST
def bring(request: HttpRequest) -> JsonResponse:
    """Keep a picture and answer with its name; 422 for what is none."""
    files = request.FILES.getlist("file")
    try:
        if not files:
            raise UnreadableFile("no picture was chosen", remedy="choose one")
        kept = bring_picture(asker(request), files[0].read(), files[0].name or "")
    except YpsilError as problem:
        return JsonResponse(message_data(problem), status=422)
    return JsonResponse({"name": kept.name, "label": kept.label, "aspect": kept.width / kept.height})


@login_required
@require_safe
def picture(request: HttpRequest, digest: str) -> HttpResponse:
    """A picture, for its owner."""
    kept = get_object_or_404(pictures_of(asker(request)), blob_id=digest)
    return picture_response(kept, is_small="small" in request.GET)
