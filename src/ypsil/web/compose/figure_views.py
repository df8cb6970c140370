"""Requests about live figures: what is meant by some words, and how a figure is written."""

from __future__ import annotations

import json
from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, JsonResponse
from django.template.loader import render_to_string
from django.views.decorators.http import require_POST

from ypsil.core.errors import YpsilError
from ypsil.core.report.wanted import RULES
from ypsil.web.accounts.services import asker
from ypsil.web.compose import figures
from ypsil.web.compose.services import report_for
from ypsil.web.compose.views import json_body
from ypsil.web.middleware import message_data


@login_required
@require_POST
def wanted(request: HttpRequest, uid: str) -> JsonResponse:
    """Answer with the live figures that some words may mean, each with what was understood."""
    report = report_for(asker(request), uid)
    text = str(json_body(request).get("wanted", "")).strip()
    found = figures.figures_for(report, text) if text else []
    context = {"wanted": text, "found": found, "rules": RULES, "has_tables": figures.has_tables(report)}
    return JsonResponse({"html": render_to_string("compose/_figures.html", context)})


@login_required
@require_POST
def one(request: HttpRequest, uid: str) -> JsonResponse:
    """Answer with a live figure as it is with some changes: what it says, and its settings."""
    report = report_for(asker(request), uid)
    body: dict[str, Any] = json_body(request)
    try:
        figure = figures.figure_from(body.get("figure"), body.get("changes", {}))
        found = figures.offered(figure, report)
    except YpsilError as problem:
        return JsonResponse(message_data(problem), status=422)
    html = render_to_string(
        "compose/_figure.html", {"one": found, "figure": figure, "is_share": found.said.unit == "%"}
    )
    said = {"text": found.said.text, "problem": found.said.problem}
    return JsonResponse({"figure": json.loads(found.data), "said": said, "html": html})
