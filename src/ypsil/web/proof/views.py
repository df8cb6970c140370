"""The proof: a preview of exactly what a stranger will see, and the tiles that wait for data."""

from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_GET

from ypsil.web.accounts.services import asker
from ypsil.web.compose.services import page_of, reports_of, sources_of


@login_required
@require_GET
def proof(request: HttpRequest, uid: str) -> HttpResponse:
    report = get_object_or_404(reports_of(asker(request)), uid=uid)
    sources = sources_of(report)
    page = page_of(report, sources)
    context = {
        "report": report,
        "title": page.report.title,
        "stage": "proof",
        "held": sources.held,
        "problems": [problem for _, problem in page.problems()],
    }
    return render(request, "proof/proof.html", context)
