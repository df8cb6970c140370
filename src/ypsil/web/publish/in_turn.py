"""What takes long within a request is done a few at a time, in turn of whom it is for: pages as readers chose to see
them, by where readers come from, and files at one press, by who is signed in.

Whoever asks for thousands waits behind themselves; everybody else, and everything else, goes on.
"""

from __future__ import annotations

import re
from collections.abc import Awaitable, Callable
from contextlib import AsyncExitStack
from dataclasses import dataclass
from functools import cache
from typing import Any

from django.conf import settings
from django.http.cookie import parse_cookie
from django.template.loader import render_to_string

from ypsil.core.turns import TooMany, Turns
from ypsil.web.publish.access import place_of

Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]

_EMPTY_BODY: Message = {"type": "http.request", "body": b"", "more_body": False}
_POLICY = b"default-src 'none'; style-src 'self'; font-src 'self'; img-src 'self'; frame-ancestors 'none'"


@dataclass(frozen=True, slots=True)
class Kind:
    """Work that is done in turn: ``addresses`` are the paths, with their queries, that ask for it, ``who`` tells of a
    request whom it is for, ``busy`` is what the door says to have them come again after ``again_s`` seconds. What
    stands at an address ``within`` others' pages is shown without its query in place of that."""

    addresses: re.Pattern[str]
    who: Callable[[Message], str]
    busy: str
    again_s: int
    wait_s: float
    at_once: int = 2
    most_waiting: int = 500


def _place(scope: Message) -> str:
    return place_of((scope.get("client") or ("",))[0])


def _person(scope: Message) -> str:
    """Return by what somebody is signed in; who is not asks for no file."""
    said = dict(scope["headers"]).get(b"cookie", b"").decode("latin-1")
    return parse_cookie(said).get(settings.SESSION_COOKIE_NAME) or _place(scope)


@cache
def _door(verdict: str) -> bytes:
    return render_to_string("publish/door.html", {"verdict": verdict}).encode()


# What is made of a query: the page, parts of it within other sites, the style sheet of either.
CHOSEN = Kind(
    re.compile(r"/r/[\w-]{1,40}/(?:(?P<within>embed/(?:[^/]+/)?)|layout/[^/]+)?\?.+", re.DOTALL),
    _place,
    "busy",
    again_s=5,
    wait_s=10.0,
)
FILES = Kind(
    re.compile(r"/reports/[^/]+/files/[^/]+/(?:\?.*)?", re.DOTALL),
    _person,
    "files",
    again_s=30,
    wait_s=20.0,
)


class InTurn:
    """Lets a few pieces of work of a kind be done at once, whatever they cost; who waits too long is told so."""

    def __init__(self, application: Any, kind: Kind) -> None:
        self.application = application
        self.kind = kind
        self.turns = Turns(kind.at_once, kind.most_waiting, kind.wait_s)

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        asked = self._asked(scope)
        if asked is None:
            await self.application(scope, receive, send)
            return
        async with AsyncExitStack() as turn:
            try:
                await turn.enter_async_context(self.turns.taken(self.kind.who(scope)))
            except TooMany:
                if asked.groupdict().get("within"):
                    # It stands there as it is, and is chosen again by whoever looks at it.
                    await self.application({**scope, "query_string": b""}, receive, send)
                else:
                    await self._say_busy(send)
                return

            async def answer(message: Message) -> None:
                # Whoever is slow to take the answer holds nobody up.
                await turn.aclose()
                await send(message)

            await self.application(scope, _without_body(receive), answer)

    def _asked(self, scope: Message) -> re.Match[str] | None:
        if scope["type"] != "http" or scope["method"] not in ("GET", "HEAD"):
            return None
        query = scope.get("query_string", b"").decode("latin-1")
        return self.kind.addresses.fullmatch(f"{scope['path']}?{query}" if query else scope["path"])

    async def _say_busy(self, send: Send) -> None:
        body = _door(self.kind.busy)
        headers = [
            (b"content-type", b"text/html; charset=utf-8"),
            (b"content-length", str(len(body)).encode()),
            (b"content-security-policy", _POLICY),
            (b"cache-control", b"no-store"),
            (b"retry-after", str(self.kind.again_s).encode()),
            (b"referrer-policy", b"same-origin"),
            (b"x-content-type-options", b"nosniff"),
        ]
        await send({"type": "http.response.start", "status": 503, "headers": headers})
        await send({"type": "http.response.body", "body": body})


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
