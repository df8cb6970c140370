"""Server-sent events (WHATWG, HTML, 9.2): a state is told to all windows that look on, whenever it is another one."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator, Callable
from typing import Generic, TypeVar

from asgiref.sync import sync_to_async
from django.http import StreamingHttpResponse

# How often a state is asked for, however many look on; after how long a window hears that the line still stands.
EVERY_S = 0.4
_STILL_S = 15
# A window asks anew after this: so connections do not stay for ever where somebody went away unheard.
_LONGEST_S = 300
_MOST_KNOWN = 1_000

State = TypeVar("State")


class Watch(Generic[State]):
    """Tells the state of things by their ids; ``ask`` looks it up, and ``is_last`` says whether no other can follow."""

    def __init__(self, ask: Callable[[int], State], is_last: Callable[[State], bool] = lambda _: False) -> None:
        self._ask, self._is_last = ask, is_last
        self._known: dict[int, tuple[float, State]] = {}

    async def events(self, thing: int) -> AsyncIterator[str]:
        """Yield the state of a thing as it is, and then whenever it is another one."""
        said: State | None = None
        is_new = True
        begun = heard = time.monotonic()
        while time.monotonic() - begun < _LONGEST_S:
            now = await self.now(thing)
            if is_new or now != said:
                said, is_new, heard = now, False, time.monotonic()
                yield f"data: {json.dumps(now)}\n\n"
                if self._is_last(now):
                    return
            elif time.monotonic() - heard > _STILL_S:
                heard = time.monotonic()
                yield ": still here\n\n"
            await asyncio.sleep(EVERY_S)

    async def now(self, thing: int) -> State:
        """Return the state of a thing; for all windows of this process it is asked for once in a while."""
        known = self._known.get(thing)
        if known is not None and time.monotonic() - known[0] < EVERY_S * 0.9:
            return known[1]
        if known is not None:
            # Others of this moment take what is known.
            self._known[thing] = (time.monotonic(), known[1])
        now: State = await sync_to_async(self._ask)(thing)
        if len(self._known) > _MOST_KNOWN:
            self._known.clear()
        self._known[thing] = (time.monotonic(), now)
        return now


def event_stream(events: AsyncIterator[str]) -> StreamingHttpResponse:
    """Answer with events as they come: nothing on the way may gather or keep them."""
    reply = StreamingHttpResponse(events, content_type="text/event-stream")
    reply["Content-Encoding"] = "identity"
    reply["Cache-Control"] = "private, no-store"
    reply["X-Accel-Buffering"] = "no"
    return reply
