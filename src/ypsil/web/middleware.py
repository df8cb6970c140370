"""What every answer has in common: a YpsilError becomes a page or JSON with its message, a private page is not kept."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render

from ypsil.core.errors import YpsilError
from ypsil.web.full_disk import SAID, give_back, is_disk_full


class PlainMessages:
    """Shows what happened, where and what to do; nothing of the view's work is kept."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, problem: Exception) -> HttpResponse | None:
        if is_disk_full(problem):
            give_back()
            return _full(request)
        if not isinstance(problem, YpsilError):
            return None
        if request.headers.get("accept", "").startswith("application/json"):
            return JsonResponse(message_data(problem), status=422)
        return render(request, "message.html", {"problem": problem}, status=422)


def _full(request: HttpRequest) -> HttpResponse:
    """Answer where the disk is full (RFC 4918, 11.5)."""
    if request.headers.get("accept", "").startswith("application/json"):
        return JsonResponse({"what": SAID, "where": "", "remedy": "", "message": SAID}, status=507)
    return render(request, "507.html", {"said": SAID}, status=507)


class PrivatePages:
    """Nothing that a signed-in person is shown is kept on the way or in the browser, unless its view says otherwise."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        reply = self.get_response(request)
        if not reply.has_header("Cache-Control") and request.user.is_authenticated:
            reply["Cache-Control"] = "private, no-store"
        return reply


def message_data(problem: YpsilError) -> dict[str, str]:
    """Return a problem as JSON data."""
    return {"what": problem.what, "where": problem.where, "remedy": problem.remedy, "message": sentence_of(problem)}


def sentence_of(problem: YpsilError) -> str:
    """Return a problem as a sentence with a capital letter and a full stop."""
    line = problem.line()
    return line[:1].upper() + line[1:] + ("" if line.endswith(".") else ".")


plain_messages = PlainMessages
private_pages = PrivatePages
