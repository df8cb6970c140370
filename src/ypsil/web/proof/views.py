"""The proof: a preview of exactly what a stranger will see, and the tiles that wait for data."""

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from ypsil.core.proof import findings_of
from ypsil.web.accounts.services import asker
from ypsil.web.compose.services import page_of, report_for, sources_of


@login_required
@require_safe
def proof(request: HttpRequest, uid: str) -> HttpResponse:
    report = report_for(asker(request), uid)
    sources = sources_of(report)
    page = page_of(report, sources)
    context = {
        "report": report,
        "title": page.report.title,
        "stage": "proof",
        "held": sources.held,
        "findings": findings_of(page),
    }
    return render(request, "proof/proof.html", context)
