"""A page that many people read is made by Django once, and from then on handed out before Django is asked.

What is handed out is what Django answered, headers and all, for as long as the same release is the latest.
"""

from __future__ import annotations

import asyncio
import re
from collections.abc import Awaitable, Callable
from dataclasses import dataclass
from typing import Any

from django.db import DatabaseError, connection
from django.utils import timezone

from ypsil.core.cache import Cache
from ypsil.web.conditional import is_unchanged
from ypsil.web.publish import openings

Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Headers = list[tuple[bytes, bytes]]
_Key = tuple[object, ...]

_PAGE = re.compile(r"/r/([\w-]{1,40})/")
_LATEST = """
SELECT latest.id, page.looked_at, page.id FROM publish_publication page JOIN publish_release latest
ON latest.publication_id = page.id WHERE page.token = %s AND page.audience = 'link' AND page.password = ''
AND (page.ends IS NULL OR page.ends > %s) ORDER BY latest.number DESC LIMIT 1
"""


_WRITE_EVERY_S = 2.0
_OF_THE_BODY = (b"content-length", b"content-type", b"content-encoding")


@dataclass(frozen=True, slots=True)
class Answer:
    """What Django answered."""

    headers: Headers
    body: bytes
    tag: bytes

    @property
    def unchanged(self) -> Headers:
        """The headers of the answer that nothing has changed."""
        return [(name, value) for name, value in self.headers if name not in _OF_THE_BODY]


class ReadersGate:
    """Hands out published pages; everything else, and each page the first time, goes on to Django."""

    def __init__(self, application: Any, most_bytes: int = 64 << 20) -> None:
        self.application = application
        self.answers: Cache[_Key, Answer] = Cache("published pages", most_bytes, lambda one: len(one.body))
        self._making: dict[_Key, asyncio.Event] = {}
        self._lookups = _Lookups()
        self._writing: asyncio.Task[None] | None = None

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        page = _PAGE.fullmatch(scope["path"]) if scope["type"] == "http" and scope["method"] == "GET" else None
        # What somebody chose is for Django to read.
        is_plain = page is not None and not scope.get("query_string")
        found_release = await self._lookups.latest(page[1]) if page and is_plain else None
        if page is None or found_release is None:
            await self.application(scope, receive, send)
            if page is not None:
                self._write_down()
            return
        release, publication = found_release
        asked = dict(scope["headers"])
        # Django has allowed this host, and this way of asking, at least once.
        encoding = b"gzip" in asked.get(b"accept-encoding", b"")
        key = (page[1], release, scope.get("scheme"), asked.get(b"host"), asked.get(b"x-forwarded-proto"), encoding)
        found = self.answers.get(key)
        if found is None and key in self._making:
            # Many come at once when a link is sent round: the first has it made, the others wait for that.
            await self._making[key].wait()
            found = self.answers.get(key)
        if found is None:
            await self._made(key, scope, receive, send)
            return
        if openings.is_opening(asked.get(b"sec-fetch-dest", b"").decode("latin-1")):
            openings.count(publication)
            self._write_down()
        is_same = is_unchanged(asked.get(b"if-none-match", b"").decode("latin-1"), found.tag.decode("latin-1"))
        headers = found.unchanged if is_same else found.headers
        await send({"type": "http.response.start", "status": 304 if is_same else 200, "headers": headers})
        await send({"type": "http.response.body", "body": b"" if is_same else found.body})

    def _write_down(self) -> None:
        """Let the openings of a few seconds be written down together."""
        if self._writing is None or self._writing.done():
            self._writing = asyncio.create_task(_write_down_soon())

    async def _made(self, key: _Key, scope: Message, receive: Receive, send: Send) -> None:
        """Let Django answer, and keep the answer for those that come after."""
        done = self._making.setdefault(key, asyncio.Event())
        try:
            await self.application(scope, receive, _Recorder(send, lambda answer: self.answers.put(key, answer)).take)
        finally:
            done.set()
            self._making.pop(key, None)


async def _write_down_soon() -> None:
    await asyncio.sleep(_WRITE_EVERY_S)
    await asyncio.to_thread(openings.write_down)


def _latest_release(token: str) -> tuple[int, int] | None:
    """Return the number of the release that readers of a link see, and that of its publication. None leaves it to
    Django: no such link, one that is not for everybody, nothing made yet, or the first reader of a day."""
    try:
        with connection.cursor() as cursor:
            cursor.execute(_LATEST, [token, connection.ops.adapt_datetimefield_value(timezone.now())])
            row = cursor.fetchone()
    except DatabaseError:
        connection.close()
        return None
    return (int(row[0]), int(row[2])) if row and str(row[1]) == timezone.localdate().isoformat() else None


class _Lookups:
    """Looks up which release is the latest. Many ask at once when there is another: those who come before a look
    begins share it, so that nobody is told what was so before they asked."""

    def __init__(self) -> None:
        self._looks: dict[str, _Look] = {}

    async def latest(self, token: str) -> tuple[int, int] | None:
        last = self._looks.get(token)
        if last is None or last.has_begun:
            last = self._looks[token] = _Look(token, last)
        try:
            return await asyncio.shield(last.task)
        finally:
            if last.task.done() and self._looks.get(token) is last:
                del self._looks[token]


class _Look:
    """A look at the latest release, which begins when the one before it has ended."""

    def __init__(self, token: str, before: _Look | None) -> None:
        self.has_begun = False
        self.task = asyncio.create_task(self._look(token, before))

    async def _look(self, token: str, before: _Look | None) -> tuple[int, int] | None:
        if before is not None:
            await asyncio.wait([before.task])
        self.has_begun = True
        return await asyncio.to_thread(_latest_release, token)


class _Recorder:
    """Passes an answer on, and keeps it where it is a page for everybody."""

    def __init__(self, send: Send, keep: Callable[[Answer], object]) -> None:
        self._send = send
        self._keep = keep
        self._start: Message = {}
        self._body = bytearray()

    async def take(self, message: Message) -> None:
        await self._send(message)
        if message["type"] == "http.response.start":
            self._start = message
        elif message["type"] == "http.response.body":
            self._body += message.get("body", b"")
            if not message.get("more_body", False):
                self._finish()

    def _finish(self) -> None:
        headers = [(name.lower(), value) for name, value in self._start["headers"]]
        tag = dict(headers).get(b"etag")
        is_for_all = self._start["status"] == 200 and not any(name == b"set-cookie" for name, _ in headers)
        if is_for_all and tag:
            self._keep(Answer(headers, bytes(self._body), tag))
