"""The ASGI application: Django behind a guard that refuses bodies which are too large."""

import os
from collections.abc import Awaitable, Callable
from typing import Any

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ypsil.web.settings")

from django.core.asgi import get_asgi_application

from ypsil.core.tables.limits import MAX_UPLOAD_BYTES

# A form around a file of the largest size.
MAX_BODY_BYTES = MAX_UPLOAD_BYTES + 1024 * 1024
# A larger body is read and thrown away up to here, so that the browser shows the answer.
DRAINED_BYTES = 1024**3
TOO_LARGE = (
    "<!doctype html><html lang=en><title>Too large · Ypsil</title><h1>The file is too large</h1>"
    f"<p>At most {MAX_UPLOAD_BYTES // 1024**2} MB are taken in. Nothing was stored. Split the file, or leave out "
    'the columns you do not need.</p><p><a href="/tables/new/">Choose another file</a></p></html>'
).encode()

Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]


class BodyGuard:
    """Refuses bodies over the limit by their announced length, or as soon as they grow past it."""

    def __init__(self, application: Any, limit: int = MAX_BODY_BYTES) -> None:
        self.application = application
        self.limit = limit

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.application(scope, receive, send)
            return
        headers = dict(scope["headers"])
        announced = headers.get(b"content-length", b"0")
        if announced.isdigit() and int(announced) > self.limit:
            await self._drain(receive)
            await self._refuse(send)
            return
        seen = 0

        async def counted() -> Message:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            # Django answers a client that went away with nothing at all, and stores nothing.
            return message if seen <= self.limit else {"type": "http.disconnect"}

        await self.application(scope, counted, send)

    async def _drain(self, receive: Receive) -> None:
        read, more = 0, True
        while more and read < DRAINED_BYTES:
            message = await receive()
            read += len(message.get("body", b""))
            more = message.get("more_body", False)

    async def _refuse(self, send: Send) -> None:
        headers = [(b"content-type", b"text/html; charset=utf-8"), (b"content-length", str(len(TOO_LARGE)).encode())]
        await send({"type": "http.response.start", "status": 413, "headers": headers})
        await send({"type": "http.response.body", "body": TOO_LARGE})


def _application() -> BodyGuard:
    django = get_asgi_application()
    # What it asks the database is known to Django only now.
    from ypsil.web.publish.gate import ReadersGate
    from ypsil.web.publish.in_turn import CHOSEN, FILES, InTurn

    return BodyGuard(ReadersGate(InTurn(InTurn(django, FILES), CHOSEN)))


application = _application()
