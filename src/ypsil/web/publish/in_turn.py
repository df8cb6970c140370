"""Pages as readers chose to see them are made a few at a time, in turn of where readers come from.

Whoever asks for thousands of addresses waits behind themselves; everybody else, and everything else, goes on.
"""

from __future__ import annotations

import re
from collections.abc import Awaitable, Callable
from contextlib import AsyncExitStack
from functools import cache
from typing import Any

from django.template.loader import render_to_string

from ypsil.core.turns import TooMany, Turns
from ypsil.web.publish.access import place_of

Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]

# What is made of a query: the page, parts of it within other sites, the style sheet of either.
_MADE = re.compile(r"/r/[\w-]{1,40}/(?:(?P<within>embed/(?:[^/]+/)?)|layout/[^/]+)?")
_EMPTY_BODY: Message = {"type": "http.request", "body": b"", "more_body": False}
_AGAIN_S = b"5"
_POLICY = b"default-src 'none'; style-src 'self'; font-src 'self'; img-src 'self'; frame-ancestors 'none'"


class InTurn:
    """Lets two such pages be made at once, whatever they cost; who waits longer than ten seconds is told so."""

    def __init__(self, application: Any, turns: Turns | None = None) -> None:
        self.application = application
        self.turns = turns or Turns(at_once=2, most_waiting=500, wait_s=10.0)

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        is_asking = scope["type"] == "http" and scope["method"] in ("GET", "HEAD") and scope.get("query_string")
        made = _MADE.fullmatch(scope["path"]) if is_asking else None
        if made is None:
            await self.application(scope, receive, send)
            return
        async with AsyncExitStack() as turn:
            try:
                await turn.enter_async_context(self.turns.taken(place_of((scope.get("client") or ("",))[0])))
            except TooMany:
                if made["within"]:
                    # It stands there as it is, and is chosen again by whoever looks at it.
                    await self.application({**scope, "query_string": b""}, receive, send)
                else:
                    await _say_busy(send)
                return

            async def answer(message: Message) -> None:
                # Whoever is slow to take the answer holds nobody up.
                await turn.aclose()
                await send(message)

            await self.application(scope, _without_body(receive), answer)


def _without_body(receive: Receive) -> Receive:
    """Return what tells Django of no body: one that never comes would hold the others up, and it says nothing (RFC
    9110, 9.3.1)."""
    first = [_EMPTY_BODY]

    async def heard() -> Message:
        if first:
            return first.pop()
        while (message := await receive())["type"] != "http.disconnect":
            pass
        return message

    return heard


async def _say_busy(send: Send) -> None:
    body = _busy()
    headers = [
        (b"content-type", b"text/html; charset=utf-8"),
        (b"content-length", str(len(body)).encode()),
        (b"content-security-policy", _POLICY),
        (b"cache-control", b"no-store"),
        (b"retry-after", _AGAIN_S),
        (b"referrer-policy", b"same-origin"),
        (b"x-content-type-options", b"nosniff"),
    ]
    await send({"type": "http.response.start", "status": 503, "headers": headers})
    await send({"type": "http.response.body", "body": body})


@cache
def _busy() -> bytes:
    return render_to_string("publish/door.html", {"verdict": "busy"}).encode()
