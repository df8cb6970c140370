"""The style of a report as a file of design tokens, and from such a file or a picture."""

from __future__ import annotations

import json

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST, require_safe

from ypsil.core.drawing.picture_files import MAX_BYTES
from ypsil.core.errors import YpsilError
from ypsil.core.style.tokens import tokens_of
from ypsil.web.accounts.services import asker
from ypsil.web.compose.actions.take_style import take_style
from ypsil.web.compose.services import report_for
from ypsil.web.middleware import sentence_of


@login_required
@require_safe
def style_tokens(request: HttpRequest, uid: str) -> HttpResponse:
    """The style of a report, to be used elsewhere."""
    body = report_for(asker(request), uid).read()
    said = json.dumps(tokens_of(body.style, body.cards), indent=2, ensure_ascii=False)
    response = HttpResponse(said, content_type="application/design-tokens+json; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="style.tokens.json"'
    return response


@login_required
@require_POST
def bring_style(request: HttpRequest, uid: str) -> HttpResponse:
    """Dress a report in the style of a file; what of it has no place here is said."""
    report_for(asker(request), uid)
    brought = request.FILES.get("style")
    try:
        if brought is None or isinstance(brought, list):
            raise YpsilError("no file was chosen", remedy="choose one with design tokens, or a picture")
        notes = take_style(asker(request), uid, brought.read(MAX_BYTES + 1), brought.name or "")
        messages.success(request, " ".join(["The report wears the style of the file; undo takes it off.", *notes[:5]]))
    except YpsilError as refused:
        messages.warning(request, sentence_of(refused))
    return redirect("report", uid)
