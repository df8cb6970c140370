"""Server-sent events (WHATWG, HTML, 9.2): a state is told to all windows that look on, whenever it is another one."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator, Callable
from contextlib import suppress
from typing import Generic, TypeVar

from django.db import DatabaseError
from django.http import StreamingHttpResponse

# How often a state is asked for, however many look on; after how long a window hears that the line still stands.
EVERY_S = 0.4
_STILL_S = 15
# A window asks anew after this: so connections do not stay for ever where somebody went away unheard.
_LONGEST_S = 300

State = TypeVar("State")


class _Line(Generic[State]):
    """What the windows that look on at one thing hear: the states that it had, counted, and the present one."""

    def __init__(self) -> None:
        self.loop = asyncio.get_running_loop()
        self.windows = 0
        # There is a state once there were any.
        self.count = 0
        self.state: State
        self.is_cut = False
        self.look = asyncio.Event()
        self._told = asyncio.Event()
        self.watching: asyncio.Task[None] | None = None

    def tell(self, state: State) -> None:
        if not self.count or state != self.state:
            self.state = state
            self.count += 1
            self._wake()

    def cut(self) -> None:
        self.is_cut = True
        self._wake()

    def _wake(self) -> None:
        told, self._told = self._told, asyncio.Event()
        told.set()

    async def waits(self, seconds: float) -> bool:
        """Wait until something is told, at most so long; tell whether it was."""
        told = self._told
        with suppress(TimeoutError):
            async with asyncio.timeout(seconds):
                await told.wait()
        return told.is_set()


class Watch(Generic[State]):
    """Tells the state of things by their ids; ``ask`` looks it up, and ``is_last`` says whether no other can follow."""

    def __init__(self, ask: Callable[[int], State], is_last: Callable[[State], bool] = lambda _: False) -> None:
        self._ask, self._is_last = ask, is_last
        self._lines: dict[int, _Line[State]] = {}

    async def events(self, thing: int) -> AsyncIterator[str]:
        """Yield the state of a thing as it is, and then whenever it is another one."""
        line = self._line(thing)
        line.windows += 1
        heard, ends = 0, time.monotonic() + _LONGEST_S
        try:
            while (left := ends - time.monotonic()) > 0 and not line.is_cut:
                if heard == line.count and not await line.waits(min(_STILL_S, left)):
                    yield ": still here\n\n"
                elif heard != line.count:
                    heard, now = line.count, line.state
                    yield f"data: {json.dumps(now)}\n\n"
                    if self._is_last(now):
                        return
        finally:
            line.windows -= 1
            if not line.windows:
                self._end(thing, line)

    def look(self, thing: int) -> None:
        """Let a thing be looked at now, as it was changed here; from any thread."""
        line = self._lines.get(thing)
        if line is not None:
            # Where the server is being shut down nobody looks on.
            with suppress(RuntimeError):
                line.loop.call_soon_threadsafe(line.look.set)

    def _line(self, thing: int) -> _Line[State]:
        line = self._lines.get(thing)
        if line is None or line.is_cut or line.loop is not asyncio.get_running_loop():
            line = self._lines[thing] = _Line()
            line.watching = asyncio.create_task(self._watch(thing, line))
        return line

    def _end(self, thing: int, line: _Line[State]) -> None:
        if self._lines.get(thing) is line:
            del self._lines[thing]
        if line.watching is not None:
            line.watching.cancel()

    async def _watch(self, thing: int, line: _Line[State]) -> None:
        """Look at a thing every while, for all windows of this process, and at once where it was changed here."""
        try:
            while True:
                line.look.clear()
                # A database that cannot answer now is asked again.
                with suppress(DatabaseError):
                    line.tell(await asyncio.to_thread(self._ask, thing))
                with suppress(TimeoutError):
                    async with asyncio.timeout(EVERY_S):
                        await line.look.wait()
        finally:
            line.cut()


def event_stream(events: AsyncIterator[str]) -> StreamingHttpResponse:
    """Answer with events as they come: nothing on the way may gather or keep them."""
    reply = StreamingHttpResponse(events, content_type="text/event-stream")
    reply["Content-Encoding"] = "identity"
    reply["Cache-Control"] = "private, no-store"
    reply["X-Accel-Buffering"] = "no"
    return reply
